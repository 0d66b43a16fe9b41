/** A little finger of the clarinet: left or right; null where none is needed. */
export type LittleFinger = 'left' | 'right' | null;

/** A way to finger a note. Shape: `name` as pinned; `cost` of taking it beside the plain one, 0 for the plain one */
export interface ClarinetFingering {
  readonly name: string;
  readonly little: LittleFinger;
  readonly cost: number;
}

const BOTH = (plain: 'left' | 'right'): readonly ClarinetFingering[] => {
  const other = plain === 'left' ? 'right' : 'left';
  return [
    { name: plain, little: plain, cost: 0 },
    { name: other, little: other, cost: 0.2 },
  ];
};

/**
 * Fingerings that are to be settled, by the written note; every other note has one.
 * Shape:  the plain one first
 * Source: the fingering chart of the Boehm clarinet as every beginner's method prints it, from memory
 */
export const CLARINET_FINGERINGS: Readonly<Record<string, readonly ClarinetFingering[]>> = {
  E3: BOTH('left'),
  B4: BOTH('left'),
  F3: BOTH('right'),
  C5: BOTH('right'),
  'F#3': BOTH('left'),
  'C#5': BOTH('left'),
  'G#3': [{ name: 'right', little: 'right', cost: 0 }],
  'D#5': [{ name: 'right', little: 'right', cost: 0 }],
  'C#4': [{ name: 'left', little: 'left', cost: 0 }],
  'G#5': [{ name: 'left', little: 'left', cost: 0 }],
  'F#4': [
    { name: 'first finger', little: null, cost: 0 },
    { name: 'side keys', little: null, cost: 0.6 },
  ],
  'A#4': [
    { name: 'throat', little: null, cost: 0 },
    { name: 'side key', little: null, cost: 0.8 },
  ],
  B3: [
    { name: 'middle finger', little: null, cost: 0 },
    { name: 'fork key', little: null, cost: 0.6 },
  ],
  'F#5': [
    { name: 'middle finger', little: null, cost: 0 },
    { name: 'fork key', little: null, cost: 0.6 },
  ],
  'D#4': [
    { name: 'side key', little: null, cost: 0 },
    { name: 'fork', little: null, cost: 0.6 },
  ],
  'A#5': [
    { name: 'side key', little: null, cost: 0 },
    { name: 'one and one', little: null, cost: 0.6 },
  ],
};

/**
 * Neighbours that a fingering makes awkward, whichever comes first; the other fingering of the note goes smoothly.
 * Shape:  written note, its fingering, the neighbour
 * Source: chromatic fingerings as methods teach them, from memory
 */
export const CLARINET_CROSSINGS: readonly (readonly [note: string, fingering: string, neighbour: string])[] =
  [
    ['F#4', 'first finger', 'F4'],
    ['F#4', 'side keys', 'E4'],
    ['F#4', 'side keys', 'G#4'],
    ['A#4', 'side key', 'B4'],
    ['A#4', 'side key', 'C5'],
    ['B3', 'middle finger', 'A#3'],
    ['B3', 'fork key', 'A3'],
    ['B3', 'fork key', 'G3'],
    ['F#5', 'middle finger', 'F5'],
    ['F#5', 'fork key', 'E5'],
    ['F#5', 'fork key', 'D5'],
    ['D#4', 'fork', 'D4'],
    ['D#4', 'fork', 'E4'],
    ['D#4', 'side key', 'A#3'],
    ['A#5', 'side key', 'F5'],
    ['A#5', 'one and one', 'A5'],
    ['A#5', 'one and one', 'B5'],
  ];
