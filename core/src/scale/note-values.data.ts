/** Note values that a scale is played in. */
export const SCALE_NOTE_VALUES = [
  'whole',
  'half',
  'quarter',
  'eighth',
  'eighth-triplet',
  'sixteenth',
] as const;

/** One of SCALE_NOTE_VALUES. */
export type ScaleNoteValue = (typeof SCALE_NOTE_VALUES)[number];
