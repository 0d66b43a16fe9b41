import type { HandRule } from './hand-rule.js';

/**
 * What teachers pencil in, as patterns of written notes with advice. A start: studios know more.
 * Shape:  notes as written; a pair fires in either order
 * Source: `chart` for what fingering charts show, `practice` for common practice, both from memory and without a source
 */
export const RULE_BOOK: readonly HandRule[] = [
  {
    ...{ id: 'sax-roll-low', instrument: 'saxophone', kind: 'fingering', source: 'chart' },
    pattern: { pairs: ['Bb3 B3', 'B3 C#4', 'Bb3 C#4', 'B3 G#4', 'C#4 G#4'] },
    advice: 'Roll the left little finger over the rollers; do not lift it.',
  },
  {
    ...{ id: 'sax-low-right', instrument: 'saxophone', kind: 'fingering', source: 'chart' },
    pattern: { pairs: ['C4 Eb4'] },
    advice: 'Slide the right little finger over its roller.',
  },
  {
    ...{ id: 'sax-side-b-flat', instrument: 'saxophone', kind: 'fingering', source: 'practice' },
    pattern: { pairs: ['A4 Bb4', 'A5 Bb5'], isQuick: true },
    advice: 'Side B♭ for the half step.',
  },
  {
    ...{ id: 'sax-bis-off', instrument: 'saxophone', kind: 'fingering', source: 'practice' },
    pattern: { pairs: ['Bb4 B4', 'Bb5 B5'] },
    advice: 'No bis key here: side B♭, or the first finger slides.',
  },
  {
    ...{ id: 'sax-side-c', instrument: 'saxophone', kind: 'fingering', source: 'practice' },
    pattern: { pairs: ['B4 C5', 'B5 C6'], isQuick: true },
    advice: 'Side C: only one finger moves.',
  },
  {
    ...{ id: 'sax-chromatic-f-sharp', instrument: 'saxophone', kind: 'fingering', source: 'practice' },
    pattern: { pairs: ['F4 F#4', 'F5 F#5'] },
    advice: 'Chromatic F♯ key: add it to F.',
  },
  {
    ...{ id: 'sax-break', instrument: 'saxophone', kind: 'fingering', source: 'practice' },
    pattern: { pairs: ['C#5 D5', 'C5 D5'] },
    advice: 'Over the break: put the right hand down before the D.',
  },
  {
    ...{ id: 'flute-trill-f-sharp', instrument: 'flute', kind: 'fingering', source: 'practice' },
    pattern: { pairs: ['E6 F#6', 'E5 F#5', 'E4 F#4'], isQuick: true },
    advice: 'F♯ with the middle finger, as fast as this goes.',
  },
  {
    ...{ id: 'flute-first-finger', instrument: 'flute', kind: 'fingering', source: 'chart' },
    pattern: { pairs: ['C5 D5', 'C5 Eb5', 'C#5 D5', 'C#5 Eb5'] },
    advice: 'Lift the left first finger for the D or E♭: it opens the octave.',
  },
  {
    ...{ id: 'flute-low-c-sharp', instrument: 'flute', kind: 'fingering', source: 'chart' },
    pattern: { pairs: ['C4 Eb4', 'C#4 Eb4'] },
    advice: 'Little finger: slide from the foot keys to E♭, or plan which to leave out.',
  },
  {
    ...{ id: 'flute-thumb-b-flat', instrument: 'flute', kind: 'fingering', source: 'practice' },
    pattern: { pairs: ['Bb4 B4', 'Bb5 B5'] },
    advice: 'Not the B♭ thumb here: first finger or lever.',
  },
  {
    ...{ id: 'oboe-f', instrument: 'oboe', kind: 'fingering', source: 'chart' },
    pattern: { pairs: ['D4 F4', 'D5 F5', 'Eb4 F4', 'Eb5 F5'] },
    advice: 'Left F, or forked F where the left hand is taken.',
  },
  {
    ...{ id: 'oboe-half-hole', instrument: 'oboe', kind: 'fingering', source: 'chart' },
    pattern: { pairs: ['C5 C#5', 'C5 D5', 'B4 C#5', 'B4 D5', 'C5 Eb5'] },
    advice: 'Half hole: roll the first finger, do not lift it.',
  },
  {
    ...{ id: 'oboe-low', instrument: 'oboe', kind: 'fingering', source: 'chart' },
    pattern: { pairs: ['B3 C#4', 'Bb3 C4', 'B3 Eb4', 'C4 C#4'] },
    advice: 'Little fingers follow each other: settle which one slides.',
  },
  {
    ...{ id: 'bassoon-flick', instrument: 'bassoon', kind: 'fingering', source: 'practice' },
    pattern: { intoFromBelow: ['A3', 'Bb3', 'B3', 'C4'], isSlurred: true },
    advice: 'Flick the left thumb at the beginning of the upper note.',
  },
  {
    ...{ id: 'bassoon-half-hole', instrument: 'bassoon', kind: 'fingering', source: 'chart' },
    pattern: { notes: ['F#3', 'G3', 'G#3'] },
    advice: 'Half hole; the higher the note, the smaller it is.',
  },
  {
    ...{ id: 'bassoon-thumb', instrument: 'bassoon', kind: 'fingering', source: 'chart' },
    pattern: { pairs: ['E2 F#2', 'F#2 G#2', 'Bb2 F#2', 'E3 F#3'] },
    advice: 'The thumb changes keys: front or back F♯ by what comes next.',
  },
  {
    ...{ id: 'horn-b-flat-side', instrument: 'horn', kind: 'fingering', source: 'practice' },
    pattern: { pairs: ['F4 F#4', 'F#4 G4', 'E4 F#4', 'F#4 G#4'], isQuick: true },
    advice: 'Stay on the B♭ side for this run.',
  },
  {
    ...{ id: 'horn-low-slur', instrument: 'horn', kind: 'other', source: 'practice' },
    pattern: { leapFrom: 12, isSlurred: true },
    advice: 'Hear the upper note before the slur; the air leads, the lips follow.',
  },
  {
    ...{ id: 'euphonium-fourth', instrument: 'euphonium', kind: 'fingering', source: 'chart' },
    pattern: { notes: ['C3', 'F2'] },
    advice: 'Fourth valve instead of 1 and 3: it is in tune.',
  },
  {
    ...{ id: 'tuba-fourth', instrument: 'tuba', kind: 'fingering', source: 'chart' },
    pattern: { notes: ['C2', 'F2'] },
    advice: 'Fourth valve instead of 1 and 3, where there is one.',
  },
  {
    ...{ id: 'trumpet-third-slide', instrument: 'trumpet', kind: 'fingering', source: 'chart' },
    pattern: { notes: ['D4', 'C#4'], longerThan: 0.4 },
    advice: 'Third slide out: 1 and 3 is sharp, 1 2 3 more so.',
  },
  {
    ...{ id: 'violin-fourth-finger', instrument: 'violin', kind: 'fingering', source: 'practice' },
    pattern: { notes: ['D4', 'A4', 'E5'], isSlurred: true },
    advice: 'Fourth finger instead of the open string inside the slur.',
  },
  {
    ...{ id: 'violin-fifth', instrument: 'violin', kind: 'fingering', source: 'practice' },
    pattern: { pairs: ['E4 B4', 'F4 C5', 'F#4 C#5', 'B4 F#5', 'C5 G5', 'D5 A5'] },
    advice: 'One finger stops the fifth on both strings.',
  },
  {
    ...{ id: 'viola-fourth-finger', instrument: 'viola', kind: 'fingering', source: 'practice' },
    pattern: { notes: ['G3', 'D4', 'A4'], isSlurred: true },
    advice: 'Fourth finger instead of the open string inside the slur.',
  },
  {
    ...{ id: 'cello-extension', instrument: 'cello', kind: 'fingering', source: 'practice' },
    pattern: { pairs: ['D3 F#3', 'A3 C#4', 'G2 B2', 'C2 E2', 'Eb3 G3', 'Bb3 D4'] },
    advice: 'Extended hand: open it from the first finger, the thumb comes along.',
  },
  {
    ...{ id: 'bass-shift', instrument: 'double bass', kind: 'fingering', source: 'practice' },
    pattern: { leapFrom: 5, isSlurred: true },
    advice: 'Settle the shift or the crossing before the slur begins.',
  },
  {
    ...{ id: 'voice-leap', instrument: 'voice', kind: 'character', source: 'practice' },
    pattern: { leapFrom: 7 },
    advice: 'Keep the vowel through the leap; breathe low before it.',
  },
];
