import type { Found } from './found.js';

const MONTHS = [
  'january',
  'february',
  'march',
  'april',
  'may',
  'june',
  'july',
  'august',
  'september',
  'october',
  'november',
  'december',
];
const MONTH =
  '(?:jan(?:uary|\\.)?|feb(?:ruary|\\.)?|mar(?:ch|\\.)?|apr(?:il|\\.)?|may|june?\\.?|july?\\.?|aug(?:ust|\\.)?|sept?(?:ember|\\.)?|oct(?:ober|\\.)?|nov(?:ember|\\.)?|dec(?:ember|\\.)?)(?![\\p{L}])';
const WEEKDAY =
  '(?:(?<weekday>mon(?:day)?|tue(?:s(?:day)?)?|wed(?:nesday)?|thu(?:r(?:s(?:day)?)?)?|fri(?:day)?|sat(?:urday)?|sun(?:day)?)\\.?,?\\s+(?:the\\s+)?)?';
const ANY_WEEKDAY = '(?:(?:mon|tues?|wed(?:nes)?|thu(?:rs)?|fri|sat(?:ur)?|sun)(?:day)?\\.?,?\\s+)?';
const DAY = (name: string): string => `(?<${name}>[0-3]?\\d)(?:st|nd|rd|th)?(?![\\d:]|\\s*[ap]\\.?m)`;
const YEAR = (name: string): string => `(?:,?\\s+(?:of\\s+)?(?<${name}>20\\d\\d)(?!\\s*-\\s*\\d{2}))`;
const TO = '\\s*(?:-|to|through|thru|until|and|&)\\s*';

const PATTERNS = [
  // October 14–16, 2026; October 30 to November 2, 2026; March 6, 2027
  `${WEEKDAY}(?<month>${MONTH})\\s+${DAY('day')}(?:${YEAR('yearA')}?(?:${TO}(?:and\\s+)?${ANY_WEEKDAY}(?:(?<month2>${MONTH})\\s+)?${DAY('day2')}))?${YEAR('year')}?`,
  // 6 and 7 March 2027; 30 October to 2 November 2026; 12 February
  `${WEEKDAY}${DAY('day')}(?:\\s+of)?(?:\\s+(?<monthA>${MONTH})${YEAR('yearA')}?)?${TO}${ANY_WEEKDAY}${DAY('day2')}(?:\\s+of)?\\s+(?<month>${MONTH})${YEAR('year')}?`,
  `${WEEKDAY}${DAY('day')}(?:\\s+of)?\\s+(?<month>${MONTH})${YEAR('year')}?`,
];
const WORDED = PATTERNS.map(
  (pattern) =>
    new RegExp(
      `(?<![\\w/])(?<before>week\\s+of\\s+|week\\s+(?:beginning|commencing|starting)\\s+)?${pattern}`,
      'giu',
    ),
);
const VAGUE = new RegExp(
  `(?<![\\w])(?:the\\s+)?(?:(?:first|second|third|fourth|last)\\s+(?:mon|tues|wednes|thurs|fri|satur|sun)day\\s+(?:in|of)\\s+${MONTH}|(?:early|mid|late)[- ]${MONTH}|(?:(?:one|two|three|four|six|\\d+)\\s+(?:weeks?|days?|months?)\\s+(?:before|after|prior\\s+to)\\s+(?:the\\s+)?\\w+(?:\\s+\\w+)?)|(?<!\\d\\s|of\\s)${MONTH}(?=\\s+20\\d\\d))(?:,?\\s+20\\d\\d)?`,
  'giu',
);
const ISO = /(?<![\d-])(20\d\d)-(\d\d)-(\d\d)(?![\d-])(?:\s*(?:\/|to|through)\s*(20\d\d)-(\d\d)-(\d\d))?/gu;
/** A month's name, or two numbers with a date's sign between: without one there is no date. */
const HINT =
  /(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)\p{L}*\.?[ ,]|\d[a-z]* (?:of )?(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)|(?:jan|feb|mar|apr|may|june?|july?|aug|sept?|oct|nov|dec)\p{L}*\.?$|\d[/.-]\d{1,2}[/.-]\d|(?:weeks?|days?|months?) (?:before|after|prior)/iu;
