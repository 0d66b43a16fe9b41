import { InvariantError } from '../base/index.js';
import type { Semitones } from './units.js';
import { ALTER_ASCII, STEP_SEMITONES, STEPS } from './pitch.data.js';

/** One of the seven letters. */
export type Step = (typeof STEPS)[number];

/**
 * A spelled pitch, written or sounding as the field that holds it says.
 * Shape:  `alter` in semitones, quarter tones as .5; `octave` 4 starts at middle C
 * Units:  semitones, octaves
 * Source: MusicXML 4.0, element pitch
 */
export interface Pitch {
  readonly step: Step;
  readonly alter: Semitones;
  readonly octave: number;
}

/**
 * What must be added to the written pitch for the sounding one.
 * Shape:  B♭ clarinet: diatonic −1, chromatic −2, octaveChange 0
 * Units:  diatonic steps, semitones, octaves
 * Source: MusicXML 4.0, element transpose
 */
export interface Transposition {
  readonly diatonic: number;
  readonly chromatic: Semitones;
  readonly octaveChange: number;
}

/** An instrument that sounds as written. */
export const AS_WRITTEN: Transposition = Object.freeze({ diatonic: 0, chromatic: 0, octaveChange: 0 });

/**
 * The MIDI note number; middle C is 60.
 * Shape:  whole for semitones, fractional for quarter tones; no upper or lower bound is imposed
 * Units:  semitones
 * Source: MIDI 1.0 note numbers, with the MusicXML octave of middle C
 * @example midiOf({ step: 'A', alter: 0, octave: 4 }) // 69
 */
export function midiOf(pitch: Pitch): Semitones {
  return (pitch.octave + 1) * 12 + STEP_SEMITONES[pitch.step] + pitch.alter;
}

function alterText(alter: Semitones, table: Readonly<Record<number, string>>): string {
  return table[alter] ?? `(${alter > 0 ? '+' : ''}${alter})`;
}

/**
 * The pitch in plain ASCII: Bb4.
 * Shape:  letter, b or #, octave
 * Source: common practice (scientific pitch notation)
 */
export function pitchName(pitch: Pitch): string {
  return `${letterName(pitch)}${pitch.octave}`;
}

/**
 * The letter with its alteration in plain ASCII, without the octave: Bb.
 * Shape:  letter, b or #
 * Source: common practice
 */
export function letterName({ step, alter }: Pick<Pitch, 'step' | 'alter'>): string {
  return `${step}${alterText(alter, ALTER_ASCII)}`;
}

/**
 * The place of a pitch on the staff: letters above C0, whatever their alteration.
 * Shape:  whole
 * Units:  letters
 */
export function staffPlace({ step, octave }: Pick<Pitch, 'step' | 'octave'>): number {
  return STEPS.indexOf(step) + 7 * octave;
}

/** The letter and octave at a place on the staff: the way back from staffPlace. */
export function letterAt(place: number): { readonly step: Step; readonly octave: number } {
  const octave = Math.floor(place / 7);
  return { step: STEPS[place - 7 * octave] ?? 'C', octave };
}

/**
 * Reads a pitch name with an octave, ASCII or printed signs.
 * Shape:  null when the text is no pitch name
 * Source: common practice (scientific pitch notation)
 */
export function parsePitch(text: string): Pitch | null {
  const match = /^([A-Ga-g])(bb|b|##|#|x|♭♭|♭|♯|𝄫|𝄪|♮)?(-?\d)$/u.exec(text.trim());
  if (!match) return null;
  const [, letter = '', sign = '', octave = ''] = match;
  const alters: Readonly<Record<string, number>> = {
    '': 0,
    '♮': 0,
    b: -1,
    '♭': -1,
    bb: -2,
    '♭♭': -2,
    '𝄫': -2,
    '#': 1,
    '♯': 1,
    '##': 2,
    x: 2,
    '𝄪': 2,
  };
  return { step: letter.toUpperCase() as Step, alter: alters[sign] ?? 0, octave: Number(octave) };
}

/**
 * The sounding pitch of a written one, spelled by the diatonic part of the transposition.
 * Shape:  alter may leave −2…2 for remote keys; the pitch is then respelled by the nearest letter
 * Errors: InvariantError for a transposition that is not whole
 * Source: MusicXML 4.0, element transpose
 */
export function transposePitch(written: Pitch, by: Transposition): Pitch {
  if (!Number.isInteger(by.diatonic) || !Number.isInteger(by.octaveChange)) {
    throw new InvariantError('A transposition counts whole steps and octaves.');
  }
  const isAsWritten = by.diatonic === 0 && by.chromatic === 0 && by.octaveChange === 0;
  if (isAsWritten && Math.abs(written.alter) <= 2) return written;
  const target = midiOf(written) + by.chromatic + 12 * by.octaveChange;
  const place = staffPlace(written) + 7 * by.octaveChange + by.diatonic;
  const spelled = spellAt(place, target);
  if (Math.abs(spelled.alter) <= 2) return spelled;
  const nearer = [place - 1, place + 1].map((candidate) => spellAt(candidate, target));
  return nearer.reduce((best, next) => (Math.abs(next.alter) < Math.abs(best.alter) ? next : best), spelled);
}

/**
 * The pitch at a place on the staff that sounds as a MIDI number.
 * Shape:  alter is whatever it takes
 * Units:  letters above C0; semitones
 * Source: arithmetic
 */
export function spellAt(place: number, midi: Semitones): Pitch {
  const { step, octave } = letterAt(place);
  return { step, octave, alter: midi - (octave + 1) * 12 - STEP_SEMITONES[step] };
}
