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

/**
 * Character words that stand for a tempo without a number, in the languages that print them (common practice, no
 * source). A phrase may go on with the words that follow.
 */
export const TEMPO_WORDS = [
  ...['grave', 'largo', 'larghetto', 'lento', 'adagio', 'adagietto', 'andante', 'andantino', 'moderato'],
  ...['allegretto', 'allegro', 'allegro moderato', 'vivace', 'vivacissimo', 'vivo', 'presto', 'prestissimo'],
  ...['maestoso', 'tranquillo', 'cantabile', 'animato', 'sostenuto', 'espressivo', 'scherzando', 'giocoso'],
  ...['grazioso', 'dolce', 'agitato', 'energico', 'marziale', 'pesante', 'rubato', 'con moto', 'con brio'],
  ...['con fuoco', 'con spirito', 'con anima', 'tempo di', 'tempo giusto', 'tempo primo', 'tempo ordinario', 'a tempo', 'alla marcia', 'alla breve', 'in tempo'],
  ...['misterioso', 'risoluto', 'semplice', 'leggiero', 'brillante', 'appassionato', 'affettuoso', 'a piacere'],
  ...['langsam', 'lebhaft', 'schnell', 'ruhig', 'bewegt', 'mäßig', 'munter', 'frisch', 'lent', 'vif', 'modéré', 'animé'],
  ...['slow', 'slowly', 'fast', 'quick', 'quickly', 'brisk', 'briskly', 'lively', 'moderately', 'freely', 'flowing'],
  ...['gently', 'broadly', 'boldly', 'spirited', 'with spirit', 'with energy', 'with motion', 'with vigor'],
  ...['with vigour', 'in march time', 'march tempo', 'march', 'waltz', 'swing', 'singing', 'expressively', 'majestically'],
  ...['smoothly', 'calmly', 'not too fast', 'not too slow', 'rhythmically', 'playfully', 'stately', 'vigorously'],
] as const;

/** Words that a tempo heading goes on with after its first (common practice, no source). */
export const TEMPO_QUALIFIERS = [
  ...['e', 'ed', 'ma', 'non', 'con', 'molto', 'assai', 'poco', 'un', 'troppo', 'tanto', 'più', 'piu', 'meno', 'di'],
  ...['quasi', 'alla', 'mosso', 'brio', 'moto', 'fuoco', 'spirito', 'anima', 'espressione', 'grazia', 'marcia'],
  ...['valse', 'valzer', 'minuetto', 'menuetto', 'polacca', 'bolero', 'tango', 'and', 'with', 'but', 'very', 'not'],
  ...['too', 'spirit', 'energy', 'motion', 'feeling', 'expression', 'tempo', 'style', 'energico', 'ben', 'sempre'],
] as const;
