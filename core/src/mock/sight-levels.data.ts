/**
 * What a sight-reading study of each level may hold.
 * Shape:  levels 1 to 8; `fifths` the most sharps or flats of the written key; `compass` staff steps from its lowest to its
 *         highest note; `leap` the widest melodic step in staff steps; `cells` the rhythms by meter, see SIGHT_CELLS;
 *         `chromatic` how many notes a study of eight measures alters at most
 * Units:  measures; beats a minute
 * Source: graded syllabuses agree on the order of things (common practice, no source); the numbers are our own
 */
export const SIGHT_LEVELS = [
  {
    level: 1,
    measures: 4,
    meters: ['4/4', '3/4'],
    fifths: 1,
    minor: false,
    compass: 4,
    leap: 2,
    leaps: 0.1,
    cells: 1,
    chromatic: 0,
    bpm: [63, 76],
  },
  {
    level: 2,
    measures: 8,
    meters: ['4/4', '3/4', '2/4'],
    fifths: 2,
    minor: false,
    compass: 6,
    leap: 2,
    leaps: 0.2,
    cells: 2,
    chromatic: 0,
    bpm: [66, 80],
  },
  {
    level: 3,
    measures: 8,
    meters: ['4/4', '3/4', '2/4'],
    fifths: 2,
    minor: true,
    compass: 7,
    leap: 4,
    leaps: 0.25,
    cells: 3,
    chromatic: 0,
    bpm: [66, 88],
  },
  {
    level: 4,
    measures: 8,
    meters: ['4/4', '3/4', '6/8'],
    fifths: 3,
    minor: true,
    compass: 8,
    leap: 4,
    leaps: 0.3,
    cells: 4,
    chromatic: 1,
    bpm: [69, 92],
  },
  {
    level: 5,
    measures: 12,
    meters: ['4/4', '3/4', '6/8'],
    fifths: 3,
    minor: true,
    compass: 9,
    leap: 5,
    leaps: 0.3,
    cells: 5,
    chromatic: 2,
    bpm: [72, 100],
  },
  {
    level: 6,
    measures: 12,
    meters: ['4/4', '3/4', '6/8', '9/8'],
    fifths: 4,
    minor: true,
    compass: 11,
    leap: 7,
    leaps: 0.33,
    cells: 6,
    chromatic: 3,
    bpm: [72, 108],
  },
  {
    level: 7,
    measures: 16,
    meters: ['4/4', '3/4', '6/8', '5/4', '12/8'],
    fifths: 5,
    minor: true,
    compass: 12,
    leap: 7,
    leaps: 0.35,
    cells: 7,
    chromatic: 4,
    bpm: [76, 116],
  },
  {
    level: 8,
    measures: 16,
    meters: ['4/4', '3/4', '6/8', '5/4', '7/8', '12/8'],
    fifths: 6,
    minor: true,
    compass: 14,
    leap: 9,
    leaps: 0.38,
    cells: 8,
    chromatic: 6,
    bpm: [80, 126],
  },
] as const;

/** A level's row. */
export type SightLevel = (typeof SIGHT_LEVELS)[number];

/**
 * Rhythms by the level from which on they come.
 * Shape:  lengths of the notes of one cell; a negative one is a rest; cells of simple meters fill one or two quarters, those of
 *         compound ones a dotted quarter; a meter in eighths that is neither is filled by groups of two and three
 * Units:  quarters, as fractions of 24
 */
export const SIGHT_CELLS: Readonly<
  Record<'simple' | 'compound' | 'pair', readonly (readonly [from: number, cell: readonly number[]])[]>
> = {
  simple: [
    [1, [24]],
    [1, [48]],
    [2, [12, 12]],
    [3, [-24]],
    [3, [36, 12]],
    [4, [6, 6, 6, 6]],
    [5, [12, 6, 6]],
    [5, [6, 6, 12]],
    [5, [18, 6]],
    [6, [8, 8, 8]],
    [6, [12, 24, 12]],
    [7, [-12, 12]],
    [7, [6, 12, 6]],
    [8, [6, 18]],
    [8, [-6, 6, 6, 6]],
  ],
  compound: [
    [1, [36]],
    [1, [24, 12]],
    [1, [12, 12, 12]],
    [5, [12, 24]],
    [5, [18, 6, 12]],
    [6, [12, 12, 6, 6]],
    [6, [-12, 12, 12]],
    [7, [6, 6, 6, 6, 6, 6]],
    [8, [-24, 12]],
    [8, [18, 18]],
  ],
  pair: [
    [1, [24]],
    [1, [12, 12]],
    [8, [18, 6]],
    [8, [6, 6, 12]],
  ],
};
