import { STRING_NAMES } from '../cue-kinds/index.js';
import type { HandNote } from './hand-notes.js';
import {
  byPitch,
  solve,
  toldOthers,
  type HandPath,
  type HandPin,
  type SolvedWay,
  type Solver,
} from './hand-path.js';

/**
 * A string with the hand on it.
 * Shape:  `name` Roman, "I" the highest; `hand` how far the hand stands up the neck, null on an open string
 * Units:  semitones above the lowest place of the first finger
 */
interface Held {
  readonly name: string;
  readonly string: number;
  readonly hand: number | null;
}

/** An instrument with strings. Shape: `open` the open strings, the lowest first, MIDI numbers; `reach` of a hand in semitones */
export interface StringsWish {
  readonly open: readonly number[];
  readonly reach: number;
  readonly pins?: readonly HandPin[];
}

/**
 * What strings and places cost (our own): a string crossed, one passed over, either under a slur; the hand moved, and up
 * the neck at all; an open string held long, whose sound stands out.
 */
const COSTS = {
  crossing: 0.8,
  passed: 2,
  slurred: 1.15,
  shift: 2.6,
  shiftStep: 0.15,
  openShift: 0.8,
  high: 0.4,
  highStep: 0.1,
  longOpen: 0.6,
} as const;
/** Quicker than this a crossing costs whole; slower ones cost less. Units: seconds (our own) */
const QUICK = 0.25;
/** An open string that lasts longer stands out. Units: seconds (our own) */
const LONG = 0.6;
/** The hand goes no farther up. Units: semitones (our own) */
const MOST_HAND = 19;

/**
 * The strings of a passage and where the hand stands: few crossings, few shifts.
 * Shape:  "I" to "IV", the highest first; the plain way plays each note as low on the neck as it goes
 * Source: docs/computation.md §6; common practice, no source
 */
export function stringPath(notes: readonly HandNote[], { open, reach, pins }: StringsWish): HandPath {
  return solve(notes, stringSolver(open, reach), pins);
}

function stringSolver(open: readonly number[], reach: number): Solver<Held> {
  const places = byPitch((midi) => held(midi, open, reach));
  return {
    choicesOf: ({ written }) => places(written),
    costs: (notes) => ({
      stay: ({ hand }, layer) => {
        if (hand === null) return (notes[layer]?.seconds ?? 0) > LONG ? COSTS.longOpen : 0;
        return hand === 0 ? 0 : COSTS.high + COSTS.highStep * hand;
      },
      go: (from, to, layer) => {
        const note = notes[layer];
        const haste = Math.min(1, QUICK / Math.max(0.03, note?.gap ?? 1));
        return haste * (crossingCost(from, to, note?.isSlurred === true) + shiftCost(from, to));
      },
    }),
    because: stringWords,
  };
}

/** The places of a note, the lowest on the neck first. Units: MIDI number of the written note */
function held(written: number, open: readonly number[], reach: number): Held[] {
  const places = open.flatMap((pitch, at): Held[] => {
    const above = written - pitch;
    const string = open.length - at;
    const name = STRING_NAMES[string - 1] ?? String(string);
    if (above < 0) return [];
    if (above === 0) return [{ name, string, hand: null }];
    const hands = Array.from({ length: MOST_HAND + 1 }, (_, hand) => hand);
    return hands
      .filter((hand) => above > hand && above <= hand + reach)
      .map((hand) => ({ name, string, hand }));
  });
  return places.sort((a, b) => (a.hand ?? 0) - (b.hand ?? 0) || a.string - b.string);
}

function crossingCost(from: Held, to: Held, isSlurred: boolean): number {
  const away = Math.abs(from.string - to.string);
  if (away === 0) return 0;
  return (COSTS.crossing + (away - 1) * COSTS.passed) * (isSlurred ? COSTS.slurred : 1);
}

/** What it costs to move the hand; while an open string sounds it moves for little. */
function shiftCost(from: Held, to: Held): number {
  if (from.hand === null || to.hand === null) return to.hand === null || to.hand === 0 ? 0 : COSTS.openShift;
  const steps = Math.abs(to.hand - from.hand);
  return steps === 0 ? 0 : COSTS.shift + steps * COSTS.shiftStep;
}

/** Shape: "Crosses strings 6 times instead of 14: on II at 4, 12." */
function stringWords(way: SolvedWay<Held>): string {
  const crossings = (path: readonly Held[]): number =>
    path.filter(({ string }, n) => n > 0 && path[n - 1]?.string !== string).length;
  const [now, plainly] = [crossings(way.path), crossings(way.plain)];
  const others = toldOthers(way, ({ name }) => `on ${name}`);
  if (others === '') return `Crosses strings ${now} times, as it lies.`;
  const times = now === 0 ? 'Crosses no string' : now === 1 ? 'Crosses once' : `Crosses strings ${now} times`;
  return `${times}${now < plainly ? ` instead of ${plainly}` : ''}: ${others}.`;
}