/** Without a month's name or a count of weeks only numbers can be dates. */
const MONTH_HINT =
  /(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)|(?:weeks?|days?|months?) (?:before|after|prior)/iu;
const NUMERIC =
  /(?<![\d/.])(\d{1,2})([/.])(\d{1,2})\2(20\d\d|\d\d)(?![\d/])(?:\s*(?:-|to|through|and)\s*(\d{1,2})\2(\d{1,2})\2(20\d\d|\d\d)(?![\d/]))?/gu;

/** Why a date needs a person. */
export type DateDoubt = 'year-missing' | 'day-or-month-first' | 'weekday-wrong' | 'not-a-day' | 'no-such-day';

/**
 * A date as found.
 * Shape:  ISO day, `--MM-DD` without a year, `a/b` for an interval, null where it is no calendar day; `candidates` where
 *         a person must choose
 * Source: ISO 8601
 */
export interface DateFound {
  readonly date: string | null;
  readonly doubt: DateDoubt | null;
  readonly candidates: readonly string[];
}

/**
 * Finds calendar dates in US, UK, ISO and numeric print.
 * Shape:  in the order they stand; numeric dates with two readings come with both
 * Units:  dashes must be plain "-"
 * Source: common practice; ISO 8601
 */
export function findDates(plain: string): Found<DateFound>[] {
  if (!HINT.test(plain)) return [];
  const found: Found<DateFound>[] = [];
  // "3 oct." of a scale is no day of October.
  let rest = plain.replace(/(?<![\d/.-])[1-4]\s*oct\b\.?(?!\s*,?\s*(?:20)?\d\d)/gu, (text) =>
    '\uE000'.repeat(text.length),
  );
  const add = (match: RegExpMatchArray, value: DateFound): void => {
    const start = match.index ?? 0;
    const end = start + match[0].trimEnd().length;
    found.push({ value, start, end });
    rest = `${rest.slice(0, start)}${'\uE000'.repeat(end - start)}${rest.slice(end)}`;
  };
  for (const match of plain.matchAll(ISO)) {
    const [from, to] = [match.slice(1, 4).map(Number), match.slice(4, 7).map(Number)];
    add(match, checked(iso(from), match[4] === undefined ? null : iso(to), null));
  }
  for (const match of rest.matchAll(NUMERIC)) add(match, numeric(match));
  if (!MONTH_HINT.test(rest)) return found.sort((a, b) => a.start - b.start);
  for (const pattern of WORDED)
    for (const match of rest.matchAll(pattern))
      // "Students in grades 9 through 12 may audition" names no day of May.
      if (!/(?:^|\d\s)may(?:\s|$)/u.test(match[0])) add(match, worded(match.groups ?? {}));
  for (const match of rest.matchAll(VAGUE)) add(match, { date: null, doubt: 'not-a-day', candidates: [] });
  return found.sort((a, b) => a.start - b.start);
}

function pad(number: number): string {
  return String(number).padStart(2, '0');
}

function iso([year = 0, month = 0, day = 0]: readonly number[]): string {
  return `${year}-${pad(month)}-${pad(day)}`;
}

/** Whether an ISO day exists; one without a year may be 29 February. */
export function isDay(date: string): boolean {
  const match = /^(\d{4}|-)-(\d\d)-(\d\d)$/u.exec(date);
  if (!match) return false;
  const year = match[1] === '-' ? 2024 : Number(match[1]);
  const day = new Date(Date.UTC(year, Number(match[2]) - 1, Number(match[3])));
  return day.getUTCMonth() === Number(match[2]) - 1 && day.getUTCDate() === Number(match[3]);
}

