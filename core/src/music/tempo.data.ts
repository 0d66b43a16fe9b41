/** Note values that a tempo mark can count, longest first, with their length in quarter notes. */
export const NOTE_VALUES = [
  { name: 'whole', quarterLength: 4, glyph: '𝅝', uk: 'semibreve', us: 'whole note', musicXml: 'whole' },
  { name: 'half', quarterLength: 2, glyph: '𝅗𝅥', uk: 'minim', us: 'half note', musicXml: 'half' },
  { name: 'quarter', quarterLength: 1, glyph: '♩', uk: 'crotchet', us: 'quarter note', musicXml: 'quarter' },
  { name: 'eighth', quarterLength: 0.5, glyph: '♪', uk: 'quaver', us: 'eighth note', musicXml: 'eighth' },
  {
    name: 'sixteenth',
    quarterLength: 0.25,
    glyph: '𝅘𝅥𝅯',
    uk: 'semiquaver',
    us: 'sixteenth note',
    musicXml: '16th',
  },
  {
    name: 'thirty-second',
    quarterLength: 0.125,
    glyph: '𝅘𝅥𝅰',
    uk: 'demisemiquaver',
    us: 'thirty-second note',
    musicXml: '32nd',
  },
] as const;

/**
 * The steps of a metronome dial: 40–60 by 2, 60–72 by 3, 72–120 by 4, 120–144 by 6, 144–208 by 8.
 * Source: common practice, no source.
 */
export const DIAL_SECTIONS = [
  { from: 40, to: 60, step: 2 },
  { from: 60, to: 72, step: 3 },
  { from: 72, to: 120, step: 4 },
  { from: 120, to: 144, step: 6 },
  { from: 144, to: 208, step: 8 },
] as const;

/** Character words that stand for a tempo without a number (common practice, no source). */
export const TEMPO_WORDS = [
  'grave',
  'largo',
  'larghetto',
  'lento',
  'adagio',
  'adagietto',
  'andante',
  'andantino',
  'moderato',
  'allegretto',
  'allegro',
  'vivace',
  'vivo',
  'presto',
  'prestissimo',
  'con moto',
  'con brio',
  'maestoso',
  'tranquillo',
  'cantabile',
  'animato',
  'tempo di',
  'alla marcia',
  'in tempo',
  'slow',
  'slowly',
  'fast',
  'brisk',
  'briskly',
  'lively',
  'moderately',
  'freely',
  'rubato',
  'in march time',
  'swing',
] as const;
