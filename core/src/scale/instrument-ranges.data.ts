/**
 * Instruments with the written range that students are asked scales in, how far the sounding pitch lies from the
 * written one, and their clef. Source: ranges are common practice of orchestration handbooks, from memory; the
 * transpositions are those of MusicXML 4.0, element transpose.
 */
export const INSTRUMENT_RANGES = [
  { name: 'piccolo', low: 'D4', high: 'C7', transpose: [0, 0, 1], clef: 'G' },
  { name: 'flute', low: 'C4', high: 'C7', transpose: [0, 0, 0], clef: 'G' },
  { name: 'oboe', low: 'Bb3', high: 'F6', transpose: [0, 0, 0], clef: 'G' },
  { name: 'english horn', low: 'B3', high: 'E6', transpose: [-4, -7, 0], clef: 'G' },
  { name: 'bass clarinet', low: 'Eb3', high: 'E6', transpose: [-1, -2, -1], clef: 'G' },
  { name: 'clarinet', low: 'E3', high: 'G6', transpose: [-1, -2, 0], clef: 'G' },
  { name: 'bassoon', low: 'Bb1', high: 'C5', transpose: [0, 0, 0], clef: 'F' },
  { name: 'soprano saxophone', low: 'Bb3', high: 'F6', transpose: [-1, -2, 0], clef: 'G' },
  { name: 'alto saxophone', low: 'Bb3', high: 'F6', transpose: [-5, -9, 0], clef: 'G' },
  { name: 'tenor saxophone', low: 'Bb3', high: 'F6', transpose: [-1, -2, -1], clef: 'G' },
  { name: 'baritone saxophone', low: 'A3', high: 'F6', transpose: [-5, -9, -1], clef: 'G' },
  { name: 'horn', low: 'C3', high: 'C6', transpose: [-4, -7, 0], clef: 'G' },
  { name: 'alto horn', low: 'F#3', high: 'C6', transpose: [-5, -9, 0], clef: 'G' },
  { name: 'tenor horn', low: 'F#3', high: 'C6', transpose: [-5, -9, 0], clef: 'G' },
  { name: 'trumpet', low: 'F#3', high: 'C6', transpose: [-1, -2, 0], clef: 'G' },
  { name: 'cornet', low: 'F#3', high: 'C6', transpose: [-1, -2, 0], clef: 'G' },
  { name: 'flugelhorn', low: 'F#3', high: 'C6', transpose: [-1, -2, 0], clef: 'G' },
  { name: 'bass trombone', low: 'C2', high: 'Bb4', transpose: [0, 0, 0], clef: 'F' },
  { name: 'trombone', low: 'E2', high: 'Bb4', transpose: [0, 0, 0], clef: 'F' },
  { name: 'euphonium', low: 'E2', high: 'Bb4', transpose: [0, 0, 0], clef: 'F' },
  { name: 'tuba', low: 'F1', high: 'F4', transpose: [0, 0, 0], clef: 'F' },
  { name: 'percussion', low: 'F3', high: 'C7', transpose: [0, 0, 0], clef: 'G' },
  { name: 'marimba', low: 'C3', high: 'C7', transpose: [0, 0, 0], clef: 'G' },
  { name: 'mallets', low: 'F4', high: 'C7', transpose: [0, 0, 0], clef: 'G' },
  { name: 'violin', low: 'G3', high: 'A7', transpose: [0, 0, 0], clef: 'G' },
  { name: 'viola', low: 'C3', high: 'A6', transpose: [0, 0, 0], clef: 'C' },
  { name: 'cello', low: 'C2', high: 'A5', transpose: [0, 0, 0], clef: 'F' },
  { name: 'double bass', low: 'E2', high: 'G4', transpose: [0, 0, -1], clef: 'F' },
] as const;

/** How parts shorten or translate a name. */
export const OTHER_RANGE_NAMES: readonly (readonly [written: RegExp, name: string])[] = [
  [/\bsax\b/gu, 'saxophone'],
  [/\bcor anglais\b/gu, 'english horn'],
  [/\bfl(?:ü|ue)gelhorn\b/gu, 'flugelhorn'],
  [/\b(?:string|upright|contra) ?bass\b(?! clarinet| saxophone)/gu, 'double bass'],
];

/** Names that hold the name of another instrument and have a range of their own, which is not known here. */
export const WITHOUT_RANGE: readonly string[] = ['baritone horn', 'piccolo trumpet', 'contrabass clarinet'];
