/** What a cue is about. */
export const CUE_KINDS = [
  'trap',
  'breath',
  'fingering',
  'slide',
  'stick',
  'roll',
  'bow',
  'string',
  'dynamic',
  'ornament',
  'articulation',
  'character',
  'rhythm',
  'ear',
  'equipment',
  'other',
] as const;

/** One kind of cue. */
export type CueKind = (typeof CUE_KINDS)[number];

/** Strings as players write them, the highest first. */
export const STRING_NAMES = ['I', 'II', 'III', 'IV', 'V', 'VI'] as const;

/** How far a cue is decided: somebody's idea, what is played, or open for the next lesson. */
export const CUE_STATUSES = ['proposed', 'settled', 'discuss'] as const;

/** One status of a cue. */
export type CueStatus = (typeof CUE_STATUSES)[number];

/** Who wrote a cue: the instructor, the reading of the score, or what air and hands work out. */
export const CUE_AUTHORS = ['instructor', 'reading', 'solver'] as const;

/** One author of a cue. */
export type CueAuthor = (typeof CUE_AUTHORS)[number];
