import type { CueKind } from '../cue-kinds/index.js';
import { cueKindOf, handSign, handSolverOf, handText, type HandSolver } from '../hands/index.js';
import { AS_WRITTEN } from '../music/index.js';
import { instrumentProfile, isBlown } from '../reading/index.js';

/** A cue that one key writes at a note. Shape: `key` a small letter or a digit, each once in a list */
export interface QuickCue {
  readonly key: string;
  readonly kind: CueKind;
  readonly sign: string;
  readonly text: string;
}

/** What hands write with a key, as choices of their solver. */
const HAND_KEYS: Readonly<Record<HandSolver, readonly (readonly [key: string, choice: string])[]>> = {
  slide: [...digits(1, 7), ['0', 'V1']],
  valves: [
    ['0', '0'],
    ...digits(1, 4),
    ...(['12', '13', '23', '123'] as const).map((choice, n) => [String(n + 5), choice] as const),
  ],
  fingers: [
    ['l', 'left'],
    ['r', 'right'],
    ['f', 'fork key'],
    ['s', 'side key'],
  ],
  sticking: [
    ['l', 'L'],
    ['r', 'R'],
  ],
  strings: [],
  bow: [
    ['d', 'down'],
    ['u', 'up'],
  ],
};

/** What every player may write. */
const COMMON: readonly QuickCue[] = [
  { key: 't', kind: 'trap', sign: '!', text: 'Look twice here' },
  { key: 'e', kind: 'ear', sign: '', text: 'Hear it before you play it' },
  { key: 'k', kind: 'rhythm', sign: '', text: 'Keep counting' },
  { key: 'p', kind: 'dynamic', sign: '', text: 'Softer than it feels' },
  { key: 'o', kind: 'dynamic', sign: '', text: 'Louder than it feels' },
];

const BREATH: QuickCue = { key: 'b', kind: 'breath', sign: '’', text: 'Breathe here' };

/** The left hand's fingers on a string. */
const FINGERS: readonly QuickCue[] = digits(0, 4).map(([key, finger]) => ({
  ...{ key, kind: 'fingering', sign: finger },
  text: finger === '0' ? 'Open string' : `Finger ${finger}`,
}));

function digits(from: number, to: number): [string, string][] {
  return Array.from({ length: to - from + 1 }, (_, n) => [String(from + n), String(from + n)]);
}

/**
 * The cues that one key writes at a note of an instrument.
 * Shape:  breath first where it is blown, then what its hands do, then what all may write
 * Source: common practice, no source
 */
export function quickCues(instrument: string): QuickCue[] {
  const { family } = instrumentProfile(instrument);
  // Which keys there are does not hang on the transposition.
  const solver = handSolverOf(instrument, { transposition: AS_WRITTEN });
  return [
    ...(isBlown({ family }) ? [BREATH] : []),
    ...(solver === null ? [] : handCuesByKey(solver)),
    ...(family === 'strings' ? FINGERS : []),
    ...COMMON,
  ];
}

function handCuesByKey(solver: HandSolver): QuickCue[] {
  return HAND_KEYS[solver].map(([key, choice]) => ({
    ...{ key, kind: cueKindOf(solver), sign: handSign(solver, choice), text: handText(solver, choice) },
  }));
}
