import { SLIPS_LEAD_BELOW } from '@vivid-cue/core/readiness';

/**
 * Days to a date as people say them.
 * Shape:  "today", "tomorrow", "17 days", "3 days ago"
 * Units:  calendar days
 */
export function daysText(days: number): string {
  if (days === 0) return 'today';
  if (days === 1) return 'tomorrow';
  return days < 0 ? `${-days} days ago` : `${days} days`;
}

/**
 * A chance in whole percent, without claiming certainty.
 * Shape:  "<1", "1"…"99", ">99"
 * Units:  percent
 */
export function percentText(chance: number): string {
  if (chance < 0.005) return '<1';
  return chance > 0.995 ? '>99' : String(Math.round(chance * 100));
}

/** A readiness in two pieces: the number, and what it counts. Shape: null where nothing is known. */
export interface ReadinessNumber {
  readonly number: string;
  readonly unit: string;
}

/**
 * A readiness as a page shows it: the chance, or the expected slips where the chance is under five in a hundred.
 * Shape:  null where nothing is known
 * Units:  chance 0 to 1; slips a run
 */
export function readinessNumber({
  chance,
  expectedSlips,
}: {
  readonly chance: number | null;
  readonly expectedSlips: number | null;
}): ReadinessNumber | null {
  if (chance === null) return null;
  return chance < SLIPS_LEAD_BELOW && expectedSlips !== null
    ? { number: expectedSlips.toFixed(1), unit: 'slips a run' }
    : { number: percentText(chance), unit: '%' };
}

/**
 * Seconds as people read them.
 * Shape:  "8.3 s" below a minute, "1:06" above
 * Units:  seconds
 */
export function secondsText(seconds: number): string {
  if (seconds < 59.95) return `${seconds.toFixed(1)} s`;
  return clockText(Math.round(seconds));
}

/** A clock of minutes and seconds. Units: whole seconds */
export function clockText(seconds: number): string {
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
}

/**
 * A calendar day as people read it, without its year where that is clear.
 * Shape:  "Sat 16 Jan 2027"
 */
export function dayText(date: string): string {
  return new Intl.DateTimeFormat('en-GB', {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    year: 'numeric',
    timeZone: 'UTC',
  }).format(new Date(`${date}T12:00:00Z`));
}

/** A calendar day of this season. Shape: "16 Jan" */
export function shortDay(date: string): string {
  return new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', timeZone: 'UTC' }).format(
    new Date(`${date}T12:00:00Z`),
  );
}

/** An instant as its day and time on this device: "Nov 28, 7:40 PM". Units: milliseconds since 1970 */
export function momentText(at: number): string {
  return new Intl.DateTimeFormat('en', {
    month: 'short',
    day: 'numeric',
    hour: 'numeric',
    minute: '2-digit',
  }).format(at);
}