function checked(from: string, to: string | null, weekday: string | null): DateFound {
  if (!isDay(from) || (to !== null && !isDay(to)))
    return { date: null, doubt: 'no-such-day', candidates: [] };
  const date = to === null ? from : `${from}/${to}`;
  if (from.startsWith('-')) return { date, doubt: 'year-missing', candidates: [] };
  const isOff = weekday !== null && weekdayOf(from) !== weekday.slice(0, 3).toLowerCase();
  return { date, doubt: isOff ? 'weekday-wrong' : null, candidates: isOff ? [from] : [] };
}

const PRINTED_WEEKDAY = /\b(mon|tue|wed|thu|fri|sat|sun)(?:\p{Ll}*day)?\.?,?\s/iu;

/** Three letters of the first weekday that is printed, lower case; null where none is. */
export function printedWeekday(text: string): string | null {
  return PRINTED_WEEKDAY.exec(text)?.[1]?.toLowerCase() ?? null;
}

/** Three letters of the weekday of an ISO day, lower case. */
export function weekdayOf(date: string): string {
  return ['sun', 'mon', 'tue', 'wed', 'thu', 'fri', 'sat'][new Date(`${date}T00:00:00Z`).getUTCDay()] ?? '';
}

function numeric(match: RegExpMatchArray): DateFound {
  const [, a, sign, b, y, a2, b2, y2] = match;
  const read = (isMonthFirst: boolean): string | null => {
    const one = (first: string, second: string, year: string): string =>
      iso([fullYear(year), Number(isMonthFirst ? first : second), Number(isMonthFirst ? second : first)]);
    const from = one(a ?? '', b ?? '', y ?? '');
    const to = a2 === undefined ? null : one(a2, b2 ?? '', y2 ?? '');
    return isDay(from) && (to === null || isDay(to)) ? (to === null ? from : `${from}/${to}`) : null;
  };
  // Dotted dates are written day first.
  const readings = sign === '.' ? [read(false)] : [read(true), read(false)];
  const real = [...new Set(readings.filter((reading) => reading !== null))];
  if (real.length === 1) return { date: real[0] ?? null, doubt: null, candidates: [] };
  return real.length === 0
    ? { date: null, doubt: 'no-such-day', candidates: [] }
    : { date: null, doubt: 'day-or-month-first', candidates: real };
}

function fullYear(text: string): number {
  return text.length === 2 ? 2000 + Number(text) : Number(text);
}

function worded(groups: Readonly<Record<string, string | undefined>>): DateFound {
  if (groups.before !== undefined) return { date: null, doubt: 'not-a-day', candidates: [] };
  const month = monthOf(groups.month ?? '');
  const year = groups.year ?? groups.yearA ?? '-';
  const day = (monthNumber: number, text: string | undefined, inYear: string): string =>
    `${inYear}-${pad(monthNumber)}-${pad(Number(text))}`;
  if (groups.day2 === undefined) return checked(day(month, groups.day, year), null, groups.weekday ?? null);
  const first = groups.monthA === undefined ? month : monthOf(groups.monthA);
  const last = groups.month2 === undefined ? month : monthOf(groups.month2);
  return checked(
    day(first, groups.day, groups.yearA ?? year),
    day(last, groups.day2, year),
    groups.weekday ?? null,
  );
}

function monthOf(text: string): number {
  return MONTHS.findIndex((month) => month.startsWith(text.toLowerCase().replace('.', '').slice(0, 3))) + 1;
}

/** Zones as sheets print them, as a pattern (common practice, no source). */
export const ZONE =
  '(?:(?:Eastern|Central|Mountain|Pacific|Atlantic|Alaska|Hawaii|Newfoundland)(?:\\s+(?:Standard|Daylight|Summer))?(?:\\s+Time)?|(?:British|Central European|Western European|Irish|Greenwich|Coordinated Universal)\\s+(?:Summer\\s+|Mean\\s+|Standard\\s+)?Time|(?:UK|U\\.K\\.|local|island|Icelandic|your local)\\s+time|(?:UTC|GMT)(?:\\s?[+-]\\s?\\d{1,2}(?::\\d\\d)?)?|[ECMPA][SD]?T|AK[SD]T|HST|NST|BST|IST|CES?T|EES?T|WES?T|AE[SD]T|[A-Z][a-z]+/[A-Z][A-Za-z_]+)(?![\\w])';
