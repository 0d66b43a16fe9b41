import { TZDate } from '@date-fns/tz';
import { differenceInCalendarDays } from 'date-fns';

const DAY_MS = 86_400_000;

/**
 * Whether a name is a time zone of the IANA database.
 * Shape:  false for offsets and made-up names
 * Source: ECMA-402, Intl.DateTimeFormat
 */
export function isZone(name: string): boolean {
  if (!/^[A-Za-z]/u.test(name)) return false;
  try {
    new Intl.DateTimeFormat('en', { timeZone: name });
    return true;
  } catch {
    return false;
  }
}

/** A date as a sheet publishes it: calendar day, time of day if stated, the body's zone. */
export interface PublishedMoment {
  readonly date: string;
  readonly time: string | null;
  readonly zone: string;
}

/**
 * The instant a published moment means; a day without a time lasts to its end.
 * Shape:  milliseconds since 1970; daylight-saving changes of the zone are honoured
 * Units:  milliseconds
 * Source: IANA time zone database through @date-fns/tz
 */
export function instantOf({ date, time, zone }: PublishedMoment): number {
  const [year = 1970, month = 1, day = 1] = date.split('-').map(Number);
  const [hour = 23, minute = 59] = time === null ? [] : time.split(':').map(Number);
  return new TZDate(year, month - 1, day, hour, minute, time === null ? 59 : 0, zone).getTime();
}

/**
 * Days from today to a published moment by the calendar on the studio's wall; negative once it is past. A day without a
 * time of day is that day of the calendar wherever it is read: it counts the same in every zone.
 * Shape:  0 on the day itself
 * Units:  calendar days
 */
export function daysLeft(moment: PublishedMoment, nowMs: number, studioZone: string): number {
  if (moment.time !== null)
    return differenceInCalendarDays(new TZDate(instantOf(moment), studioZone), new TZDate(nowMs, studioZone));
  return Math.round(Date.parse(`${moment.date}T00:00:00Z`) / DAY_MS) - dayNumber(nowMs, studioZone);
}

/**
 * The running number of a calendar day in a zone, for counting practice days.
 * Shape:  days since 1970-01-01
 * Units:  days
 */
export function dayNumber(instantMs: number, zone: string): number {
  const quarter = Math.floor(instantMs / QUARTER_MS);
  const last = lastDays.get(zone);
  if (last?.quarter === quarter) return last.day;
  const local = new TZDate(instantMs, zone);
  const day = Math.round(Date.UTC(local.getFullYear(), local.getMonth(), local.getDate()) / DAY_MS);
  if (instantMs >= WHOLE_QUARTERS_FROM_MS) lastDays.set(zone, { quarter, day });
  return day;
}

/**
 * Clocks differ by whole quarters of an hour since the last country gave up another offset: in such a quarter no day
 * begins. Many reps fall into one, and asking the zone's rules is most of what a rep's day costs.
 * Source: IANA time zone database, Africa/Monrovia until 1972-01-07
 */
const QUARTER_MS = 900_000;
const WHOLE_QUARTERS_FROM_MS = Date.UTC(1973, 0, 1);

/** The last quarter of an hour asked for in each zone, and its day. */
const lastDays = new Map<string, { readonly quarter: number; readonly day: number }>();

/**
 * The calendar day of an instant in a zone: a lesson on Tuesday evening stays one of Tuesday.
 * Shape: `instant` as ISO 8601 writes it; "2027-03-10"
 */
export function dateIn(instant: string, zone: string): string {
  return new Date(dayNumber(Date.parse(instant), zone) * DAY_MS).toISOString().slice(0, 10);
}

/** Zones as North American and British sheets print them, by their first word (common practice, no source). */
const PRINTED_ZONES: readonly (readonly [RegExp, string])[] = [
  [/^(?:eastern|e[sd]?t\b)/iu, 'America/New_York'],
  [/^(?:central european|ces?t\b)/iu, 'Europe/Berlin'],
  [/^(?:central|c[sd]?t\b)/iu, 'America/Chicago'],
  [/^(?:mountain|m[sd]?t\b)/iu, 'America/Denver'],
  [/^(?:pacific|p[sd]?t\b)/iu, 'America/Los_Angeles'],
  [/^(?:atlantic(?!\/)|a[sd]t\b)/iu, 'America/Halifax'],
  [/^(?:alaska|ak[sd]t\b)/iu, 'America/Anchorage'],
  [/^(?:hawaii|hst\b)/iu, 'Pacific/Honolulu'],
  [/^(?:newfoundland|nst\b)/iu, 'America/St_Johns'],
  [/^(?:british|uk|u\.k\.|bst\b)/iu, 'Europe/London'],
  [/^(?:icelandic)/iu, 'Atlantic/Reykjavik'],
  [/^(?:ees?t\b)/iu, 'Europe/Helsinki'],
  [/^(?:wes?t\b)/iu, 'Europe/Lisbon'],
  [/^(?:utc|gmt|greenwich|coordinated)(?!\s?[+-])/iu, 'UTC'],
];

/**
 * The zone that a printed name stands for.
 * Shape:  an IANA name, or null where the name tells none ("local time")
 * Source: IANA time zone database for the names; the printed ones are common practice
 */
export function zoneOfPrinted(printed: string | null): string | null {
  if (printed === null) return null;
  if (isZone(printed.trim()) && printed.includes('/')) return printed.trim();
  return PRINTED_ZONES.find(([pattern]) => pattern.test(printed.trim()))?.[1] ?? null;
}

/**
 * The moment of a published date that counts: an audition's first day, the last day of everything else.
 * Shape:  null where the sheet names no single day
 * Source: common practice
 */
export function dueMoment(deadline: {
  readonly kind: string;
  readonly date: string | null;
  readonly endDate?: string | null | undefined;
  readonly time: string | null;
  readonly zone: string;
}): PublishedMoment | null {
  const { kind, date, endDate, time, zone } = deadline;
  if (date === null) return null;
  return { date: kind === 'audition' ? date : (endDate ?? date), time, zone };
}
