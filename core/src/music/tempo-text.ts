import type { Bpm } from './units.js';
import { unitLength, type BeatUnit, type TempoMark } from './tempo.js';
import { unitGlyph } from './words.js';

/**
 * A tempo as printed: glyph, equals, whole number where it is whole.
 * Shape:  "♩=116"
 * Units:  beats of the unit per minute
 * Source: common practice
 */
export function tempoText(bpm: Bpm, unit: BeatUnit): string {
  unitLength(unit);
  return `${unitGlyph(unit)}=${Math.round(bpm * 10) / 10}`;
}

/**
 * A tempo mark in one line, for reading.
 * Shape:  "♩=88–96", "at least ♩=60", "Vivace", "Vivace, ♩=120", "" where nothing is stated
 * Units:  beats of the unit per minute
 */
export function markText({ beatUnit, bpmMin, bpmMax, bound, words }: TempoMark): string {
  const low = bpmMin ?? bpmMax;
  if (low === null) return words ?? '';
  const number = beatUnit === null ? `?=${low}` : tempoText(low, beatUnit);
  const text =
    {
      min: `at least ${number}`,
      max: `at most ${number}`,
      about: `about ${number}`,
      range: `${number}–${bpmMax}`,
    }[bound as string] ?? number;
  return words === null ? text : `${words}, ${text}`;
}

/**
 * A tempo mark as a person types it, so that it reads back the same.
 * Shape:  "dotted-quarter = 60-66", "Vivace, quarter = ca. 120", "" where nothing is stated
 * Units:  beats of the unit per minute
 */
export function markPhrase({ beatUnit, bpmMin, bpmMax, bound, words }: TempoMark): string {
  const low = bpmMin ?? bpmMax;
  if (low === null || beatUnit === null) return words ?? '';
  const number = bound === 'range' ? `${low}-${bpmMax}` : String(low);
  const limit = { min: ' or faster', max: ' or slower' }[bound as string] ?? '';
  return `${words === null ? '' : `${words}, `}${beatUnit} = ${bound === 'about' ? 'ca. ' : ''}${number}${limit}`;
}
