import type { Semitones } from '../music/index.js';

const UPPER: ReadonlySet<number> = new Set([1, 3, 6, 8, 10]);

/** Whether a bar or key lies in the upper row: the sharps and flats. Units: MIDI number */
export function accidentalRow(midi: Semitones): boolean {
  return UPPER.has(((midi % 12) + 12) % 12);
}
