/**
 * Families of instruments: how much each demand weighs (our own choice, the sum is 1) and how many notes a second are
 * comfortable (tonguing of four sixteenths at about 120 is 8 a second; common practice, no source).
 */
export const FAMILY_WEIGHTS = {
  woodwind: {
    rate: 0.24,
    tongued: 0.14,
    leaps: 0.1,
    breaks: 0.12,
    accidentals: 0.12,
    rhythm: 0.08,
    articulation: 0.06,
    dynamics: 0.03,
    awkward: 0.06,
    range: 0.05,
  },
  brass: {
    rate: 0.2,
    tongued: 0.16,
    leaps: 0.18,
    breaks: 0.04,
    accidentals: 0.09,
    rhythm: 0.08,
    articulation: 0.06,
    dynamics: 0.03,
    awkward: 0.04,
    range: 0.12,
  },
  strings: {
    rate: 0.28,
    tongued: 0.06,
    leaps: 0.18,
    breaks: 0.02,
    accidentals: 0.14,
    rhythm: 0.09,
    articulation: 0.08,
    dynamics: 0.03,
    awkward: 0.04,
    range: 0.08,
  },
  mallets: {
    rate: 0.34,
    tongued: 0.02,
    leaps: 0.24,
    breaks: 0,
    accidentals: 0.18,
    rhythm: 0.12,
    articulation: 0.03,
    dynamics: 0.05,
    awkward: 0,
    range: 0.02,
  },
  drums: {
    rate: 0.46,
    tongued: 0,
    leaps: 0,
    breaks: 0,
    accidentals: 0,
    rhythm: 0.26,
    articulation: 0.16,
    dynamics: 0.12,
    awkward: 0,
    range: 0,
  },
  keys: {
    rate: 0.32,
    tongued: 0,
    leaps: 0.2,
    breaks: 0,
    accidentals: 0.2,
    rhythm: 0.12,
    articulation: 0.06,
    dynamics: 0.05,
    awkward: 0,
    range: 0.05,
  },
  voice: {
    rate: 0.2,
    tongued: 0.08,
    leaps: 0.24,
    breaks: 0.08,
    accidentals: 0.14,
    rhythm: 0.08,
    articulation: 0.05,
    dynamics: 0.05,
    awkward: 0,
    range: 0.08,
  },
} as const;

/**
 * Register breaks as the written note below each and the one above it. Source: fingering charts of the woodwinds (where
 * the register key, octave key or overblowing begins), from memory; common practice.
 */
export const REGISTER_BREAKS: readonly (readonly [string, keyof typeof FAMILY_WEIGHTS, readonly string[]])[] =
  [
    ['piccolo', 'woodwind', ['C#5', 'C#6']],
    ['flute', 'woodwind', ['C#5', 'C#6']],
    ['oboe', 'woodwind', ['C5', 'G#5']],
    ['english horn', 'woodwind', ['C5', 'G#5']],
    ['clarinet', 'woodwind', ['Bb4', 'C6']],
    ['bassoon', 'woodwind', ['F3', 'D4']],
    ['saxophone', 'woodwind', ['C#5', 'F6']],
    ['recorder', 'woodwind', []],
    ['horn', 'brass', []],
    ['trumpet', 'brass', []],
    ['cornet', 'brass', []],
    ['piccolo trumpet', 'brass', []],
    ['flugelhorn', 'brass', []],
    ['tenor horn', 'brass', []],
    ['alto horn', 'brass', []],
    ['baritone horn', 'brass', []],
    ['trombone', 'brass', []],
    ['euphonium', 'brass', []],
    ['tuba', 'brass', []],
    ['sousaphone', 'brass', []],
    ['violin', 'strings', []],
    ['viola', 'strings', []],
    ['cello', 'strings', []],
    ['bass', 'strings', []],
    ['guitar', 'strings', []],
    ['ukulele', 'strings', []],
    ['harp', 'strings', []],
    ['piano', 'keys', []],
    ['organ', 'keys', []],
    ['harpsichord', 'keys', []],
    ['keyboard', 'keys', []],
    ['celesta', 'keys', []],
    ['marimba', 'mallets', []],
    ['xylophone', 'mallets', []],
    ['vibraphone', 'mallets', []],
    ['mallet', 'mallets', []],
    ['glockenspiel', 'mallets', []],
    ['bells', 'mallets', []],
    ['chimes', 'mallets', []],
    ['timpani', 'drums', []],
    ['drum', 'drums', []],
    ['snare', 'drums', []],
    ['bongo', 'drums', []],
    ['conga', 'drums', []],
    ['tom-tom', 'drums', []],
    ['toms', 'drums', []],
    ['cymbal', 'drums', []],
    ['triangle', 'drums', []],
    ['tambourine', 'drums', []],
    ['percussion', 'drums', []],
    ['voice', 'voice', []],
    ['vocal', 'voice', []],
    ['soprano', 'voice', []],
    ['mezzo', 'voice', []],
    ['alto', 'voice', []],
    ['tenor', 'voice', []],
    ['baritone', 'voice', []],
  ];

/** Names that only say how high another instrument is, where another is named: a bass drum is no bass. */
export const REGISTER_NAMES: readonly string[] = [
  'piccolo',
  'soprano',
  'mezzo',
  'alto',
  'tenor',
  'baritone',
  'bass',
];

/** How parts shorten or translate a name. */
export const OTHER_NAMES: readonly (readonly [short: string, name: string])[] = [
  ['sax', 'saxophone'],
  ['cor anglais', 'english horn'],
  ['fluegelhorn', 'flugelhorn'],
  ['flügelhorn', 'flugelhorn'],
];

/** Where each demand counts one half (our own knees, in the units of each). */
export const DEMAND_KNEES = {
  /** Notes a second over one beat. */
  rate: 8,
  /** Tongued notes a second over one beat. */
  tongued: 6,
  /** Semitones a second across the widest leap. */
  leaps: 40,
  /** Breaks crossed in a measure. */
  breaks: 3,
  /** Notes off the key in a measure. */
  accidentals: 3,
  /** Other durations than the first and changes of tuplet in a measure. */
  rhythm: 4,
  /** Changes of articulation a beat. */
  articulation: 1,
  /** Dynamics and hairpins in a measure. */
  dynamics: 2,
  /** Awkward pairs in a measure, see awkward-pairs.data.ts. */
  awkward: 2,
  /** Semitones that the measure comes into the outer fifth of the range. */
  range: 5,
} as const;

/** Notes a second that may be asked at the opening without practice at speed (common practice, no source). */
export const COMFORTABLE_RATE = { slurred: 9, tongued: 7 } as const;
