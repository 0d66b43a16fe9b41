import { fail, ok, type Result } from '../base/index.js';
import {
  midiOf,
  parsePitch,
  spellAt,
  staffPlace,
  transposePitch,
  type Pitch,
  type Semitones,
  type Step,
  type Transposition,
} from '../music/index.js';
import { INSTRUMENT_RANGES, OTHER_RANGE_NAMES, WITHOUT_RANGE } from './instrument-ranges.data.js';

/** The kinds of scales that are generated. */
export type ScaleForm =
  | 'major'
  | 'natural minor'
  | 'harmonic minor'
  | 'melodic minor'
  | 'chromatic'
  | 'major arpeggio'
  | 'minor arpeggio';

/** What cannot be generated, and why. */
export type ScaleCode = 'scale-key' | 'scale-range' | 'scale-instrument';

/** An instrument as scales need it. Shape: written pitches. */
export interface ScaleInstrument {
  readonly name: string;
  readonly low: Pitch;
  readonly high: Pitch;
  readonly transposition: Transposition;
  readonly clef: 'G' | 'F' | 'C';
}

/** Semitones above the tonic of each degree, going up and coming down. Source: common practice. */
const DEGREES: Readonly<
  Record<
    Exclude<ScaleForm, 'chromatic'>,
    { readonly up: readonly number[]; readonly down: readonly number[]; readonly steps: readonly number[] }
  >
> = {
  major: { up: [0, 2, 4, 5, 7, 9, 11], down: [0, 2, 4, 5, 7, 9, 11], steps: [0, 1, 2, 3, 4, 5, 6] },
  'natural minor': { up: [0, 2, 3, 5, 7, 8, 10], down: [0, 2, 3, 5, 7, 8, 10], steps: [0, 1, 2, 3, 4, 5, 6] },
  'harmonic minor': {
    up: [0, 2, 3, 5, 7, 8, 11],
    down: [0, 2, 3, 5, 7, 8, 11],
    steps: [0, 1, 2, 3, 4, 5, 6],
  },
  'melodic minor': { up: [0, 2, 3, 5, 7, 9, 11], down: [0, 2, 3, 5, 7, 8, 10], steps: [0, 1, 2, 3, 4, 5, 6] },
  'major arpeggio': { up: [0, 4, 7], down: [0, 4, 7], steps: [0, 2, 4] },
  'minor arpeggio': { up: [0, 3, 7], down: [0, 3, 7], steps: [0, 2, 4] },
};

/**
 * The instrument's written range and transposition.
 * Shape:  the longest known name that the text holds
 * Errors: scale-instrument
 * Source: see instrument-ranges.data.ts
 */
export function scaleInstrument(text: string): Result<ScaleInstrument, ScaleCode> {
  const name = OTHER_RANGE_NAMES.reduce(
    (said, [written, full]) => said.replace(written, full),
    text.toLowerCase(),
  );
  const isOther = WITHOUT_RANGE.some((other) => name.includes(other));
  const known = INSTRUMENT_RANGES.filter((one) => !isOther && name.includes(one.name)).sort(
    (a, b) => b.name.length - a.name.length,
  )[0];
  const low = known && parsePitch(known.low);
  const high = known && parsePitch(known.high);
  if (!known || !low || !high)
    return fail(
      'scale-instrument',
      'instrument',
      `The range of "${text}" is not known; write the scale's lowest and highest note.`,
    );
  const [diatonic, chromatic, octaveChange] = known.transpose;
  return ok({
    name: known.name,
    low,
    high,
    transposition: { diatonic, chromatic, octaveChange },
    clef: known.clef,
  });
}

/** A key as sheets write it. Shape: the written tonic without its octave. */
export interface ScaleKey {
  readonly step: Step;
  readonly alter: Semitones;
  readonly form: ScaleForm;
  readonly isConcert: boolean;
}

/**
 * Reads a key of a structured sheet: "Bb major", "concert C harmonic minor", "F# minor" (natural).
 * Shape:  with `isArpeggio` the triad of its mode
 * Errors: scale-key
 * Source: docs/formats.md
 */
export function readScaleKey(key: string, isArpeggio = false): Result<ScaleKey, ScaleCode> {
  const match = /^(concert\s+)?([A-G])(#|b)?\s+(?:(natural|harmonic|melodic)\s+)?(major|minor)$/iu.exec(
    key.trim(),
  );
  if (!match)
    return fail(
      'scale-key',
      'key',
      `"${key}" is no key we can write; give one such as "Bb major" or "C harmonic minor".`,
    );
  const mode = (match[5] ?? '').toLowerCase();
  const form = isArpeggio
    ? `${mode} arpeggio`
    : mode === 'major'
      ? 'major'
      : `${(match[4] ?? 'natural').toLowerCase()} minor`;
  return ok({
    step: (match[2] ?? 'C').toUpperCase() as Step,
    alter: match[3] === '#' ? 1 : match[3] === 'b' ? -1 : 0,
    form: form as ScaleForm,
    isConcert: match[1] !== undefined,
  });
}

