import type { CueKind } from '../cue-kinds/index.js';
import type { HandChoice, HandPath } from './hand-path.js';
import type { HandSolver } from './instrument.js';

/** What a choice is written as on the music, where it is not written as itself. Source: common practice, no source */
const SIGNS: Readonly<Record<HandSolver, Readonly<Record<string, string>>>> = {
  slide: {},
  valves: {},
  fingers: {
    left: 'L',
    right: 'R',
    'fork key': 'fork',
    'side key': 'side',
    'side keys': 'side',
    'one and one': '1+1',
    'first finger': '1',
    'middle finger': 'mid',
    throat: 'A+R',
    plain: '',
  },
  sticking: {},
  strings: {},
  bow: { up: 'V', down: '⊓' },
};

const KINDS: Readonly<Record<HandSolver, CueKind>> = {
  slide: 'slide',
  valves: 'fingering',
  fingers: 'fingering',
  sticking: 'stick',
  bow: 'bow',
  strings: 'string',
};

/** The kind of cue that a solver's choices become. */
export function cueKindOf(solver: HandSolver): CueKind {
  return KINDS[solver];
}

/** What a choice is written as on the music. Shape: "" for what is not written */
export function handSign(solver: HandSolver, choice: string): string {
  return SIGNS[solver][choice] ?? choice;
}

/** Whether a sign on the music may stand for a choice: two fingerings of different notes may share one. */
export function isSignOf(solver: HandSolver, choice: string, sign: string): boolean {
  return sign !== '' && handSign(solver, choice) === sign;
}

/** What a choice is called in a cue. Shape: "Slide in 6", "Valves 1 and 2", "Left", "Down-bow" */
export function handText(solver: HandSolver, choice: string): string {
  if (solver === 'slide')
    return choice.startsWith('V') ? `Slide in ${choice.slice(1)} with the valve` : `Slide in ${choice}`;
  if (solver === 'valves') {
    const valves = choice.replace('T', '');
    const told =
      valves === '0'
        ? 'Open'
        : `${valves.length > 1 ? 'Valves' : 'Valve'} ${[...valves].join(', ').replace(/, (?=.$)/u, ' and ')}`;
    return choice.startsWith('T') ? `${told}, with the thumb` : told;
  }
  if (solver === 'sticking') return choice === 'R' ? 'Right hand' : 'Left hand';
  if (solver === 'strings') return `On string ${choice}`;
  if (solver === 'bow') return choice === 'up' ? 'Up-bow' : 'Down-bow';
  return choice === 'left' || choice === 'right'
    ? `${choice === 'left' ? 'Left' : 'Right'} little finger`
    : `${choice.slice(0, 1).toUpperCase()}${choice.slice(1)}`;
}

/**
 * The choices that are worth writing in: those that are not the plain ones; of hands and bows the first and those that
 * come twice.
 */
export function worthWriting(solver: HandSolver, { notes }: HandPath): HandChoice[] {
  const isTwice = (n: number): boolean => n === 0 || notes[n]?.choice === notes[n - 1]?.choice;
  return notes.filter(({ choice, plain, isSlurred }, n) => {
    if (handSign(solver, choice) === '') return false;
    // A string is written where it is left, and holds until the next.
    if (solver === 'strings') return choice !== plain && (n === 0 || notes[n - 1]?.choice !== choice);
    return solver === 'sticking' || solver === 'bow' ? !isSlurred && isTwice(n) : choice !== plain;
  });
}
