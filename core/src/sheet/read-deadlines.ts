import { remembered } from '../base/index.js';
import { findDates, findLoneZones, findTimes, type DateFound, type TimeFound } from './find-dates.js';
import type { Found } from './found.js';
import type { Deadline, DeadlineKind, SheetQuestion } from './model.js';

const KINDS: readonly (readonly [RegExp, DeadlineKind])[] = [
  [
    /\blate\s+(?:registrations?|entr(?:y|ies)|applications?|fees?|enrol\w*)|\bwith\s+(?:a\s+)?late\s+fee/iu,
    'late registration',
  ],
  [
    /\bresults?\b|\bnotif\w*|\bannounce\w*|\bacceptance|\bplacements?\b|\b(?:list|lists|rosters?)\b.*\bposted/iu,
    'results',
  ],
  [
    /\brecord(?:ings?|ed)\b|\bupload\w*|\bvideos?\b|\bsubmi\w+|\bpre-?screening|\baudio\b|\beverything\b/iu,
    'recording',
  ],
  [
    /\bregist\w*|\bappl(?:y|ications?)\b|\bentr(?:y|ies)\b|\benter\b|\bsign(?:ing)?[- ]?ups?\b|\bslots?\b|\bpostmarked\b|\benrol\w*|\bforms?\b|\bclosing\s+dates?\b/iu,
    'registration',
  ],
  [
    /\bauditions?\b|\bexam(?:ination)?s?\b|\bperform(?:s|ance|ances)?\b|\bcall-?backs?\b|\blive\b|\badjudicat\w*|\bfinals?\b|\bweekend\b|\bhear\b/iu,
    'audition',
  ],
];

/** A date of a sheet with its question, and where it stands. Units: characters of the sentence. */
export interface DeadlineRead {
  readonly deadline: Deadline;
  readonly question: SheetQuestion | null;
  readonly timeQuestion: SheetQuestion | null;
  readonly start: number;
  readonly end: number;
}

/**
 * Reads the dates of a sentence: what each is for, its time and its zone as printed.
 * Shape:  the day on which something opens is no deadline and is left out
 * Units:  characters of the sentence; dashes must be plain "-"
 * Source: common practice, no source
 */
export const readDeadlines = remembered((plain: string, printed: string): readonly DeadlineRead[] =>
  deadlinesIn(plain, printed),
);

function deadlinesIn(plain: string, printed: string): DeadlineRead[] {
  const dates = findDates(plain);
  if (dates.length === 0) return [];
  const times = findTimes(blank(plain, dates));
  const zones = findLoneZones(blank(plain, times));
  const used = new Set<Found<TimeFound>>();
  let last: DeadlineKind | null = null;
  return dates.flatMap((date, n) => {
    const from = dates[n - 1]?.end ?? 0;
    const to = dates[n + 1]?.start ?? plain.length;
    const before = plain.slice(from, date.start);
    const what: DeadlineKind =
      whatOf(before) ??
      (n > 0 ? last : null) ??
      whatOf(plain.slice(date.end, to)) ??
      whatOf(plain) ??
      'other';
    last = what;
    if (/\bopens?\b[^.;]*$/iu.test(before) && !/\bclos/iu.test(before)) return [];
    const time = timeFor(date, { times: times.filter((one) => !used.has(one)), from, to });
    if (time) used.add(time);
    const zone =
      time?.value.zone ?? zones.find(({ start, end }) => start >= from && end <= to)?.value ?? null;
    const { date: day } = date.value;
    return [
      {
        deadline: { what, date: day, time: time?.value.time ?? null, zone, text: printed.trim() },
        question: dateQuestion(date.value, what, printed.slice(date.start, date.end)),
        timeQuestion: time ? timeQuestion(time.value, what) : null,
        start: date.start,
        end: date.end,
      },
    ];
  });
}

/** What a text says a date is for. Shape: null where it says nothing. */
export function whatOf(text: string): DeadlineKind | null {
  return KINDS.find(([pattern]) => pattern.test(text))?.[1] ?? null;
}

function blank(plain: string, found: readonly { readonly start: number; readonly end: number }[]): string {
  return found.reduce(
    (text, { start, end }) => `${text.slice(0, start)}${'\uE000'.repeat(end - start)}${text.slice(end)}`,
    plain,
  );
}

/** The time behind a date, or else the one in front of it. */
function timeFor(
  date: Found<DateFound>,
  {
    times,
    from,
    to,
  }: { readonly times: readonly Found<TimeFound>[]; readonly from: number; readonly to: number },
): Found<TimeFound> | null {
  return (
    times.find(({ start, end }) => start >= date.end && end <= to) ??
    times.find(({ start, end }) => start >= from && end <= date.start) ??
    null
  );
}

function dateQuestion(
  { doubt, date, candidates }: DateFound,
  what: DeadlineKind,
  printed: string,
): SheetQuestion | null {
  const about = `deadlines[${what}]/date`;
  const partId = null;
  switch (doubt) {
    case null:
      return null;
    case 'year-missing':
      return { partId, about, ask: `"${printed}" has no year. Which year is meant?`, candidates };
    case 'day-or-month-first':
      return {
        partId,
        about,
        ask: `"${printed}" can be read month first or day first. Which day is meant?`,
        candidates,
      };
    case 'weekday-wrong':
      return {
        partId,
        about,
        ask: `"${printed}": that day is not the weekday printed. Which one holds?`,
        candidates: [date],
      };
    case 'no-such-day':
      return {
        partId,
        about,
        ask: `"${printed}" is no day of the calendar. Which day is meant?`,
        candidates,
      };
    case 'not-a-day':
      return { partId, about, ask: `"${printed}" names no single day. Which day is it?`, candidates };
  }
}

/** The question that a printed time raises: midnight, or an hour without a.m. or p.m. */
export function timeQuestion({ doubt }: TimeFound, what: DeadlineKind): SheetQuestion | null {
  const about = `deadlines[${what}]/time`;
  const partId = null;
  if (doubt === 'midnight')
    return {
      partId,
      about,
      ask: 'Midnight at the beginning or at the end of the day?',
      candidates: ['00:00', '23:59'],
    };
  if (doubt === 'half-day')
    return { partId, about, ask: 'The hour has no a.m. or p.m. Which one is meant?', candidates: [] };
  return null;
}
