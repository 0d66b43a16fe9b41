import type { Bpm } from './units.js';
import { DIAL_SECTIONS } from './tempo.data.js';

/**
 * Every number on the metronome dial, rising.
 * Shape:  40…208
 * Units:  beats per minute
 * Source: common practice, no source
 */
export const DIAL: readonly number[] = Object.freeze([
  ...DIAL_SECTIONS.flatMap(({ from, to, step }) =>
    Array.from({ length: (to - from) / step }, (_, n) => from + n * step),
  ),
  208,
]);

/**
 * The dial number at or below a tempo.
 * Shape:  the lowest dial number for a tempo below the dial
 * Units:  beats per minute
 * Source: common practice, no source
 * @example snapDown(118) // 116
 */
export function snapDown(bpm: Bpm): number {
  return DIAL.findLast((mark) => mark <= bpm) ?? DIAL[0] ?? bpm;
}
