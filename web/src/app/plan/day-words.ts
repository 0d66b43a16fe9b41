export { shortDay as shortDate } from '../ui/texts';
import type { CalendarDay } from '@vivid-cue/core/plan';

function written(date: CalendarDay, options: Intl.DateTimeFormatOptions): string {
  return new Intl.DateTimeFormat('en-GB', { ...options, timeZone: 'UTC' }).format(
    new Date(`${date}T12:00:00Z`),
  );
}

/** Shape: "Saturday, 28 November" */
export function longDate(date: CalendarDay): string {
  return written(date, { weekday: 'long', day: 'numeric', month: 'long' });
}

/** Shape: "Sat" */
export function weekdayWord(date: CalendarDay): string {
  return written(date, { weekday: 'short' });
}

/** The Monday on or before a day. Units: days since 1970, which began on a Thursday */
export function mondayOf(day: number): number {
  return day - ((((day - 4) % 7) + 7) % 7);
}

/** How a whole that is played is called, shortly. */
export const RUN_NAMES: Readonly<Record<string, string>> = {
  'first-run': 'first run',
  run: 'run',
  assembly: 'all together',
  mock: 'as on the day',
  take: 'take',
};
