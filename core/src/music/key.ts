import type { Semitones } from './units.js';
import { ALTER_ASCII, SHARP_ORDER } from './pitch.data.js';
import type { Step } from './pitch.js';

/** The two modes whose tonic a signature names. */
export type Mode = 'major' | 'minor';

/**
 * The alteration that a key signature gives a letter.
 * Shape:  −2…2 for −14…14 fifths
 * Units:  semitones
 * Source: circle of fifths (common practice)
 */
export function alterInKey(step: Step, fifths: number): Semitones {
  const place = SHARP_ORDER.indexOf(step);
  if (fifths >= 0) return Math.floor((fifths - place + 6) / 7);
  return 0 - Math.floor((place - fifths) / 7);
}

/**
 * The tonic of a signature in plain ASCII: -2 fifths is Bb major, G minor.
 * Shape:  letter with b or #
 * Source: circle of fifths (common practice)
 */
export function tonicOf(fifths: number, mode: Mode): string {
  const place = fifths + 1 + (mode === 'minor' ? 3 : 0);
  const octaves = Math.floor(place / 7);
  return `${SHARP_ORDER[place - 7 * octaves] ?? ''}${ALTER_ASCII[octaves] ?? ''}`;
}

/**
 * A key signature in words: "2 flats", "1 sharp", "no sharps or flats".
 * Units:  fifths above C major
 * Source: common practice
 * @example signatureWords(-2) // '2 flats'
 */
export function signatureWords(fifths: number): string {
  const count = Math.abs(fifths);
  if (count === 0) return 'no sharps or flats';
  return `${count} ${fifths > 0 ? 'sharp' : 'flat'}${count === 1 ? '' : 's'}`;
}
