/**
 * How the notes of a group share its time, in lengths of its own notes: a row sums to the size of its group.
 * Shape:  by the number of notes in the group; groups of six are two of three, of eight two of four
 * Source: dotted and varied rhythms are common practice in practising runs, no source; the list is our own
 */
export const DOTTED: Readonly<Record<number, readonly number[]>> = {
  2: [1.5, 0.5],
  3: [1.5, 0.5, 1],
  4: [1.5, 0.5, 1.5, 0.5],
  6: [1.5, 0.5, 1.5, 0.5, 1.5, 0.5],
  8: [1.5, 0.5, 1.5, 0.5, 1.5, 0.5, 1.5, 0.5],
};

/** The same with the short note first. */
export const REVERSE_DOTTED: Readonly<Record<number, readonly number[]>> = {
  2: [0.5, 1.5],
  3: [0.5, 1.5, 1],
  4: [0.5, 1.5, 0.5, 1.5],
  6: [0.5, 1.5, 0.5, 1.5, 0.5, 1.5],
  8: [0.5, 1.5, 0.5, 1.5, 0.5, 1.5, 0.5, 1.5],
};

/** Other rhythms, one row a variant: a stop on each note in turn, then two kinds of gallop. */
export const VARIANTS: readonly {
  readonly name: string;
  readonly rows: Readonly<Record<number, readonly number[]>>;
}[] = [
  {
    name: 'stop on the first',
    rows: {
      3: [2, 0.5, 0.5],
      4: [2, 1, 0.5, 0.5],
      6: [3, 1, 0.5, 0.5, 0.5, 0.5],
      8: [2, 1, 0.5, 0.5, 2, 1, 0.5, 0.5],
    },
  },
  {
    name: 'stop on the second',
    rows: {
      3: [0.5, 2, 0.5],
      4: [0.5, 2, 1, 0.5],
      6: [0.5, 3, 1, 0.5, 0.5, 0.5],
      8: [0.5, 2, 1, 0.5, 0.5, 2, 1, 0.5],
    },
  },
  {
    name: 'stop on the last',
    rows: {
      3: [0.5, 0.5, 2],
      4: [0.5, 0.5, 1, 2],
      6: [0.5, 0.5, 0.5, 0.5, 1, 3],
      8: [0.5, 0.5, 1, 2, 0.5, 0.5, 1, 2],
    },
  },
  {
    name: 'long, short, short, long',
    rows: {
      4: [1.5, 0.5, 0.5, 1.5],
      6: [1.5, 0.5, 1, 1, 0.5, 1.5],
      8: [1.5, 0.5, 0.5, 1.5, 1.5, 0.5, 0.5, 1.5],
    },
  },
  {
    name: 'short, long, long, short',
    rows: {
      4: [0.5, 1.5, 1.5, 0.5],
      6: [0.5, 1.5, 1, 1, 1.5, 0.5],
      8: [0.5, 1.5, 1.5, 0.5, 0.5, 1.5, 1.5, 0.5],
    },
  },
];
