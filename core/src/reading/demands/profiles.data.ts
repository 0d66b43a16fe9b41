/**
 * Families of instruments: how much each demand weighs (our own choice, the sum is 1). Speed weighs most everywhere: what is
 * slow can be prepared, what is fast must be in the hands.
 */
export const FAMILY_WEIGHTS = {
  woodwind: {
    rate: 0.18,
    sustained: 0.18,
    tongued: 0.18,
    slide: 0,
    leaps: 0.06,
    crossings: 0,
    partials: 0,
    breaks: 0.11,
    accidentals: 0.08,
    rhythm: 0.05,
    articulation: 0.04,
    dynamics: 0.02,
    awkward: 0.07,
    range: 0.03,
    strokes: 0,
  },
  brass: {
    rate: 0.14,
    sustained: 0.14,
    tongued: 0.2,
    slide: 0.12,
    leaps: 0.06,
    crossings: 0,
    partials: 0.06,
    breaks: 0,
    accidentals: 0.06,
    rhythm: 0.04,
    articulation: 0.03,
    dynamics: 0.02,
    awkward: 0.05,
    range: 0.08,
    strokes: 0,
  },
  strings: {
    rate: 0.23,
    sustained: 0.23,
    tongued: 0,
    slide: 0,
    leaps: 0.06,
    crossings: 0.09,
    partials: 0,
    breaks: 0,
    accidentals: 0.1,
    rhythm: 0.06,
    articulation: 0.05,
    dynamics: 0.02,
    awkward: 0.05,
    range: 0.07,
    strokes: 0.04,
  },
  mallets: {
    rate: 0.26,
    sustained: 0.26,
    tongued: 0,
    slide: 0,
    leaps: 0.2,
    crossings: 0,
    partials: 0,
    breaks: 0,
    accidentals: 0.1,
    rhythm: 0.06,
    articulation: 0.02,
    dynamics: 0.03,
    awkward: 0,
    range: 0,
    strokes: 0.07,
  },
  drums: {
    rate: 0.25,
    sustained: 0.25,
    tongued: 0,
    slide: 0,
    leaps: 0,
    crossings: 0,
    partials: 0,
    breaks: 0,
    accidentals: 0,
    rhythm: 0.16,
    articulation: 0.1,
    dynamics: 0.05,
    awkward: 0,
    range: 0,
    strokes: 0.19,
  },
  keys: {
    rate: 0.23,
    sustained: 0.23,
    tongued: 0,
    slide: 0,
    leaps: 0.18,
    crossings: 0,
    partials: 0,
    breaks: 0,
    accidentals: 0.16,
    rhythm: 0.08,
    articulation: 0.05,
    dynamics: 0.03,
    awkward: 0,
    range: 0.04,
    strokes: 0,
  },
  voice: {
    rate: 0.13,
    sustained: 0.13,
    tongued: 0.08,
    slide: 0,
    leaps: 0.24,
    crossings: 0,
    partials: 0,
    breaks: 0.06,
    accidentals: 0.14,
    rhythm: 0.06,
    articulation: 0.04,
    dynamics: 0.04,
    awkward: 0,
    range: 0.08,
    strokes: 0,
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

/** Open strings as written. Source: the usual tuning of each (common knowledge). */
export const OPEN_STRINGS: Readonly<Record<string, readonly string[]>> = {
  violin: ['G3', 'D4', 'A4', 'E5'],
  viola: ['C3', 'G3', 'D4', 'A4'],
  cello: ['C2', 'G2', 'D3', 'A3'],
  bass: ['E2', 'A2', 'D3', 'G3'],
};

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
  /** Notes a second, see rates.ts. */
  rate: 7,
  /** Notes a second over two beats: a burst is over before it is hard. */
  sustained: 6,
  /** Tongued notes a second. */
  tongued: 6,
  /** Positions a second that the slide travels. */
  slide: 20,
  /** Semitones a second across the widest leap. */
  leaps: 50,
  /** Strings crossed a second. */
  crossings: 8,
  /** Partials crossed under slurs, a second. */
  partials: 2,
  /** Breaks crossed a second. */
  breaks: 2,
  /** Notes off the key a second. */
  accidentals: 2,
  /** Other durations than the first and changes of tuplet, a second. */
  rhythm: 3,
  /** Changes of articulation a second. */
  articulation: 3,
  /** Dynamics and hairpins a second. */
  dynamics: 1.5,
  /** Awkward pairs in a measure, slow ones counted in part; see awkward-pairs.data.ts. */
  awkward: 1.5,
  /** Semitones that the measure comes into the outer fifth of the range. */
  range: 4,
  /** Rolls, flams and double stops a second. */
  strokes: 2,
} as const;

/**
 * What may be asked at the opening without practice at speed: notes and tongued notes a second, positions a second of a
 * slide. Tonguing of four sixteenths at about 120 is 8 a second, at 105 comfortable; bows and sticks have no such limit
 * of their own (common practice, no source).
 */
export const COMFORTABLE = {
  woodwind: { rate: 9, tongued: 7, slide: Infinity },
  brass: { rate: 9, tongued: 7, slide: 24 },
  strings: { rate: 9, tongued: Infinity, slide: Infinity },
  mallets: { rate: 11, tongued: Infinity, slide: Infinity },
  drums: { rate: 12, tongued: Infinity, slide: Infinity },
  keys: { rate: 11, tongued: Infinity, slide: Infinity },
  voice: { rate: 7, tongued: 5, slide: Infinity },
} as const;