const TIME = new RegExp(
  `(?<![\\d:./-])(?:(?<hour>\\d{1,2})(?:[:.](?<minute>\\d\\d))?\\s*(?<half>[AaPp]\\.?\\s?[Mm]\\b\\.?)|(?<hour24>\\d{1,2})[:.](?<minute24>\\d\\d)(?!\\d|[/.]\\d)(?:\\s*(?:hours|hrs|h)\\b)?|(?<word>[Nn]oon|NOON|[Mm]idday|[Mm]idnight|MIDNIGHT)|(?<=\\b(?:at|by|before|until)\\s)(?<bare>\\d{1,2})(?:\\s+o'clock)?(?=\\s*(?:[,.;)]|$|on\\b|${ZONE})))(?:,?\\s*\\(?(?<zone>${ZONE})\\)?)?`,
  'gu',
);
const LONE_ZONE = new RegExp(`\\((?<zone>${ZONE})\\)|(?<![\\w])(?<bare>${ZONE})`, 'gu');

/** A time of day as found. Shape: null with a doubt for midnight and for an hour without a.m. or p.m. */
export interface TimeFound {
  readonly time: string | null;
  readonly zone: string | null;
  readonly doubt: 'midnight' | 'half-day' | null;
}

/** Finds times of day with their zone as printed. Shape: 24-hour HH:MM. Units: none. Errors: none. Source: common practice. */
export function findTimes(plain: string): Found<TimeFound>[] {
  if (!/\d|noon|mid(?:day|night)/iu.test(plain)) return [];
  return [...plain.matchAll(TIME)].flatMap((match) => {
    const time = timeOf(match.groups ?? {});
    return time === null ? [] : [{ value: time, start: match.index, end: match.index + match[0].length }];
  });
}

function timeOf(groups: Readonly<Record<string, string | undefined>>): TimeFound | null {
  const zone = groups.zone ?? null;
  if (groups.word !== undefined)
    return /midnight/iu.test(groups.word)
      ? { time: null, zone, doubt: 'midnight' }
      : { time: '12:00', zone, doubt: null };
  if (groups.bare !== undefined) return { time: null, zone, doubt: 'half-day' };
  const [hour, minute] = [
    Number(groups.hour ?? groups.hour24),
    Number(groups.minute ?? groups.minute24 ?? 0),
  ];
  if (minute > 59 || hour > 24) return null;
  if (groups.half !== undefined) {
    if (hour < 1 || hour > 12) return null;
    const isAfternoon = /^p/iu.test(groups.half);
    // 12:00 a.m. is midnight at one end of the day or the other.
    if (hour === 12 && minute === 0 && !isAfternoon) return { time: null, zone, doubt: 'midnight' };
    return { time: `${pad((hour % 12) + (isAfternoon ? 12 : 0))}:${pad(minute)}`, zone, doubt: null };
  }
  if (hour === 24 || (hour === 0 && minute === 0)) return { time: null, zone, doubt: 'midnight' };
  const is24 =
    hour > 12 || hour === 0 || (groups.hour24 ?? '').startsWith('0') || /UTC|GMT/u.test(zone ?? '');
  return is24
    ? { time: `${pad(hour)}:${pad(minute)}`, zone, doubt: null }
    : { time: null, zone, doubt: 'half-day' };
}

/** Finds a zone that stands without a time: "(Central)". Shape: as printed. Units: none. Errors: none. Source: common practice. */
export function findLoneZones(plain: string): Found<string>[] {
  return [...plain.matchAll(LONE_ZONE)].map((match) => ({
    value: match.groups?.zone ?? match.groups?.bare ?? '',
    start: match.index,
    end: match.index + match[0].length,
  }));
}
