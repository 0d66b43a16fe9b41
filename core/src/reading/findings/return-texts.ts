import type { NoteDifference } from '../likeness/bar-differences.js';
import type { SetDifference } from '../likeness/editions.js';

/**
 * Differences as clauses, the later measure first: that is the one to be prepared.
 * Shape:  notes that follow each other and change alike share a clause, "notes 1–4 are staccato, not slurred"
 */
export function differenceTexts(all: readonly (NoteDifference | SetDifference)[]): string[] {
  // A note that another length only pushes on is not told of.
  const isPushed = ({ what, note, b }: NoteDifference | SetDifference): boolean =>
    what === 'rhythm' &&
    /(?:later|earlier)$/u.test(b) &&
    all.some((other) => other.note < note && ['rhythm', 'added', 'missing'].includes(other.what));
  const differences = all.filter((one) => !isPushed(one));
  const rows: { first: NoteDifference | SetDifference; last: number }[] = [];
  for (const one of differences) {
    const row = rows.find(
      ({ first, last }) =>
        (SHARED.has(one.what) || isStroke(one)) &&
        first.what === one.what &&
        first.a === one.a &&
        first.b === one.b &&
        last === one.note - 1,
    );
    if (row) row.last = one.note;
    else rows.push({ first: one, last: one.note });
  }
  return rows.map(({ first, last }) => clauseOf(first, last));
}

/** A note without a pitch that is new or left out. */
function isStroke({ what, a, b }: NoteDifference | SetDifference): boolean {
  return (what === 'added' && b === 'x') || (what === 'missing' && a === 'x');
}

/** What several notes in a row may change alike. */
const SHARED: ReadonlySet<string> = new Set(['articulation', 'ornament', 'hold', 'bowing']);

function clauseOf({ note, what, a, b }: NoteDifference | SetDifference, last: number): string {
  const many = last > note;
  const notes = many ? `notes ${note}–${last}` : `note ${note}`;
  switch (what) {
    case 'key':
    case 'meter':
      return `the ${what} is ${b}, not ${a}`;
    case 'dynamic':
      return hairpinMove(a, b) ?? dynamicText(a, b);
    case 'added':
      return `${notes} ${many ? 'are' : 'is'} new${b === 'x' ? '' : `, ${b}`}`;
    case 'missing':
      return `${notes}${a === 'x' ? '' : `, ${a},`} ${many ? 'are' : 'is'} left out`;
    case 'grouping':
      return `grouped ${b}, not ${a}`;
    case 'ornament':
    case 'hold': {
      const has = many ? 'have' : 'has';
      if (a === 'none') return `${notes} ${has} ${withArticle(b)}`;
      return b === 'none'
        ? `${notes} ${many ? 'are' : 'is'} without the ${a}`
        : `${notes} ${has} ${withArticle(b)}, not ${withArticle(a)}`;
    }
    case 'rhythm':
      return /(?:longer|shorter|later|earlier)$/u.test(b)
        ? `${notes} ${many ? 'are' : 'is'} ${b}`
        : `${notes} ${many ? 'are' : 'is'} ${b}, not ${a}`;
    default:
      return `${notes} ${many ? 'are' : 'is'} ${b}, not ${a}`;
  }
}

function withArticle(text: string): string {
  return `${/^[aeiou]/u.test(text) ? 'an' : 'a'} ${text}`;
}

function dynamicText(a: string, b: string): string {
  const [before, now] = [a, b].map((text) => /^(crescendo|diminuendo) going on$/u.exec(text)?.[1]);
  if (now) return `the ${now} goes on here`;
  if (before && b === 'none') return `no ${before} goes on here`;
  if (a === 'none') return `${levelText(b)} is new`;
  if (b === 'none') return `${levelText(a)} is left out`;
  return `the dynamics are ${levelText(b)}, not ${levelText(a)}`;
}

function levelText(text: string): string {
  return text.replace(/crescendo|diminuendo/gu, 'a $&');
}

/** The same hairpin from another note, as a clause; null for every other change. */
function hairpinMove(a: string, b: string): string | null {
  const [from, to] = [a, b].map((text) => /^(crescendo|diminuendo) from (note \d+)$/u.exec(text));
  return from && to && from[1] === to[1] ? `the ${to[1]} begins on ${to[2]}, not on ${from[2]}` : null;
}

/**
 * The notes of both measures in which they differ.
 * Shape:  ordinals from 1, rising; differences count their notes in the later measure, missing ones in the earlier
 */
export function differingNotes(
  differences: readonly Pick<NoteDifference | SetDifference, 'note' | 'what'>[],
): {
  readonly a: number[];
  readonly b: number[];
} {
  const [a, b]: [Set<number>, Set<number>] = [new Set(), new Set()];
  let shift = 0;
  for (const { note, what } of differences) {
    if (note === 0) continue;
    if (what === 'missing') {
      a.add(note);
      shift += 1;
    } else if (what === 'added') {
      b.add(note);
      shift -= 1;
    } else {
      a.add(note + shift);
      b.add(note);
    }
  }
  return { a: [...a], b: [...b] };
}
