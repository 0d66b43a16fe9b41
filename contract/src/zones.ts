import { TZDate } from '@date-fns/tz';
import { differenceInCalendarDays } from 'date-fns';

/**
 * Whether a name is a time zone of the IANA database.
 * Shape:  false for offsets and made-up names
 * Units:  none
 * Errors: none
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
 * Errors: none
 * Source: IANA time zone database through @date-fns/tz
 */
export function instantOf({ date, time, zone }: PublishedMoment): number {
  const [year = 1970, month = 1, day = 1] = date.split('-').map(Number);
  const [hour = 23, minute = 59] = time === null ? [] : time.split(':').map(Number);
  return new TZDate(year, month - 1, day, hour, minute, time === null ? 59 : 0, zone).getTime();
}

/**
 * Days from today to an instant by the calendar on the studio's wall; negative once it is past.
 * Shape:  0 on the day itself
 * Units:  calendar days
 * Errors: none
 * Source: none
 */
export function daysLeft(instantMs: number, nowMs: number, studioZone: string): number {
  return differenceInCalendarDays(new TZDate(instantMs, studioZone), new TZDate(nowMs, studioZone));
}

/**
 * The running number of a calendar day in a zone, for counting practice days.
 * Shape:  days since 1970-01-01
 * Units:  days
 * Errors: none
 * Source: none
 */
export function dayNumber(instantMs: number, zone: string): number {
  const local = new TZDate(instantMs, zone);
  return Math.round(Date.UTC(local.getFullYear(), local.getMonth(), local.getDate()) / 86_400_000);
}
