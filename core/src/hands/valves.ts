import { harmonics, pitchName, type Semitones } from '../music/index.js';
import type { HandNote } from './hand-notes.js';
import {
  byPitch,
  solve,
  toldOthers,
  type HandPath,
  type HandPin,
  type SolvedWay,
  type Solver,
} from './hand-path.js';

/**
 * A combination of valves. Shape: `name` "0", "12", "T1" with the thumb of a double horn
 * Units: `cents` how far the note is off, sharp above 0
 */
export interface ValveChoice {
  readonly name: string;
  readonly cents: number;
  readonly partial: number;
}

/** An instrument with valves. Units: MIDI number of the written first partial without valves */
export interface ValveInstrument {
  readonly valves: 3 | 4;
  readonly fundamental: Semitones;
  /** The written first partial of the other side of a double horn, with the thumb. */
  readonly thumb: Semitones | null;
  readonly lastPartial: number;
}

/** What each valve lengthens alone. Units: semitones that it lowers (from memory: 2, 1, 3 and 5) */
const LOWERS: Readonly<Record<string, number>> = { '1': 2, '2': 1, '3': 3, '4': 5 };
const COMBINATIONS_3 = ['0', '2', '1', '12', '23', '13', '123', '3'];
const COMBINATIONS_4 = [...COMBINATIONS_3, '4', '24', '14', '34', '124', '234', '134', '1234'];
/** The third and fourth valves are built a little long, so that they serve together (common practice, no source). */
const LENGTHENED: Readonly<Record<string, number>> = { '3': 1.03, '4': 1.01 };

/** What valves cost (our own): a finger moved, one up as another goes down, another combination than the chart's, cents off. */
const COSTS = { finger: 1, crossed: 0.6, other: 0.9, cents: 0.05, seconds: 0.5, thumb: 0.8 } as const;
/** In so much time fingers move without hurry; their cost falls from here on. Units: seconds (our own) */
const QUICK = 0.12;
/** Fingers that move within so little time are counted as in this. Units: seconds */
const SHORTEST_GAP = 0.05;

/**
 * Every combination that sounds a note, the chart's first.
 * Shape:  the open tube and its partials; a seventh or eleventh partial is left out: nothing mends it
 * Units:  MIDI number of the written pitch
 * Source: harmonic series; a tube lowered by n semitones is 2^(n/12) as long, and lengths of valves add up
 */
export function valveChoices(
  midi: Semitones,
  { valves, fundamental, thumb, lastPartial }: ValveInstrument,
): ValveChoice[] {
  const sides = [{ low: fundamental, prefix: '' }, ...(thumb === null ? [] : [{ low: thumb, prefix: 'T' }])];
  return sides
    .flatMap(({ low, prefix }) => onSide(midi, { valves, low, prefix, lastPartial }))
    .sort((a, b) => order(a, { midi, valves, thumb }) - order(b, { midi, valves, thumb }));
}

interface Side {
  readonly valves: 3 | 4;
  readonly low: Semitones;
  readonly prefix: string;
  readonly lastPartial: number;
}

function onSide(midi: Semitones, { valves, low, prefix, lastPartial }: Side): ValveChoice[] {
  return harmonics(lastPartial)
    .filter(({ number }) => number > 1 && number % 7 !== 0 && number % 11 !== 0 && number % 13 !== 0)
    .flatMap(({ number, semitones, cents }) =>
      (valves === 4 ? COMBINATIONS_4 : COMBINATIONS_3)
        .filter((name) => lowered(name) === low + semitones - midi)
        .map((name) => ({ name: `${prefix}${name}`, partial: number, cents: cents - sunk(name) })),
    );
}

/** From here up the double horn is played with the thumb (common practice, no source). Units: MIDI number of written G♯4 */
const THUMB_FROM = 68;

/**
 * The chart takes the shortest tube, 12 before 3, and a fourth valve, where there is one, before 13; of a horn the side
 * that is usual so high.
 */
function order(
  { name, cents, partial }: ValveChoice,
  { midi, valves, thumb }: Pick<ValveInstrument, 'valves' | 'thumb'> & { readonly midi: Semitones },
): number {
  const plain = name.replace('T', '');
  const isOtherSide = thumb !== null && name.startsWith('T') !== midi >= THUMB_FROM;
  const isReplaced = valves === 4 && plain.includes('1') && plain.includes('3');
  // The horn’s flat fifth partial is passed over for the sixth.
  const isFlat = thumb !== null && partial === 5;
  return (
    (isOtherSide ? 200 : 0) +
    (isFlat ? 35 : 0) +
    lowered(plain) * 10 +
    (plain === '3' || isReplaced ? 5 : 0) +
    Math.abs(cents) / 100
  );
}

