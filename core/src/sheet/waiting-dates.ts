import { plainSigns } from '../base/index.js';
import { findDates, isDay, printedWeekday, weekdayOf } from './find-dates.js';

/** In a season of two years the months from here on are of the first. Common practice, no source. */
const SEASON_BEGINS = 8;
const SEASON_ENDS = 6;

/** A day as it stands on a sheet. Shape: ISO days; `endDate` null for one day */
export interface WaitingDate {
  readonly date: string;
  readonly endDate: string | null;
}

/**
 * The days that a printed date without its year means in a year, a season ("2026-27") or near a whole date.
 * Shape:  null where the text has no such date, or where the season leaves the year open; a weekday that is printed
 *         decides among the year and those beside it
 * Source: ISO 8601; weekdays by the Gregorian calendar
 */
export function dateInYear(printed: string, answer: string): WaitingDate | null {
  const plain = plainSigns(printed);
  const found = findDates(plain).find(({ value }) => value.doubt === 'year-missing')?.value.date;
  const years = yearsIn(answer);
  if (!found || years.length === 0) return null;
  const [from = '', to = null] = found.split('/');
  const year = yearOf(from, printedWeekday(plain), years);
  if (year === null) return null;
  const date = inYear(from, year);
  const endDate = to === null ? null : inYear(to, to < from ? year + 1 : year);
  return isDay(date) && (endDate === null || isDay(endDate)) ? { date, endDate } : null;
}

/** The years that a text names first: one, the two of a season, or none. */
export function yearsIn(answer: string): number[] {
  const match = /(?<!\d)(20\d\d)(?:\s*[-–/]\s*(?:20)?(\d\d)(?![\d-]))?/u.exec(answer);
  if (!match) return [];
  const first = Number(match[1]);
  return match[2] !== undefined && Number(match[2]) === (first + 1) % 100 ? [first, first + 1] : [first];
}

function yearOf(day: string, weekday: string | null, years: readonly number[]): number | null {
  const [first = 0, second] = years;
  if (weekday !== null) {
    const near = second === undefined ? [first, first - 1, first + 1] : years;
    return near.find((year) => weekdayOf(inYear(day, year)) === weekday) ?? null;
  }
  if (second === undefined) return first;
  const month = Number(day.slice(2, 4));
  return month >= SEASON_BEGINS ? first : month <= SEASON_ENDS ? second : null;
}

function inYear(day: string, year: number): string {
  return `${year}${day.slice(1)}`;
}