/** A concert key as the instrument reads it. */
export function writtenKey(key: ScaleKey, { transposition }: ScaleInstrument): ScaleKey {
  if (!key.isConcert) return key;
  const back = { diatonic: -transposition.diatonic, chromatic: -transposition.chromatic, octaveChange: 0 };
  const { step, alter } = transposePitch({ step: key.step, alter: key.alter, octave: 4 }, back);
  return { ...key, step, alter, isConcert: false };
}

/**
 * The written notes of a scale, up and down, from the lowest tonic that the instrument has room above.
 * Shape:  the top note once; a half octave goes up to the fifth
 * Units:  octaves
 * Errors: scale-range, naming how many octaves fit
 * Source: common practice: melodic minor raised going up, natural coming down; chromatic in sharps up, in flats down
 */
export function scaleNotes(
  key: ScaleKey,
  octaves: number,
  bounds: { readonly low: Pitch; readonly high: Pitch },
): Result<readonly Pitch[], ScaleCode> {
  for (let octave = bounds.low.octave; octave <= bounds.high.octave; octave += 1) {
    const tonic: Pitch = { step: key.step, alter: key.alter, octave };
    if (midiOf(tonic) < midiOf(bounds.low)) continue;
    const up = climb(key.form, tonic, { octaves, way: 'up' });
    const top = up.at(-1) ?? tonic;
    if (midiOf(top) > midiOf(bounds.high)) break;
    const down = climb(key.form, tonic, { octaves, way: 'down' }).reverse();
    return ok([...up, ...down.slice(1)]);
  }
  return fail(
    'scale-range',
    'octaves',
    `${octaves === 1 ? 'One octave does' : `${octaves} octaves do`} not fit between the instrument's lowest and highest note; ${roomFor(key, bounds)}.`,
  );
}

function roomFor(key: ScaleKey, bounds: { readonly low: Pitch; readonly high: Pitch }): string {
  for (const octaves of [3, 2.5, 2, 1.5, 1])
    if (scaleFits(key, octaves, bounds)) return `${octaves} ${octaves === 1 ? 'octave does' : 'octaves do'}`;
  return 'not even one octave does';
}

function scaleFits(
  key: ScaleKey,
  octaves: number,
  { low, high }: { readonly low: Pitch; readonly high: Pitch },
): boolean {
  const above = Math.ceil((midiOf(low) - midiOf({ step: key.step, alter: key.alter, octave: 0 })) / 12);
  const first = midiOf({ step: key.step, alter: key.alter, octave: above });
  return first + Math.floor(octaves) * 12 + (octaves % 1 === 0 ? 0 : 7) <= midiOf(high);
}

function climb(
  form: ScaleForm,
  tonic: Pitch,
  { octaves, way }: { readonly octaves: number; readonly way: 'up' | 'down' },
): Pitch[] {
  const whole = Math.floor(octaves);
  const semitones = whole * 12 + (octaves % 1 === 0 ? 0 : 7);
  if (form === 'chromatic')
    return Array.from({ length: semitones + 1 }, (_, n) => chromatic(midiOf(tonic) + n, way));
  const { steps } = DEGREES[form];
  const degrees = DEGREES[form][way];
  const found: Pitch[] = [];
  for (let n = 0; ; n += 1) {
    const octave = Math.floor(n / steps.length);
    const degree = n % steps.length;
    const height = octave * 12 + (degrees[degree] ?? 0);
    if (height > semitones) return found;
    found.push(above(tonic, octave * 7 + (steps[degree] ?? 0), height));
  }
}

/** The pitch so many letters and semitones above another. */
function above(tonic: Pitch, letters: number, semitones: number): Pitch {
  return spellAt(staffPlace(tonic) + letters, midiOf(tonic) + semitones);
}

const SHARPS: readonly (readonly [Step, number])[] = [
  ['C', 0],
  ['C', 1],
  ['D', 0],
  ['D', 1],
  ['E', 0],
  ['F', 0],
  ['F', 1],
  ['G', 0],
  ['G', 1],
  ['A', 0],
  ['A', 1],
  ['B', 0],
];
const FLATS: readonly (readonly [Step, number])[] = [
  ['C', 0],
  ['D', -1],
  ['D', 0],
  ['E', -1],
  ['E', 0],
  ['F', 0],
  ['G', -1],
  ['G', 0],
  ['A', -1],
  ['A', 0],
  ['B', -1],
  ['B', 0],
];

function chromatic(midi: Semitones, way: 'up' | 'down'): Pitch {
  const [step, alter] = (way === 'up' ? SHARPS : FLATS)[midi % 12] ?? ['C', 0];
  return { step, alter, octave: Math.floor(midi / 12) - 1 };
}
