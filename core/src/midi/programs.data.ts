/**
 * Sounds of instruments, longer names before shorter ones.
 * Shape:  program numbers from 0
 * Source: General MIDI Level 1 sound set, from memory
 */
export const PROGRAMS: readonly (readonly [name: string, program: number])[] = [
  // A baritone voice is no horn.
  ['voice', 52],
  ['piccolo', 72],
  ['flute', 73],
  ['english horn', 69],
  ['oboe', 68],
  ['clarinet', 71],
  ['bassoon', 70],
  ['soprano sax', 64],
  ['tenor sax', 66],
  ['baritone sax', 67],
  ['sax', 65],
  ['trumpet', 56],
  ['cornet', 56],
  ['trombone', 57],
  ['euphonium', 58],
  ['baritone', 58],
  ['tuba', 58],
  ['horn', 60],
  ['violin', 40],
  ['viola', 41],
  ['cello', 42],
  ['double bass', 43],
  ['harp', 46],
  ['timpani', 47],
  ['vibraphone', 11],
  ['glockenspiel', 9],
  ['marimba', 12],
  ['xylophone', 13],
  ['guitar', 24],
];

/** The snare drum's key on the channel of drums. Source: General MIDI Level 1 percussion map, from memory */
export const SNARE = 38;
