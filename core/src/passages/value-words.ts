import type { LineNote } from '../reading/index.js';

const PLURALS: Readonly<Record<string, string>> = {
  '32nd': 'thirty-seconds',
  '16th': 'sixteenths',
  eighth: 'eighths',
};

/**
 * What a note's value is called in the plural: "sixteenths"; of tuplets of three "triplets".
 * Shape:  empty for values that name no passage
 * Source: MusicXML 4.0, simple type note-type-value
 */
export function valueNameOf({ signs }: Pick<LineNote, 'signs'>): string {
  if (signs.tuplet?.[0] === 3) return 'triplets';
  return PLURALS[signs.noteType ?? ''] ?? '';
}
