import { accidentalRow } from './keyboard.js';
import type { HandNote } from './hand-notes.js';
import { measuresList } from './hand-path.js';

/** Where a bar of the upper row is struck. Shape: "edge" the end toward the player, "middle" its centre */
export interface BeatingSpot {
  readonly measureIndex: number;
  readonly measure: string;
  readonly ordinal: number;
  readonly spot: 'edge' | 'middle';
}

/** Rows that change quicker than this are played at the edge. Units: seconds between strokes (our own) */
const QUICK_ROWS = 0.3;

/**
 * Where to strike the bars of the upper row: at the edge where the rows change quickly, else in the middle, never over a cord.
 * Shape:  one entry for each note of the upper row
 * Source: common practice, no source
 */
export function beatingSpots(notes: readonly HandNote[]): BeatingSpot[] {
  return notes.flatMap((note, n) => {
    if (!isUpper(note)) return [];
    const [before, next] = [notes[n - 1], notes[n + 1]];
    const fromBelow = before !== undefined && !isUpper(before) && (note.gap ?? 1) < QUICK_ROWS;
    const toBelow = next !== undefined && !isUpper(next) && (next.gap ?? 1) < QUICK_ROWS;
    const { measureIndex, measure, ordinal } = note;
    return [{ measureIndex, measure, ordinal, spot: fromBelow || toBelow ? 'edge' : 'middle' }];
  });
}

/** Shape: "Upper row at the edge at 3 and 7, in the middle at 12"; "" where no bar of it is struck */
export function beatingText(spots: readonly BeatingSpot[]): string {
  const at = (wanted: BeatingSpot['spot']): string =>
    measuresList(spots.filter(({ spot }) => spot === wanted).map(({ measure }) => measure));
  const said = [
    at('edge') === '' ? '' : `at the edge at ${at('edge')}`,
    at('middle') === '' ? '' : `in the middle at ${at('middle')}`,
  ].filter((text) => text !== '');
  return said.length === 0 ? '' : `Upper row ${said.join(', ')}; never over a cord.`;
}

function isUpper({ written }: HandNote): boolean {
  return written !== null && accidentalRow(written);
}
