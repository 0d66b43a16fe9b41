import type { HandNote } from './hand-notes.js';
import {
  measuresList,
  solve,
  type HandPath,
  type HandPin,
  type SolvedWay,
  type Solver,
} from './hand-path.js';

/** A direction. Shape: `name` "down" or "up"; `isSlurred` where the note goes on under the bow of the one before */
interface Bow {
  readonly name: 'down' | 'up';
}

const DOWN: Bow = { name: 'down' };
const UP: Bow = { name: 'up' };

/**
 * What a direction costs (our own): a downbeat, the first of all most, or an accent on an up-bow, an upbeat on a down-bow, the same direction twice
 * as a hook or after a lift, a retake in the line, another direction than is printed, a loud long note up.
 */
const COSTS = {
  downbeatUp: 2,
  beginningUp: 0.5,
  accentUp: 3,
  upbeatDown: 1.2,
  hook: 2.2,
  hookedShort: 1.4,
  retake: 5,
  lifted: 0.4,
  printed: 100,
} as const;
const ACCENTS: ReadonlySet<string> = new Set(['accent', 'strong accent']);
/** A silence in which the bow is set anew. Units: seconds (our own) */
const LIFT = 0.3;

/**
 * The directions of the bow: as it comes, with hooks and lifts where a downbeat or an accent would stand on an up-bow.
 * Shape:  one direction a note; under a slur all notes share it; the plain way goes as it comes, from a down-bow
 * Source: docs/computation.md §6; common practice, no source
 */
export function bowingPath(notes: readonly HandNote[], pins: readonly HandPin[] = []): HandPath {
  return solve(notes, BOWING, pins);
}

const BOWING: Solver<Bow> = {
  choicesOf: () => [DOWN, UP],
  costs: (notes) => ({
    stay: (bow, layer) => {
      const note = notes[layer];
      if (note === undefined || note.isSlurred) return 0;
      const begins = layer === 0 && note.isOnDownbeat && bow.name === 'up' ? COSTS.beginningUp : 0;
      return begins + atNote(bow, note, notes[layer + 1]);
    },
    go: (from, to, layer) => {
      const note = notes[layer];
      if (note?.isSlurred === true) return from.name === to.name ? 0 : Infinity;
      if (from.name !== to.name) return 0;
      return again(note, notes[layer - 1]);
    },
  }),
  because: bowingWords,
  plain: (_, notes) => {
    const way: Bow[] = [];
    for (const { isSlurred } of notes) {
      const before = way.at(-1);
      way.push(isSlurred && before ? before : before === DOWN ? UP : DOWN);
    }
    return way;
  },
};

function atNote({ name }: Bow, note: HandNote, next: HandNote | undefined): number {
  const printed = note.line.signs.techniques.find((one) => one === 'down-bow' || one === 'up-bow');
  const against = printed !== undefined && printed !== `${name}-bow` ? COSTS.printed : 0;
  const isAccented = note.line.signs.articulations.some((sign) => ACCENTS.has(sign));
  if (name === 'up')
    return against + (note.isOnDownbeat ? COSTS.downbeatUp : 0) + (isAccented ? COSTS.accentUp : 0);
  return against + (!note.isOnBeat && next?.isOnDownbeat === true && next.isJoined ? COSTS.upbeatDown : 0);
}

/** The same direction twice: cheap after a silence, a hook for short notes, a retake in the middle of the line. */
function again(note: HandNote | undefined, before: HandNote | undefined): number {
  if (!note || !before) return 0;
  const silence = (note.gap ?? 0) - before.seconds;
  if (silence >= LIFT) return COSTS.lifted;
  const isShort = before.seconds < 0.5 && note.seconds < 1;
  const isDotted =
    before.line.length >= 2.9 * note.line.length || note.line.length >= 2.9 * before.line.length;
  if (isShort && isDotted) return COSTS.hookedShort;
  return isShort ? COSTS.hook : COSTS.retake;
}

/** Shape: "One downbeat on an up-bow instead of 5; hooked in 3, lifted before 7." */
function bowingWords({ notes, path }: SolvedWay<Bow>): string {
  const strokes = notes.flatMap((note, n) => (note.isSlurred ? [] : [n]));
  const upDowns = strokes.filter((n) => path[n]?.name === 'up' && notes[n]?.isOnDownbeat === true);
  const asItComes = strokes.filter((n, k) => k % 2 === 1 && notes[n]?.isOnDownbeat === true);
  const repeated = strokes.filter((n, k) => k > 0 && path[strokes[k - 1] ?? 0]?.name === path[n]?.name);
  const isLift = (n: number): boolean => (notes[n]?.gap ?? 0) - (notes[n - 1]?.seconds ?? 0) >= LIFT;
  const [lifts, hooks] = [repeated.filter(isLift), repeated.filter((n) => !isLift(n))];
  const at = (list: readonly number[]): string => measuresList(list.map((n) => notes[n]?.measure ?? ''));
  const count =
    upDowns.length === 0
      ? 'Every downbeat is a down-bow'
      : `${upDowns.length} downbeats on an up-bow, in ${at(upDowns)}`;
  const instead =
    asItComes.length > upDowns.length ? `; as it comes there would be ${asItComes.length} up` : '';
  const hooked = hooks.length === 0 ? '' : `; hooked or retaken in ${at(hooks)}`;
  const lifted = lifts.length === 0 ? '' : `; lifted before ${at(lifts)}`;
  return `${count}${instead}${hooked}${lifted}.`;
}
