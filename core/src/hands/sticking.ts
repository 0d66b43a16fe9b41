import type { HandNote } from './hand-notes.js';
import { solve, type HandPath, type HandPin, type SolvedWay, type Solver } from './hand-path.js';

/** A hand. Shape: `name` "R" or "L"; `run` which of its strokes in a row this is, 3 for the third and more */
interface Stroke {
  readonly name: 'R' | 'L';
  readonly run: 1 | 2 | 3;
}

/** How somebody sticks. Shape: `school` strict alternation, or doubles where they cost least; `leads` the hand that begins */
export interface StickingWish {
  readonly school: 'alternate' | 'doubles';
  readonly leads: 'R' | 'L';
  /** Whether notes lie side by side as on a keyboard. */
  readonly hasKeys: boolean;
  readonly pins?: readonly HandPin[];
}

/**
 * What strokes cost (our own): a double at ease and in hurry, a third stroke of one hand, strict alternation broken, hands
 * that cross by a fifth, a leap of one hand a semitone and second, the weak hand on a beat.
 */
const COSTS = {
  double: 2.5,
  hurried: 9,
  third: 6,
  broken: 40,
  crossed: 2,
  leap: 0.02,
  weakBeat: 0.15,
} as const;
/** A double quicker than this is hurried. Units: seconds between its strokes (our own) */
const QUICK_DOUBLE = 0.14;
/** After so much time the hands begin afresh. Units: seconds (our own) */
const REST = 0.7;
/** Steps up to this do not tangle the hands. Units: semitones */
const NEAR_KEYS = 2;

/**
 * The hands of a passage: they alternate, and double where that costs least.
 * Shape:  "R" and "L"; the plain way alternates strictly from the leading hand
 * Source: docs/computation.md §6
 */
export function stickingPath(notes: readonly HandNote[], wish: StickingWish): HandPath {
  return solve(notes, stickingSolver(wish), wish.pins);
}

function stickingSolver({ school, leads, hasKeys }: StickingWish): Solver<Stroke> {
  const other = leads === 'R' ? 'L' : 'R';
  const strokes = ([leads, other] as const).flatMap((name) => RUNS.map((run): Stroke => ({ name, run })));
  return {
    choicesOf: () => strokes,
    costs: (notes) => ({
      stay: ({ name, run }, layer) =>
        (layer === 0 && run > 1 ? Infinity : 0) +
        (layer === 0 && name !== leads ? 0.5 : 0) +
        (name !== leads && notes[layer]?.isOnBeat === true ? COSTS.weakBeat : 0),
      go: (from, to, layer) => {
        const gap = notes[layer]?.gap ?? 1;
        const isAgain = from.name === to.name && gap < REST;
        if (to.run !== (isAgain ? Math.min(3, from.run + 1) : 1)) return Infinity;
        if (gap >= REST) return 0;
        const up = hasKeys ? stepUp(notes, layer) : 0;
        const ease = Math.max(gap, 0.03);
        if (!isAgain) return reachCost(to, up) * Math.min(1, QUICK_DOUBLE / ease);
        return doubleCost(school, to, gap) + (Math.abs(up) * COSTS.leap) / ease;
      },
    }),
    because: (way) => stickingWords(way, hasKeys),
    // After a silence the leading hand begins again.
    plain: (_, notes) => {
      const way: Stroke[] = [];
      for (const { gap } of notes) {
        const isFresh = way.length === 0 || (gap ?? 1) >= REST;
        way.push({ name: isFresh || way.at(-1)?.name === other ? leads : other, run: 1 });
      }
      return way;
    },
  };
}

const RUNS = [1, 2, 3] as const;

/** How far a note lies above the one before. Units: semitones */
function stepUp(notes: readonly HandNote[], layer: number): number {
  const [before, note] = [notes[layer - 1]?.written ?? null, notes[layer]?.written ?? null];
  return before === null || note === null ? 0 : note - before;
}

/** What it costs that a hand goes to the other side of the other one. */
function reachCost({ name }: Stroke, up: number): number {
  const isCrossed = name === 'R' ? up < -NEAR_KEYS : up > NEAR_KEYS;
  return isCrossed ? COSTS.crossed * Math.min(2, Math.abs(up) / 7) : 0;
}

function doubleCost(school: StickingWish['school'], { run }: Stroke, gap: number): number {
  if (school === 'alternate') return COSTS.broken;
  return (gap < QUICK_DOUBLE ? COSTS.hurried : COSTS.double) + (run > 2 ? COSTS.third : 0);
}

/** Shape: "Hands cross 2 times instead of 7; doubles at 4 and 9." */
function stickingWords({ notes, path, plain }: SolvedWay<Stroke>, hasKeys: boolean): string {
  const doubles = path.flatMap(({ name }, n) =>
    n > 0 && path[n - 1]?.name === name && (notes[n]?.gap ?? 1) < REST ? [n] : [],
  );
  const crossed = (way: readonly Stroke[]): number =>
    way.filter((_, n) => hasKeys && n > 0 && isCrossed(way, notes, n)).length;
  const [now, plainly] = [crossed(path), crossed(plain)];
  const at = [...new Set(doubles.map((n) => notes[n]?.measure ?? ''))];
  const told = doubles.length === 0 ? 'the hands alternate throughout' : `doubles in ${listed(at)}`;
  if (hasKeys && plainly > now)
    return `Hands cross ${now === 0 ? 'nowhere' : `${now} times`} instead of ${plainly}: ${told}.`;
  return `${told.slice(0, 1).toUpperCase()}${told.slice(1)}.`;
}

function isCrossed(way: readonly Stroke[], notes: readonly HandNote[], n: number): boolean {
  const [before, note, hand] = [notes[n - 1], notes[n], way[n]?.name];
  if (!before || !note || hand === way[n - 1]?.name || (note.gap ?? 1) >= REST) return false;
  const up = stepUp(notes, n);
  return hand === 'R' ? up < -NEAR_KEYS : up > NEAR_KEYS;
}

function listed(measures: readonly string[]): string {
  return measures.length <= 6 ? measures.join(', ') : `${measures.slice(0, 6).join(', ')} and more`;
}
