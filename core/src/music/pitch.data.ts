/** The seven letters in order above C, with semitones above C (twelve-tone equal temperament). */
export const STEP_SEMITONES = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 } as const;

/** The letters in rising order, as ISO 16 and MusicXML name them. */
export const STEPS = ['C', 'D', 'E', 'F', 'G', 'A', 'B'] as const;

/** The same in plain ASCII, as `tonal` and most tools spell them. */
export const ALTER_ASCII: Readonly<Record<number, string>> = {
  [-2]: 'bb',
  [-1]: 'b',
  0: '',
  1: '#',
  2: '##',
};

/** Letters in the order in which key signatures add sharps (flats add them backwards). */
export const SHARP_ORDER = ['F', 'C', 'G', 'D', 'A', 'E', 'B'] as const;