/** How many semitones a combination lowers by name. */
function lowered(name: string): Semitones {
  return name === '0' ? 0 : [...name].reduce((sum, valve) => sum + (LOWERS[valve] ?? 0), 0);
}

/** How many cents it lowers too much or, below 0, too little: lengths add up, semitones do not. */
function sunk(name: string): number {
  if (name === '0') return 0;
  const length = [...name].reduce(
    (sum, valve) => sum + (2 ** ((LOWERS[valve] ?? 0) / 12) - 1) * (LENGTHENED[valve] ?? 1),
    1,
  );
  return 1200 * Math.log2(length) - 100 * lowered(name);
}

/**
 * The valves that move least, with intonation weighed on long notes, beside those of the chart.
 * Shape:  notes outside the series are missing
 * Source: docs/computation.md §6
 */
export function valvePath(
  notes: readonly HandNote[],
  instrument: ValveInstrument,
  pins: readonly HandPin[] = [],
): HandPath {
  return solve(notes, valveSolver(instrument), pins);
}

function valveSolver(instrument: ValveInstrument): Solver<ValveChoice> {
  const places = byPitch((midi) => valveChoices(midi, instrument));
  return {
    choicesOf: ({ written }) => places(written),
    costs: (notes) => {
      const usual = notes.map(({ written }) =>
        written === null ? '' : valveChoices(written, instrument)[0]?.name,
      );
      return {
        stay: ({ name, cents }, layer) =>
          (name === usual[layer] ? 0 : COSTS.other) +
          Math.abs(cents) * COSTS.cents * Math.min(2, (notes[layer]?.seconds ?? 0) / COSTS.seconds),
        go: (from, to, layer) => {
          const { moved, isCrossed, isThumb } = change(from.name, to.name);
          const seconds = Math.max(SHORTEST_GAP, notes[layer]?.gap ?? 1);
          const effort = moved * COSTS.finger + (isCrossed ? COSTS.crossed : 0) + (isThumb ? COSTS.thumb : 0);
          return effort * Math.min(1, QUICK / seconds);
        },
      };
    },
    because: valveWords,
  };
}

/** Fingers that move from one combination to another. */
function change(
  from: string,
  to: string,
): { readonly moved: number; readonly isCrossed: boolean; readonly isThumb: boolean } {
  const [before, after] = [fingersOf(from), fingersOf(to)];
  const up = [...before].filter((finger) => !after.has(finger));
  const down = [...after].filter((finger) => !before.has(finger));
  const valves = [...up, ...down].filter((finger) => finger !== 'T').length;
  return {
    moved: valves,
    isCrossed: up.length > 0 && down.length > 0,
    isThumb: from.includes('T') !== to.includes('T'),
  };
}

function fingersOf(name: string): ReadonlySet<string> {
  return new Set([...name].filter((one) => one !== '0'));
}

/** Shape: "18 fingers move instead of 31: E4 with 3 at 7 and 9." */
function valveWords(way: SolvedWay<ValveChoice>): string {
  const { path, plain } = way;
  const movedIn = (choices: readonly ValveChoice[]): number =>
    choices.reduce(
      (sum, { name }, n) => sum + (n === 0 ? 0 : change(choices[n - 1]?.name ?? '', name).moved),
      0,
    );
  const told = toldOthers(way, ({ name }, { line: { written } }) =>
    written ? `${pitchName(written)} with ${valveName(name)}` : '',
  );
  const [moved, plainly] = [movedIn(path), movedIn(plain)];
  if (told === '') return `The chart’s fingerings are the easiest here: ${moved} fingers move.`;
  return moved < plainly
    ? `${moved} fingers move instead of ${plainly}: ${told}.`
    : `Quick changes become easier: ${told}.`;
}

function valveName(name: string): string {
  const [thumb, valves] = name.startsWith('T') ? ['the thumb and ', name.slice(1)] : ['', name];
  return `${thumb}${valves === '0' ? 'no valve' : [...valves].join(' and ')}`;
}
