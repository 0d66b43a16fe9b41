import { capital, groupBy } from '../../base/index.js';
import type { Span } from '../../score/index.js';
import type { NoteDifference } from '../likeness/bar-differences.js';
import type { SetDifference } from '../likeness/editions.js';
import type { RawFinding } from './finding.js';
import { IMPORTANCE, raw, spanOf, WIDEST_PAIR, type Reading } from './finding-parts.js';
import type { NearRepeat } from '../likeness/repeats.js';

/** Near-repeats one after the other, and exact ones between them, are one return of a phrase. */
export function returns({ score, indexOf, nearRepeats, exactRepeats }: Reading): RawFinding[] {
  const near = nearRepeats.map((one) => ({ ...one, from: indexOf(one.a), at: indexOf(one.b) }));
  const exact = exactRepeats.map(({ a, b }) => ({ a: spanOf(indexOf, a), b: spanOf(indexOf, b) }));
  const lagAt = new Map(near.map(({ from, at }) => [at, at - from]));
  for (const { a, b } of exact)
    for (let n = b.fromIndex; n < b.endIndex; n += 1) lagAt.set(n, b.fromIndex - a.fromIndex);
  const phrases = groupBy(near, ({ at, from }) => {
    let start = at;
    while (lagAt.get(start - 1) === at - from) start -= 1;
    return `${start} ${at - from}`;
  });
  return [...phrases.values()].flatMap((members) => {
    const [first, last] = [members[0], members.at(-1)];
    if (!first || !last) return [];
    if (last.at - first.at >= WIDEST_PAIR) return members.map((one) => returnOf(score, [one]));
    return [returnOf(score, members)];
  });
}

type Return = NearRepeat & { readonly from: number; readonly at: number };

function returnOf({ measures }: Reading['score'], members: readonly Return[]): RawFinding {
  const [first, last] = [members[0], members.at(-1)];
  const differences = members.flatMap((one) => one.differences);
  const span = (from: number, to: number): Span => ({ fromIndex: from, endIndex: to + 1 });
  const many = members.length > 1;
  const sentences = members.map(({ a, b, differences: own }) =>
    many
      ? `In ${b}, not as in ${a}: ${differenceTexts(own).join('; ')}.`
      : `${capital(differenceTexts(own).join('; '))}.`,
  );
  const name = (index: number): string => measures[index]?.number ?? '';
  const intro = many
    ? `${name(first?.at ?? 0)}–${name(last?.at ?? 0)} come back to ${name(first?.from ?? 0)}–${name(last?.from ?? 0)}. `
    : `${first?.b ?? ''} comes back to ${first?.a ?? ''}. `;
  const isHeard = differences.some(({ what }) => what !== 'articulation' && what !== 'dynamic');
  return raw('return', {
    // The less differs, the easier it is to miss.
    importance: IMPORTANCE.return - (isHeard ? 0 : 0.12) - 0.01 * Math.min(8, differences.length - 1),
    title: returnTitle(differences),
    sentence: `Measure${many ? 's' : ''} ${intro}${sentences.join(' ')}`,
    places: members.map(({ at }) => at),
    notes: members.flatMap(({ at, differences: own }) =>
      own.filter(({ note }) => note > 0).map(({ note }) => ({ index: at, note })),
    ),
    pair: {
      a: span(first?.from ?? 0, last?.from ?? 0),
      b: span(first?.at ?? 0, last?.at ?? 0),
      aNotes: members.flatMap(({ from, differences: own }) =>
        differingNotes(own).a.map((note) => ({ index: from, note })),
      ),
      bNotes: members.flatMap(({ at, differences: own }) =>
        differingNotes(own).b.map((note) => ({ index: at, note })),
      ),
    },
    detail: JSON.stringify(differences),
  });
}

function returnTitle(differences: readonly NoteDifference[]): string {
  const kinds = new Set(differences.map(({ what }) => what));
  if (kinds.size === 1 && kinds.has('articulation')) return 'The same notes, articulated otherwise.';
  if (kinds.size === 1 && kinds.has('dynamic'))
    return differences.every(({ a, b }) => hairpinMove(a, b))
      ? 'The same notes, the hairpin elsewhere.'
      : 'The same notes, at another level.';
  if (kinds.size === 1 && kinds.has('rhythm')) return 'The same notes in another rhythm.';
  if (kinds.size === 1 && kinds.has('ornament')) return 'The same notes, ornamented otherwise.';
  if (kinds.size === 1 && kinds.has('hold')) return 'The same notes, held or breathed otherwise.';
  return 'The return is not the same.';
}

/**
 * Differences as clauses, the later measure first: that is the one to be prepared.
 * Shape:  notes that follow each other and change alike share a clause, "notes 1–4 are staccato, not slurred"
 */
export function differenceTexts(differences: readonly (NoteDifference | SetDifference)[]): string[] {
  const rows: { first: NoteDifference | SetDifference; last: number }[] = [];
  for (const one of differences) {
    const row = rows.find(
      ({ first, last }) =>
        SHARED.has(one.what) &&
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

/** What several notes in a row may change alike. */
const SHARED: ReadonlySet<string> = new Set(['articulation', 'ornament', 'hold']);

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
      return `${notes} is new, ${b}`;
    case 'missing':
      return `${notes}, ${a}, is left out`;
    case 'ornament':
    case 'hold': {
      const has = many ? 'have' : 'has';
      if (a === 'none') return `${notes} ${has} ${withArticle(b)}`;
      return b === 'none'
        ? `${notes} ${many ? 'are' : 'is'} without the ${a}`
        : `${notes} ${has} ${withArticle(b)}, not ${withArticle(a)}`;
    }
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
