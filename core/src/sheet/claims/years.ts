import { readHeading } from '../heading.js';
import { printedWeekday, weekdayOf } from '../find-dates.js';
import type { Deadline, SheetQuestion } from '../model.js';
import type { Outline } from '../structure/place.js';
import { yearsIn } from '../waiting-dates.js';
import type { Claims } from './claims.js';

const FIRST: readonly Deadline['what'][] = ['registration', 'recording', 'late registration', 'audition'];

/**
 * Fills the year of dates that name their weekday, where one year of the sheet's season alone fits; asks for the year of
 * the others once, because one answer fills all of them.
 */
export function dateByWeekday(claims: Claims, { head, keyed }: Outline): void {
  const heading = keyed.year ?? readHeading(head, head.map(({ text }) => text).join('\n')).year;
  const years = new Set([
    ...yearsIn(heading ?? ''),
    ...claims.deadlines.flatMap(({ date }) => yearsIn(date?.slice(0, 4) ?? '')),
  ]);
  claims.deadlines.forEach((deadline, n) => {
    const filled = deadline.date?.startsWith('--') === true ? yearFor(deadline, years) : null;
    if (filled !== null) claims.deadlines[n] = { ...deadline, date: filled };
  });
  const open = claims.deadlines.filter(({ date }) => date?.startsWith('--'));
  const first = [...open].sort((a, b) => rank(a) - rank(b))[0];
  const isYear = ({ about, ask }: SheetQuestion): boolean =>
    /\/date$/u.test(about) && /has no year/u.test(ask);
  const kept = claims.questions.filter(
    (question) => !isYear(question) || question.about === `deadlines[${first?.what}]/date`,
  );
  const candidates = seasonsOf(heading);
  const asked = kept.map((question) => (isYear(question) ? { ...question, candidates } : question));
  claims.questions.splice(0, claims.questions.length, ...asked);
}

/** What the sheet's own year may mean for its dates: the season that is printed, or the one that ends in that year. */
function seasonsOf(heading: string | null): string[] {
  const [first, second] = yearsIn(heading ?? '');
  if (first === undefined) return [];
  const season = (from: number): string => `${from}-${String(from + 1).slice(2)}`;
  return second === undefined ? [season(first - 1), String(first)] : [season(first)];
}

function rank({ what }: Deadline): number {
  const at = FIRST.indexOf(what);
  return at < 0 ? FIRST.length : at;
}

/** The date in the only year in which it falls on the weekday printed. */
function yearFor({ date, text }: Deadline, years: ReadonlySet<number>): string | null {
  const weekday = printedWeekday(text);
  if (date === null || weekday === null || date.includes('/')) return null;
  const fitting = [...years]
    .map((year) => `${year}${date.slice(1)}`)
    .filter((day) => weekdayOf(day) === weekday);
  return fitting.length === 1 ? (fitting[0] ?? null) : null;
}
