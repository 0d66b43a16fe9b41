/** What a cue is about. */
export const CUE_KINDS = [
  'trap',
  'breath',
  'fingering',
  'slide',
  'stick',
  'bow',
  'dynamic',
  'ornament',
  'character',
  'other',
] as const;

/** One kind of cue. */
export type CueKind = (typeof CUE_KINDS)[number];
