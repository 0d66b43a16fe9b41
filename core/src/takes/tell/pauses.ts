import type { AskedMusic } from '../follow/asked-notes.js';
import type { FollowedNote, FollowedTake } from '../follow/follow.js';
import { isStop } from '../follow/local-pace.js';

/** Where a player stopped. Units: seconds from the beginning of the take; how much longer than written it was */
export interface Pause {
  readonly seconds: number;
  readonly length: number;
  /** Where in the order of playing. */
  readonly pass: number;
}

/** Where a player went back, or on to somewhere else. Shape: passes in the order of playing. Units: seconds */
export interface Restart {
  readonly seconds: number;
  readonly from: number;
  readonly to: number;
}

/** What is shorter is no stop (our own). Units: seconds */
const SHORTEST = 0.6;
/** A fermata that lasts so many times its note is held (our own). */
const HELD = 1.2;

/**
 * Where a player stopped though nothing says so.
 * Shape:  in their order; a fermata is held as long as it is held
 * Units:  see Pause
 */
export function pausesOf(music: AskedMusic, { notes }: Pick<FollowedTake, 'notes'>): Pause[] {
  return notes.flatMap((note, n): Pause[] => {
    const next = notes[n + 1];
    const asked = music.notes[note.asked];
    if (!next || !asked || asked.hasFermata) return [];
    if (next.run !== note.run) {
      const over = note.seconds + writtenFrom(music, note.asked) * note.pace;
      const length = next.seconds - over;
      return length >= SHORTEST ? [{ seconds: over, length, pass: asked.pass }] : [];
    }
    const { expected } = note;
    const length = next.seconds - note.seconds - (expected ?? 0);
    if (expected === null || length < SHORTEST || !isStop(length, expected)) return [];
    return [{ seconds: note.seconds + expected, length, pass: asked.pass }];
  });
}

/** How long it is written from a note to the next, or to the end of its measure where that comes first. */
function writtenFrom({ notes, measures }: AskedMusic, place: number): number {
  const asked = notes[place];
  const measure = measures[asked?.pass ?? -1];
  if (!asked || !measure) return 0;
  return Math.min(notes[place + 1]?.clock ?? Infinity, measure.clock + measure.lasts) - asked.clock;
}

/** Whether the pulse stands still between two notes that follow each other: by a stop, or a fermata that is held. */
export function isHeldUp(
  { notes }: AskedMusic,
  pauses: readonly Pause[],
  [before, next]: readonly [before: FollowedNote, next: FollowedNote],
): boolean {
  const isFermata = notes[before.asked]?.hasFermata === true;
  const isLong = next.seconds - before.seconds > (before.expected ?? Infinity) * HELD;
  return (
    (isFermata && isLong) ||
    pauses.some(({ seconds }) => seconds > before.seconds - 0.02 && seconds <= next.seconds)
  );
}

/** Where a player went back or jumped. Shape: in their order */
export function restartsOf({ notes: asked }: AskedMusic, { notes }: FollowedTake): Restart[] {
  const passOf = (place: number): number => asked[place]?.pass ?? 0;
  return notes.flatMap((note, n): Restart[] => {
    const before = notes[n - 1];
    if (!before || before.run === note.run) return [];
    return [{ seconds: note.seconds, from: passOf(before.asked), to: passOf(note.asked) }];
  });
}
