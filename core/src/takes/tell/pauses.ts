import type { AskedMusic } from '../follow/asked-notes.js';
import type { FollowedTake } from '../follow/follow.js';
import { STOP } from '../follow/local-pace.js';

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

/**
 * Where a player stopped though nothing says so.
 * Shape:  in their order; a fermata is held as long as it is held
 * Units:  see Pause
 */
export function pausesOf(music: AskedMusic, { notes }: FollowedTake): Pause[] {
  return notes.flatMap((note, n): Pause[] => {
    const next = notes[n + 1];
    const asked = music.notes[note.asked];
    if (!next || !asked || asked.hasFermata) return [];
    if (next.run !== note.run) {
      const over = note.seconds + asked.lasts * note.pace;
      const length = next.seconds - over;
      return length >= SHORTEST ? [{ seconds: over, length, pass: asked.pass }] : [];
    }
    const { expected } = note;
    const length = next.seconds - note.seconds - (expected ?? 0);
    if (expected === null || length < SHORTEST || next.seconds - note.seconds < expected * STOP.share)
      return [];
    return [{ seconds: note.seconds + expected, length, pass: asked.pass }];
  });
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
