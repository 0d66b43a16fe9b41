type Pair = readonly [string, string];
type PairReason = readonly [instrument: string, pairs: readonly Pair[], why: string];

/** Fifths that one finger stops from the C, G, D and A strings of violin and viola to the next. */
const ON_C: readonly Pair[] = [
  ['Db3', 'Ab3'],
  ['D3', 'A3'],
  ['Eb3', 'Bb3'],
  ['E3', 'B3'],
  ['F3', 'C4'],
  ['F#3', 'C#4'],
];
const ON_G: readonly Pair[] = [
  ['Ab3', 'Eb4'],
  ['A3', 'E4'],
  ['Bb3', 'F4'],
  ['B3', 'F#4'],
  ['C4', 'G4'],
  ['C#4', 'G#4'],
];
const ON_D: readonly Pair[] = [
  ['Eb4', 'Bb4'],
  ['E4', 'B4'],
  ['F4', 'C5'],
  ['F#4', 'C#5'],
  ['G4', 'D5'],
  ['G#4', 'D#5'],
];
const ON_A: readonly Pair[] = [
  ['Bb4', 'F5'],
  ['B4', 'F#5'],
  ['C5', 'G5'],
  ['C#5', 'G#5'],
  ['D5', 'A5'],
  ['D#5', 'A#5'],
];
const ONE_FINGER = 'one finger stops a fifth on two strings';

/**
 * Pairs of written notes that an instrument makes awkward, whichever comes first; each with the reason.
 * Source: fingering charts as every beginner's method prints them (which finger moves where), from memory; that these
 * pairs are practised by themselves is common practice, no source. Instructors know more: the list is a start.
 */
export const AWKWARD_PAIRS: readonly PairReason[] = [
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
      ['B4', 'C5'],
      ['B4', 'C#5'],
      ['B4', 'D#5'],
      ['C5', 'C#5'],
      ['C5', 'D#5'],
      ['C#5', 'D#5'],
      ['E3', 'F3'],
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
      ['D4', 'Eb4'],
      ['A5', 'Bb5'],
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
  ['saxophone', [['C4', 'Eb4']], 'right little finger slides'],
  [
    'saxophone',
    [
      ['C5', 'D5'],
      ['C#5', 'D5'],
    ],
    'many fingers change at once',
  ],
  [
    'saxophone',
    [
      ['A4', 'Bb4'],
      ['Bb4', 'B4'],
      ['Bb4', 'C5'],
      ['A5', 'Bb5'],
      ['Bb5', 'B5'],
      ['Bb5', 'C6'],
    ],
    'side or bis B♭ to be settled',
  ],
  [
    'saxophone',
    [
      ['B4', 'C5'],
      ['B5', 'C6'],
    ],
    'side C or crossed fingers to be settled',
  ],
  [
    'saxophone',
    [
      ['C6', 'D6'],
      ['C#6', 'D6'],
      ['D6', 'Eb6'],
      ['D6', 'E6'],
      ['Eb6', 'F6'],
      ['E6', 'F6'],
    ],
    'palm keys follow each other',
  ],
  [
    'flute',
    [
      ['E6', 'F#6'],
      ['F6', 'G6'],
      ['F#6', 'G#6'],
      ['C5', 'D5'],
      ['C#5', 'D5'],
      ['C#5', 'D#5'],
      ['C6', 'D6'],
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
      ['Eb5', 'E5'],
    ],
    'half hole or little finger',
  ],
  ['bassoon', [['F#3', 'G#3']], 'half hole on both notes'],
  ['bassoon', [['F3', 'G3']], 'half hole for the G'],
  [
    'bassoon',
    [
      ['D3', 'A3'],
      ['Eb3', 'C4'],
      ['D3', 'Bb3'],
      ['Eb3', 'A3'],
      ['E3', 'B3'],
      ['E3', 'C4'],
      ['D3', 'C4'],
    ],
    'flick key to be settled',
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
    'bassoon',
    [
      ['Bb1', 'B1'],
      ['Bb1', 'C2'],
      ['B1', 'C2'],
      ['C2', 'C#2'],
      ['C2', 'D2'],
      ['C#2', 'D2'],
      ['C2', 'Eb2'],
      ['D2', 'Eb2'],
      ['Bb1', 'D2'],
      ['Bb1', 'Eb2'],
    ],
    'the left thumb goes from key to key',
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
      ['D4', 'Eb4'],
      ['F4', 'F#4'],
      ['F5', 'F#5'],
      ['G#4', 'A4'],
      ['Bb4', 'B4'],
    ],
    'valves cross',
  ],
  [
    'cornet',
    [
      ['C#4', 'D4'],
      ['G#4', 'F#4'],
      ['D4', 'Eb4'],
      ['F4', 'F#4'],
      ['F5', 'F#5'],
      ['G#4', 'A4'],
      ['Bb4', 'B4'],
    ],
    'valves cross',
  ],
  [
    'trombone',
    [
      ['E2', 'A2'],
      ['E2', 'Bb2'],
      ['F2', 'Bb2'],
      ['A2', 'B2'],
      ['Bb2', 'B2'],
      ['Bb2', 'C3'],
      ['B2', 'E3'],
      ['B2', 'F3'],
      ['C3', 'F3'],
    ],
    'the slide travels five positions or more',
  ],
  ['violin', [...ON_G, ...ON_D, ...ON_A], ONE_FINGER],
  ['viola', [...ON_C, ...ON_G, ...ON_D], ONE_FINGER],
  [
    'cello',
    [
      ['Db2', 'Ab2'],
      ['D2', 'A2'],
      ['Eb2', 'Bb2'],
      ['E2', 'B2'],
      ['F2', 'C3'],
      ['F#2', 'C#3'],
      ['Ab2', 'Eb3'],
      ['A2', 'E3'],
      ['Bb2', 'F3'],
      ['B2', 'F#3'],
      ['C3', 'G3'],
      ['C#3', 'G#3'],
      ['Eb3', 'Bb3'],
      ['E3', 'B3'],
      ['F3', 'C4'],
      ['F#3', 'C#4'],
      ['G3', 'D4'],
      ['G#3', 'D#4'],
    ],
    ONE_FINGER,
  ],
];
