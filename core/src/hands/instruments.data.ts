import type { ValveInstrument } from './valves.js';

/**
 * Instruments with valves by the name on the part, the longer names first.
 * Shape:  the written first partial without valves, for parts as they are usually printed
 * Units:  MIDI numbers
 * Source: the harmonic series and how parts are transposed, from memory
 */
export const VALVE_INSTRUMENTS: readonly (readonly [name: string, instrument: ValveInstrument])[] = [
  ['trumpet', { valves: 3, fundamental: 48, thumb: null, lastPartial: 12 }],
  ['cornet', { valves: 3, fundamental: 48, thumb: null, lastPartial: 12 }],
  ['flugelhorn', { valves: 3, fundamental: 48, thumb: null, lastPartial: 10 }],
  ['mellophone', { valves: 3, fundamental: 48, thumb: null, lastPartial: 10 }],
  // The written C below the staff's octave: the double horn's F side, and its B♭ side a fourth above.
  ['horn', { valves: 3, fundamental: 36, thumb: 41, lastPartial: 16 }],
  ['baritone', { valves: 3, fundamental: 34, thumb: null, lastPartial: 10 }],
  ['euphonium', { valves: 4, fundamental: 34, thumb: null, lastPartial: 10 }],
  ['tuba', { valves: 4, fundamental: 22, thumb: null, lastPartial: 10 }],
];

/** Parts of low brass printed in the treble clef a ninth up are fingered like a trumpet. Units: semitones */
export const TREBLE_LOW_BRASS = -14;
