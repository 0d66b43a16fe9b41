import { harmonics, pitchName, type Semitones } from '../music/index.js';
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
 * A place of the slide. Shape: `name` "1" to "7", with a valve "V1" to "V6"
 * Units: `at` in positions of the open slide; `cents` how far the partial is off before the slide mends it
 */
export interface SlidePlace {
  readonly name: string;
  readonly at: number;
  readonly isValve: boolean;
  readonly partial: number;
  readonly cents: number;
}

/** The first partials in first position: B♭1, with the valve F1. Units: MIDI numbers of sounding pitches */
const OPEN = 34;
const VALVE = 29;
const LAST_POSITION = 7;
/** With the valve the tube is longer and its semitones lie further apart: six reach where seven did (acoustics). */
const VALVE_SPACING = 2 ** (5 / 12);
const LAST_VALVE = 6;
const LAST_PARTIAL = 12;

/** What the slide costs beside its travel (our own): an ear that expects the usual place, a turn, the valve, a long arm, tuning. Units: as positions moved in one second */
const COSTS = { other: 0.6, turn: 0.5, valve: 0.35, far: 0.06, flatPartial: 2.5, sharpOrFlat: 0.4 } as const;
/** A slide turns back without trouble in longer gaps: its cost falls from here on. Units: seconds (our own) */
const HASTE = 0.15;
/** Travel within so little time is counted as in this. Units: seconds */
const SHORTEST_GAP = 0.06;

/**
 * Every place where a note sounds, the nearest first.
 * Shape:  partial 7 and 11, far off the keyboard, only where the slide can be drawn in to mend them
 * Units:  MIDI number of the sounding pitch
 * Source: the harmonic series, a semitone a position
 */
export function slidePlaces(midi: Semitones, hasValve: boolean): SlidePlace[] {
  const found: SlidePlace[] = [];
  for (const { number, semitones, cents } of harmonics(LAST_PARTIAL)) {
    if (number === 11) continue;
    const open = OPEN + semitones - midi + 1;
    // A flat partial is mended by a shorter slide, which first position does not have.
    const isMended = cents > -20 || open > 1;
    if (open >= 1 && open <= LAST_POSITION && isMended)
      found.push({ name: String(open), at: open + cents / 100, isValve: false, partial: number, cents });
    const semitone = VALVE + semitones - midi;
    const at = 1 + semitone * VALVE_SPACING;
    if (
      hasValve &&
      semitone >= 0 &&
      semitone < LAST_VALVE &&
      at <= LAST_POSITION + 0.7 &&
      number <= 8 &&
      cents > -20
    )
      found.push({ name: `V${semitone + 1}`, at, isValve: true, partial: number, cents });
  }
  return found.sort((a, b) => Number(a.isValve) - Number(b.isValve) || a.at - b.at);
}

/** Which slide there is. */
export interface SlideWish {
  readonly hasValve: boolean;
  readonly pins?: readonly HandPin[];
}

/**
 * The slide positions that travel least, beside those that a chart gives first.
 * Shape:  notes below the slide's reach are missing
 * Source: docs/computation.md §6
 */
export function slidePath(notes: readonly HandNote[], { hasValve, pins = [] }: SlideWish): HandPath {
  return solve(notes, slideSolver(hasValve), pins);
}

/** A place with the way that the slide came, so that turning back can be counted. */
interface Arrival extends SlidePlace {
  readonly came: 'out' | 'in' | 'stayed';
  /** Whether it is the place that charts give first. */
  readonly isUsual: boolean;
}

const WAYS: readonly Arrival['came'][] = ['stayed', 'out', 'in'];

function slideSolver(hasValve: boolean): Solver<Arrival> {
  const places = byPitch((midi) =>
    slidePlaces(midi, hasValve).flatMap((place, n) =>
      WAYS.map((came): Arrival => ({ ...place, came, isUsual: n === 0 })),
    ),
  );
  return {
    choicesOf: ({ sounding }) => places(sounding),
    costs: (notes) => ({
      stay: ({ at, cents, isValve, partial, came, isUsual }, layer) =>
        COSTS.far * at +
        (isUsual ? 0 : COSTS.other) +
        (isValve ? COSTS.valve : 0) +
        (partial === 7 ? COSTS.flatPartial : Math.abs(cents) > 10 ? COSTS.sharpOrFlat : 0) +
        (layer === 0 && came !== 'stayed' ? Infinity : 0),
      go: (from, to, layer) => {
        if (cameFrom(from, to) !== to.came) return Infinity;
        const seconds = Math.max(SHORTEST_GAP, notes[layer]?.gap ?? 1);
        const hasTurned = from.came !== 'stayed' && to.came !== 'stayed' && from.came !== to.came;
        return (
          Math.abs(to.at - from.at) / seconds / SPEED +
          (hasTurned ? COSTS.turn * Math.min(1, HASTE / seconds) : 0) +
          (from.isValve === to.isValve ? 0 : COSTS.valve)
        );
      },
    }),
    because: slideWords,
    plain: (layers) => {
      const path: Arrival[] = [];
      for (const [first] of layers) {
        const before = path.at(-1);
        if (first) path.push({ ...first, came: before ? cameFrom(before, first) : 'stayed' });
      }
      return path;
    },
  };
}

/** Within half a position the slide stays: the ear mends it. */
function cameFrom(from: SlidePlace, to: SlidePlace): Arrival['came'] {
  if (Math.abs(to.at - from.at) < 0.5) return 'stayed';
  return to.at > from.at ? 'out' : 'in';
}

/** Travel of one position in a second counts as much as one in the costs (our own). */
const SPEED = 4;

const NAMES = ['', 'first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh'];

function placeName({ name, isValve }: SlidePlace): string {
  const number = NAMES[Number(name.replace('V', ''))] ?? name;
  return isValve ? `${number} with the valve` : number;
}

/** Shape: "The slide travels 31 positions instead of 58: F3 in sixth at 4, 12 and 20." */
function slideWords(way: SolvedWay<SlidePlace>): string {
  const [travelled, plainly] = [travelOf(way.path), travelOf(way.plain)];
  const told = toldOthers(
    way,
    (place, { line: { sounding } }) => `${sounding ? pitchName(sounding) : 'a note'} in ${placeName(place)}`,
  );
  if (told === '') return `The slide travels ${travelled} positions; the usual ones travel least.`;
  const saved =
    travelled < plainly
      ? `The slide travels ${travelled} positions instead of ${plainly}`
      : `The slide travels ${travelled} positions, at better moments`;
  return `${saved}: ${told}.`;
}

/** How far the slide goes. Units: whole positions */
export function travelOf(path: readonly SlidePlace[]): number {
  return Math.round(
    path.reduce((sum, { at }, n) => sum + (n === 0 ? 0 : Math.abs(at - (path[n - 1]?.at ?? at))), 0),
  );
}
