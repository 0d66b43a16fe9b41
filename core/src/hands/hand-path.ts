import { groupBy, roundTo } from '../base/index.js';
import { leastPath, pathCost, type PathCosts } from './least-path.js';
import type { HandNote } from './hand-notes.js';

/** A note whose choice was settled. Shape: `choice` as the solver names it; `ordinal` from 1 in its measure */
export interface HandPin {
  readonly measureIndex: number;
  readonly ordinal: number;
  readonly choice: string;
}

/** What one note is played with. Shape: `alternatives` the other choices it has */
export interface HandChoice {
  readonly measureIndex: number;
  readonly measure: string;
  readonly ordinal: number;
  readonly choice: string;
  readonly alternatives: readonly string[];
  /** What the plain way takes here. */
  readonly plain: string;
  readonly isPinned: boolean;
  /** Whether it goes on under the slur of the note before. */
  readonly isSlurred: boolean;
}

/**
 * A way through a passage.
 * Shape:  one choice a note that has any; `missing` the measures whose notes the instrument does not have
 * Units:  costs are our own, and only compare ways of one passage
 */
export interface HandPath {
  readonly notes: readonly HandChoice[];
  readonly cost: number;
  readonly plainCost: number;
  readonly because: string;
  readonly missing: readonly string[];
}

/** A choice of a solver. Shape: `name` what it is called and pinned by */
export interface Named {
  readonly name: string;
}

/** What a solver knows of its notes. Shape: `choicesOf` the plain choice first, none for a note that cannot be played */
export interface Solver<Choice extends Named> {
  readonly choicesOf: (note: HandNote, at: number) => readonly Choice[];
  readonly costs: (notes: readonly HandNote[]) => PathCosts<Choice>;
  readonly because: (way: SolvedWay<Choice>) => string;
  /** The plain way, where it is not the first choice of each note. */
  readonly plain?: (layers: readonly (readonly Choice[])[], notes: readonly HandNote[]) => Choice[];
}

/** A solved way beside the plain one. */
export interface SolvedWay<Choice> {
  readonly notes: readonly HandNote[];
  readonly path: readonly Choice[];
  readonly plain: readonly Choice[];
}

/**
 * The cheapest way through some notes, beside the plain way.
 * Shape:  pins that name no choice of their note are passed over
 * Units:  see HandPath
 */
export function solve<Choice extends Named>(
  all: readonly HandNote[],
  solver: Solver<Choice>,
  pins: readonly HandPin[] = [],
): HandPath {
  const offered = all.map((note, n) => ({ note, choices: solver.choicesOf(note, n) }));
  const played = offered.filter(({ choices }) => choices.length > 0);
  const notes = played.map(({ note }) => note);
  const layers = played.map(({ choices }) => choices);
  const pinOf = pinsByNote(pins);
  const open = played.map(({ note, choices }) => {
    const own = choices.filter(({ name }) => name === pinOf(note));
    return own.length > 0 ? own : choices;
  });
  const costs = solver.costs(notes);
  const { path, cost } = leastPath(open, costs);
  const plain = solver.plain?.(layers, notes) ?? layers.flatMap(([first]) => first ?? []);
  return {
    notes: notes.map((note, n): HandChoice => {
      const choice = path[n]?.name ?? '';
      return {
        ...{ measureIndex: note.measureIndex, measure: note.measure, ordinal: note.ordinal, choice },
        alternatives: [...new Set((layers[n] ?? []).map(({ name }) => name))].filter(
          (name) => name !== choice,
        ),
        plain: plain[n]?.name ?? '',
        isPinned: choice === pinOf(note),
        isSlurred: note.isSlurred,
      };
    }),
    cost: roundTo(cost, 3),
    plainCost: roundTo(pathCost(plain, costs), 3),
    because: notes.length === 0 ? 'Nothing here is played with it.' : solver.because({ notes, path, plain }),
    missing: [
      ...new Set(offered.filter(({ choices }) => choices.length === 0).map(({ note }) => note.measure)),
    ],
  };
}

/** The choice that each note was settled with. Shape: of two pins at one note the first counts */
function pinsByNote(
  pins: readonly HandPin[],
): (note: Pick<HandNote, 'measureIndex' | 'ordinal'>) => string | undefined {
  const choices = new Map(
    [...pins].reverse().map((pin) => [`${pin.measureIndex} ${pin.ordinal}`, pin.choice] as const),
  );
  return ({ measureIndex, ordinal }) => choices.get(`${measureIndex} ${ordinal}`);
}

/**
 * What a way does otherwise than the plain one, note by note.
 * Shape:  "F3 in sixth at 4, 12 and 20; D4 in fourth at 6"; "" where it is the plain way; `say` gives "" for what is not told
 */
export function toldOthers<Choice extends Named>(
  { notes, path, plain }: SolvedWay<Choice>,
  say: (choice: Choice, note: HandNote) => string,
): string {
  const changed = path.flatMap((choice, n) => {
    const note = notes[n];
    const what = note && choice.name !== plain[n]?.name ? say(choice, note) : '';
    return note && what !== '' ? [{ what, measure: note.measure }] : [];
  });
  return [...groupBy(changed, ({ what }) => what)]
    .map(([what, own]) => `${what} at ${measuresList(own.map(({ measure }) => measure))}`)
    .join('; ');
}

/** Where something happens, for a sentence. Shape: "4, 12 and 20", six measures at most */
export function measuresList(measures: readonly string[]): string {
  const all = [...new Set(measures)];
  const shown = all.slice(0, 6);
  const [last] = shown.slice(-1);
  if (shown.length <= 1) return last ?? '';
  if (all.length > shown.length) return `${shown.join(', ')} and ${all.length - shown.length} more`;
  return `${shown.slice(0, -1).join(', ')} and ${last ?? ''}`;
}

/** The choices of a pitch, found once: a passage has few pitches and many notes. Units: MIDI number */
export function byPitch<Choice>(
  find: (midi: number) => readonly Choice[],
): (midi: number | null) => readonly Choice[] {
  const known = new Map<number, readonly Choice[]>();
  return (midi) => {
    if (midi === null) return [];
    const own = known.get(midi) ?? find(midi);
    known.set(midi, own);
    return own;
  };
}
