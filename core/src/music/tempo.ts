import {
  asQuarterBpm,
  asSeconds,
  type Bpm,
  type QuarterBpm,
  type QuarterCount,
  type Seconds,
} from './units.js';
import { fail, InvariantError, ok, type Result } from '../base/index.js';
import { quarters, scaleQuarters, toNumber, type Quarters } from './quarters.js';
import { NOTE_VALUES } from './tempo.data.js';

/** The plain note values by name. */
export type NoteValue = (typeof NOTE_VALUES)[number]['name'];

/**
 * The note that a tempo mark counts: a plain or dotted note value.
 * Shape:  `quarter`, `dotted-quarter`, `double-dotted-half`
 * Source: MusicXML 4.0, elements beat-unit and beat-unit-dot
 */
export type BeatUnit = NoteValue | `dotted-${NoteValue}` | `double-dotted-${NoteValue}`;

/**
 * How strictly a tempo mark binds.
 * Shape:  exact and about have one number; range both; min and max one side; words none; none nothing at all
 */
export type TempoBound = 'exact' | 'about' | 'range' | 'min' | 'max' | 'words' | 'none';

/**
 * A tempo mark as a sheet states it; what it does not state is null.
 * Shape:  `bpmMin` ≤ `bpmMax`; equal for exact and about
 * Units:  beats of `beatUnit` per minute
 */
export interface TempoMark {
  readonly beatUnit: BeatUnit | null;
  readonly bpmMin: Bpm | null;
  readonly bpmMax: Bpm | null;
  readonly bound: TempoBound;
  readonly words: string | null;
}

/** Slowest tempo the application takes, in beats per minute (our own limit). */
export const MIN_BPM = 10;
/** Fastest tempo the application takes, in beats per minute (our own limit; the dial ends at 208). */
export const MAX_BPM = 400;

/** Every beat unit a sheet can name, longest first. */
export const BEAT_UNITS: readonly BeatUnit[] = NOTE_VALUES.flatMap(({ name }): BeatUnit[] => [
  `dotted-${name}`,
  name,
]);

/**
 * The exact length of a beat unit.
 * Shape:  above 0
 * Units:  quarter notes
 * Errors: InvariantError for a name that is no beat unit
 * Source: common practice: a dot adds half, a second dot a quarter
 * @example unitLength('dotted-quarter') // { num: 3, den: 2 }
 */
export function unitLength(unit: BeatUnit): Quarters {
  const known = LENGTHS.get(unit);
  if (known) return known;
  const length = lengthOf(unit);
  LENGTHS.set(unit, length);
  return length;
}

/** Lengths that were asked for: every tempo of every passage asks for one. */
const LENGTHS = new Map<BeatUnit, Quarters>();

function lengthOf(unit: BeatUnit): Quarters {
  const match = /^(double-dotted-|dotted-)?(.+)$/.exec(unit);
  const value = NOTE_VALUES.find(({ name }) => name === match?.[2]);
  if (!value) throw new InvariantError(`"${unit}" is no beat unit.`);
  const plain = quarters(value.quarterLength * 8, 8);
  if (match?.[1] === 'dotted-') return scaleQuarters(plain, 3, 2);
  return match?.[1] === 'double-dotted-' ? scaleQuarters(plain, 7, 4) : plain;
}

/**
 * The same tempo counted in another unit: bpm of b = bpm of a × length(a) / length(b).
 * Shape:  above 0
 * Units:  beats per minute of `from` in, of `to` out
 * Errors: InvariantError as unitLength
 * Source: arithmetic; the design's check: ♩=132 is ♪=264
 * @example convertBpm(60, 'dotted-quarter', 'eighth') // 180
 */
export function convertBpm(bpm: Bpm, from: BeatUnit, to: BeatUnit): Bpm {
  const a = unitLength(from);
  const b = unitLength(to);
  return (bpm * a.num * b.den) / (a.den * b.num);
}

/**
 * The tempo in quarter notes, the common measure of the whole program.
 * Shape:  above 0
 * Units:  quarter notes per minute
 * Errors: as convertBpm
 * Source: MusicXML 4.0, attribute tempo of element sound
 */
export function quarterBpm(bpm: Bpm, unit: BeatUnit): QuarterBpm {
  return asQuarterBpm(convertBpm(bpm, unit, 'quarter'));
}

/**
 * A tempo in quarter notes, counted in another unit.
 * Units:  quarter notes per minute in, beats of the unit per minute out
 * Errors: as convertBpm
 * Source: arithmetic
 * @example beatBpm(quarterBpm(90, 'quarter'), 'dotted-quarter') // 60
 */
export function beatBpm(tempo: QuarterBpm, unit: BeatUnit): Bpm {
  return tempo / toNumber(unitLength(unit));
}

/**
 * What to click at half speed: the next smaller unit, so that the click stays near the written number.
 * Shape:  a dotted unit divides in three, a plain one in two
 * Units:  beats per minute of the returned unit
 * Errors: as unitLength
 * Source: common practice, no source
 * @example halfSpeedClick(132, 'quarter') // { unit: 'eighth', bpm: 132 }
 */
export function halfSpeedClick(bpm: Bpm, unit: BeatUnit): { readonly unit: BeatUnit; readonly bpm: Bpm } {
  return clickAt(bpm / 2, unit, bpm);
}

/**
 * The click for any slowed tempo: the unit itself while its bpm is at least two thirds of the written number,
 * else the next smaller one.
 * Shape:  the unit itself or the next smaller plain one
 * Units:  beats per minute of the returned unit
 * Errors: as unitLength
 * Source: common practice, no source; two thirds is our own knee
 */
export function clickAt(
  bpm: Bpm,
  unit: BeatUnit,
  writtenBpm: Bpm,
): { readonly unit: BeatUnit; readonly bpm: Bpm } {
  const smaller = nextSmaller(unit);
  if (bpm * 3 >= writtenBpm * 2 || smaller === null) return { unit, bpm };
  return { unit: smaller, bpm: convertBpm(bpm, unit, smaller) };
}

function nextSmaller(unit: BeatUnit): BeatUnit | null {
  const third = toNumber(unitLength(unit)) / (unit.startsWith('dotted-') ? 3 : 2);
  return NOTE_VALUES.find(({ quarterLength }) => quarterLength === third)?.name ?? null;
}

/**
 * How long so many quarters last: the one place where quarters become seconds.
 * Units:  quarter notes, quarter notes per minute, seconds
 */
export function secondsAt(quarterCount: QuarterCount, atQuarterBpm: QuarterBpm): Seconds {
  return asSeconds((quarterCount * 60) / atQuarterBpm);
}

/** What can be wrong with a tempo number. */
export type BpmCode = 'bpm-out-of-range';

/**
 * Accepts a tempo a person typed, or says why not.
 * Shape:  MIN_BPM…MAX_BPM, both included
 * Units:  beats per minute
 * Errors: bpm-out-of-range
 * Source: the limits are our own
 */
export function checkBpm(bpm: Bpm, where: string): Result<Bpm, BpmCode> {
  if (Number.isFinite(bpm) && bpm >= MIN_BPM && bpm <= MAX_BPM) return ok(bpm);
  return fail(
    'bpm-out-of-range',
    where,
    `A tempo lies between ${MIN_BPM} and ${MAX_BPM} beats a minute; ${bpm} came.`,
  );
}
