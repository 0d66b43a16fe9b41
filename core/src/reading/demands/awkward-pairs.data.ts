/**
 * Pairs of written notes that an instrument makes awkward, whichever comes first; each with the reason.
 * Source: fingering charts as every beginner's method prints them (which finger moves where), from memory; that these
 * pairs are practised by themselves is common practice, no source. Instructors know more: the list is a start.
 */
export const AWKWARD_PAIRS: readonly (readonly [
  instrument: string,
  pairs: readonly (readonly [string, string])[],
  why: string,
])[] = [
  [
    'clarinet',
    [
      ['A4', 'B4'],
      ['Bb4', 'B4'],
      ['A4', 'C5'],
      ['Bb4', 'C5'],
      ['G#4', 'B4'],
    ],
    'throat note to the full tube',
  ],
  [
    'clarinet',
    [
      ['B4', 'C#5'],
      ['C5', 'D#5'],
      ['C5', 'Eb5'],
      ['C#5', 'D#5'],
      ['E3', 'F#3'],
      ['F3', 'G#3'],
      ['F#3', 'G#3'],
    ],
    'little fingers follow each other',
  ],
  [
    'clarinet',
    [
      ['A#4', 'F#4'],
      ['F4', 'F#4'],
      ['Bb3', 'B3'],
      ['F5', 'F#5'],
    ],
    'fork or side key to be settled',
  ],
  [
    'saxophone',
    [
      ['Bb3', 'B3'],
      ['B3', 'C#4'],
      ['Bb3', 'C#4'],
      ['B3', 'G#4'],
      ['C#4', 'G#4'],
    ],
    'left little finger rolls or slides',
  ],
  [
    'saxophone',
    [
      ['C#5', 'D5'],
      ['C5', 'D5'],
      ['Bb4', 'B4'],
      ['B4', 'C5'],
      ['D6', 'Eb6'],
      ['C6', 'D6'],
    ],
    'many fingers change at once',
  ],
  [
    'flute',
    [
      ['C5', 'D5'],
      ['C#5', 'D5'],
      ['C#5', 'D#5'],
      ['C6', 'D6'],
      ['E6', 'F#6'],
      ['F6', 'G6'],
      ['F#6', 'G#6'],
      ['C4', 'C#4'],
      ['C4', 'D#4'],
    ],
    'many fingers change at once',
  ],
  [
    'oboe',
    [
      ['D4', 'F4'],
      ['D5', 'F5'],
      ['Eb4', 'F4'],
      ['Eb5', 'F5'],
      ['D#5', 'F5'],
    ],
    'forked or left F to be settled',
  ],
  [
    'oboe',
    [
      ['C5', 'C#5'],
      ['C#5', 'D5'],
      ['B4', 'C#5'],
      ['Bb3', 'C4'],
    ],
    'half hole or little finger',
  ],
  [
    'bassoon',
    [
      ['F3', 'G3'],
      ['F#3', 'G#3'],
      ['G3', 'A3'],
      ['A3', 'Bb3'],
    ],
    'half hole and flick key to be settled',
  ],
  [
    'bassoon',
    [
      ['E2', 'F#2'],
      ['F#2', 'G#2'],
      ['Bb2', 'F#2'],
      ['C#3', 'D3'],
      ['E3', 'F#3'],
    ],
    'the thumb changes keys',
  ],
  [
    'horn',
    [
      ['F#4', 'G#4'],
      ['C#5', 'D#5'],
      ['G#4', 'A4'],
    ],
    'side of the horn to be settled',
  ],
  [
    'trumpet',
    [
      ['C#4', 'D4'],
      ['G#4', 'F#4'],
      ['C#4', 'D#4'],
      ['Ab4', 'Eb4'],
      ['G#4', 'A4'],
    ],
    'valves cross',
  ],
  [
    'cornet',
    [
      ['C#4', 'D4'],
      ['G#4', 'F#4'],
      ['G#4', 'A4'],
    ],
    'valves cross',
  ],
  [
    'trombone',
    [
      ['Bb2', 'B2'],
      ['F2', 'B2'],
      ['Bb2', 'C3'],
      ['B2', 'C#3'],
      ['A2', 'B2'],
    ],
    'the slide travels far',
  ],
  [
    'violin',
    [
      ['E4', 'B4'],
      ['F4', 'C5'],
      ['B4', 'F5'],
      ['C5', 'F#5'],
      ['F#4', 'C5'],
    ],
    'one finger on two strings',
  ],
  [
    'viola',
    [
      ['A3', 'E4'],
      ['E4', 'Bb4'],
      ['F4', 'B4'],
    ],
    'one finger on two strings',
  ],
  [
    'cello',
    [
      ['E3', 'B3'],
      ['F3', 'B3'],
      ['B2', 'F3'],
    ],
    'one finger on two strings',
  ],
];
