import { toNumber } from '../../music/index.js';
import type { Score } from '../../score/index.js';
import { hairpinRanges } from '../line/hairpins.js';
import type { Inventory } from './inventory.js';
import type { LineNote, SoloLine } from '../line/solo-line.js';
import { wordSwells } from './swells.js';

/** A suggestion about loudness. Shape: `measure` null for the whole piece; `mark` the suggested level, if one. */
export interface DynamicsAdvice {
  readonly measure: string | null;
  readonly mark: string | null;
  readonly why: string;
}

/** Printed levels from soft to loud. */
export const LEVELS = ['ppp', 'pp', 'p', 'mp', 'mf', 'f', 'ff', 'fff'] as const;
/** One printed level. */
export type Level = (typeof LEVELS)[number];
/** A band of fewer levels is narrow; one that begins after this share of the piece begins late (our own knees). */
const NARROW_BAND = 4;
const LATE_SHARE = 0.25;

/**
 * Reads the printed band of dynamics and suggests a wider one.
 * Shape:  the ask at the start first, then the band, accents, long crescendos
 * Units:  printed measure numbers
 * Source: common practice, no source
 */
export function dynamicsAdvice(score: Score, line: SoloLine, found: Inventory): DynamicsAdvice[] {
  const printed = score.marks.dynamics
    .map(({ measureIndex, onset, mark }) => ({ measureIndex, onset, mark, level: levelOf(mark) }))
    .filter(({ level }) => level >= 0);
  const firstNote = line.notes[0];
  if (!firstNote) return [];
  return [
    ...atTheStart(score, printed, firstNote),
    ...band(score, printed),
    ...accents(found),
    ...longCrescendos(score, line, printed),
  ];
}

interface PrintedLevel {
  readonly measureIndex: number;
  readonly onset: Parameters<typeof toNumber>[0];
  readonly mark: string;
  readonly level: number;
}

/** How loud a mark is. Shape: its place among the levels, -1 for what is none */
export function levelOf(mark: string): number {
  return LEVELS.findIndex((level) => level === mark);
}

function atTheStart(
  score: Score,
  printed: readonly PrintedLevel[],
  { start, measureIndex }: LineNote,
): DynamicsAdvice[] {
  const first = printed[0];
  const at = first
    ? toNumber(score.measures[first.measureIndex]?.start ?? first.onset) + toNumber(first.onset)
    : Infinity;
  // A dynamic under the first full bar holds for its pickup too.
  const [pickup, full] = score.measures;
  const begin = pickup?.implicit && full ? toNumber(full.start) : start;
  if (at <= Math.max(start, begin) + 1e-6) return [];
  return [
    {
      measure: score.measures[measureIndex]?.number ?? null,
      mark: 'mf',
      why: 'No dynamic is printed at the start; mezzo-forte unless you settle another.',
    },
  ];
}

function band(score: Score, printed: readonly PrintedLevel[]): DynamicsAdvice[] {
  if (printed.length === 0)
    return [{ measure: null, mark: null, why: 'No dynamic is printed at all: settle a shape of your own.' }];
  const levels = printed.map(({ level }) => level);
  const [softest, loudest] = [Math.min(...levels), Math.max(...levels)];
  const loudestAt = printed.find(({ level }) => level === loudest);
  const first = printed[0];
  const isNarrow = loudest - softest + 1 < NARROW_BAND;
  const isLate = (first?.measureIndex ?? 0) >= score.measures.length * LATE_SHARE;
  if (!isNarrow && !isLate) return [];
  const reason = isNarrow
    ? `The printed band is narrow, ${LEVELS[softest]} to ${LEVELS[loudest]}`
    : `The first dynamic comes late, in measure ${score.measures[first?.measureIndex ?? 0]?.number ?? ''}`;
  const softer = LEVELS[Math.max(0, softest - 1)] ?? null;
  if (softest === loudest)
    return [
      {
        measure: score.measures[first?.measureIndex ?? 0]?.number ?? null,
        mark: softer,
        why: `Only ${LEVELS[softest]} is printed: settle where to play ${softer ?? ''}, and save ${LEVELS[softest]} for the loudest place.`,
      },
    ];
  return [
    ...printed
      .filter(({ level }) => level === softest)
      .map(({ measureIndex }) => ({
        measure: score.measures[measureIndex]?.number ?? null,
        mark: softer,
        why: `${reason}: play the softest mark one step down, ${softer ?? ''}.`,
      })),
    {
      measure: score.measures[loudestAt?.measureIndex ?? 0]?.number ?? null,
      mark: LEVELS[loudest] ?? null,
      why: `${reason}: save the top for here, the loudest place.`,
    },
  ];
}

function accents({ articulations }: Inventory): DynamicsAdvice[] {
  const accented = articulations.filter(({ kind }) => kind.includes('accent'));
  const [first] = accented;
  return first
    ? [
        {
          measure: first.measure,
          mark: null,
          why: 'Accents one level above their surroundings, from here on.',
        },
      ]
    : [];
}

/** A crescendo of two measures and more, level by level. */
function longCrescendos(score: Score, line: SoloLine, printed: readonly PrintedLevel[]): DynamicsAdvice[] {
  const all = [...hairpinRanges(score, line), ...wordSwells(score)].sort((a, b) => a.fromIndex - b.fromIndex);
  return all.flatMap(({ kind, fromIndex: from, lastIndex: to }) => {
    if (to - from < 1) return [];
    const way = kind === 'crescendo' ? 1 : -1;
    const start = printed.findLast(({ measureIndex }) => measureIndex <= from)?.level ?? levelOf('mf');
    // What it leads to is printed in it or right behind it.
    const next =
      printed.find(({ measureIndex }) => measureIndex > from && measureIndex <= to + 1)?.level ??
      start + 2 * way;
    const goal = Math.min(LEVELS.length - 1, Math.max(0, (next - start) * way > 0 ? next : start + 2 * way));
    if (goal === start) return [];
    const measures = score.measures.slice(from, to + 1);
    return measures.map(({ number }, n) => {
      // A level counts from where it is reached, so that the last one is kept for the end.
      const steps = Math.floor((Math.abs(goal - start) * (n + 1)) / measures.length + 1e-9);
      const level = start + way * steps;
      const mark = LEVELS[level] ?? null;
      return {
        measure: number,
        mark,
        why: `Step ${n + 1} of ${measures.length} of the ${kind} to ${LEVELS[goal]}.`,
      };
    });
  });
}
