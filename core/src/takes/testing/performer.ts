import { normalDraw, type Random } from '../../base/index.js';
import type { AskedMusic, AskedNote } from '../follow/asked-notes.js';

/** One note as it is played. Units: seconds from the beginning of the take; MIDI number, null for a stroke */
export interface PlayedNote {
  readonly start: number;
  readonly end: number;
  readonly midi: number | null;
  /** 0 to 1. */
  readonly loud: number;
  readonly isSlurred: boolean;
}

/** Where a note of the score was played. Shape: `asked` its place in the music's notes; null time for one left out */
export interface TrueNote {
  readonly asked: number;
  readonly start: number | null;
}

/** A performance whose truth is known. */
export interface Performance {
  readonly played: readonly PlayedNote[];
  readonly notes: readonly TrueNote[];
  /** When each asked measure began, every time it was played. */
  readonly measures: readonly { readonly pass: number; readonly start: number; readonly end: number }[];
  readonly pauses: readonly { readonly seconds: number; readonly length: number }[];
  /** The passes of the measures it jumped between. */
  readonly restarts: readonly { readonly seconds: number; readonly from: number; readonly to: number }[];
  readonly slips: readonly {
    readonly asked: number;
    readonly kind: 'wrong' | 'missing' | 'added';
    readonly seconds: number;
  }[];
  readonly seconds: number;
}

/** How it is played. */
export interface Manner {
  /** Quarter notes a minute at a place of the music. */
  readonly tempo: (quarters: number) => number;
  /** How far single notes stand from their time (standard deviation). Units: seconds */
  readonly unsteady: number;
  /** Silence before the first note. Units: seconds */
  readonly before: number;
  /** How loud at a place of the music, 0 to 1. */
  readonly loud: (note: AskedNote) => number;
  /** Share of its time that a note sounds where it is not slurred on. */
  readonly length: number;
  /** The player stops after these measures (passes) for so long. */
  readonly pauses: ReadonlyMap<number, number>;
  /** After this measure (pass) the player goes back to that one, once. */
  readonly restarts: ReadonlyMap<number, number>;
  /** Which notes are played wrong, by their place, and by how many semitones. */
  readonly wrong: ReadonlyMap<number, number>;
  readonly missing: ReadonlySet<number>;
  /** Notes after which another is put in, with its interval. */
  readonly added: ReadonlyMap<number, number>;
}

/**
 * Plays music in a manner, and says what was played: the truth that a reading of the sound is held against.
 * Units:  seconds
 */
export function perform({ notes, measures }: AskedMusic, manner: Manner, random: Random): Performance {
  type Items<Key extends 'played' | 'notes' | 'measures' | 'pauses' | 'restarts' | 'slips'> =
    Performance[Key][number][];
  const out: { played: Items<'played'>; notes: Items<'notes'>; measures: Items<'measures'> } = {
    ...{ played: [], notes: [], measures: [] },
  };
  const [pauses, restarts, slips]: [Items<'pauses'>, Items<'restarts'>, Items<'slips'>] = [[], [], []];
  let clock = manner.before;
  const back = new Map(manner.restarts);
  for (let pass = 0; pass < measures.length; pass += 1) {
    const measure = measures[pass];
    if (!measure) continue;
    const begun = clock;
    const timeOf = clockOf(manner.tempo, measure.at, begun);
    const end = timeOf(measure.at + measure.quarters);
    for (const [asked, note] of notes.entries()) {
      if (note.pass !== pass) continue;
      const start = timeOf(note.at) + normalDraw(random, 0, manner.unsteady);
      const next = notes[asked + 1];
      const isJoinedOn = next !== undefined && Math.abs(next.at - note.at - note.length) < 1e-6;
      const span = timeOf(note.at + note.length) - timeOf(note.at);
      const share = note.isStaccato ? 0.5 : isJoinedOn && next.isSlurred ? 1.02 : manner.length;
      if (manner.missing.has(asked)) {
        out.notes.push({ asked, start: null });
        slips.push({ asked, kind: 'missing', seconds: start });
        // What is left out is bridged by the note before where it is slurred, else by silence.
        const last = out.played.at(-1);
        if (note.isSlurred && last) out.played[out.played.length - 1] = { ...last, end: start + span };
        continue;
      }
      const wrong = manner.wrong.get(asked) ?? 0;
      if (wrong !== 0) slips.push({ asked, kind: 'wrong', seconds: start });
      out.notes.push({ asked, start });
      const midi = note.midis[0] === undefined ? null : note.midis[0] + wrong;
      const added = manner.added.get(asked);
      const own = added === undefined ? share : 0.5;
      out.played.push({
        start,
        end: start + span * own,
        midi,
        loud: manner.loud(note),
        isSlurred: note.isSlurred,
      });
      for (const more of note.midis.slice(1))
        out.played.push({
          start,
          end: start + span * own,
          midi: more + wrong,
          loud: manner.loud(note),
          isSlurred: false,
        });
      if (added !== undefined) {
        out.played.push({
          start: start + span * 0.5,
          end: start + span * share,
          midi: midi === null ? null : midi + added,
          loud: manner.loud(note),
          isSlurred: false,
        });
        slips.push({ asked, kind: 'added', seconds: start + span * 0.5 });
      }
    }
    clock = end;
    out.measures.push({ pass, start: begun, end });
    const pause = manner.pauses.get(pass);
    if (pause !== undefined) {
      pauses.push({ seconds: end, length: pause });
      clock += pause;
    }
    const to = back.get(pass);
    if (to !== undefined) {
      back.delete(pass);
      restarts.push({ seconds: clock, from: pass, to });
      // Nobody holds a note on while going back: what is tied over the jump ends with it.
      out.played = out.played.map((note) => ({ ...note, end: Math.min(note.end, clock) }));
      pass = to - 1;
    }
  }
  return { ...out, pauses, restarts, slips, seconds: clock + 1 };
}

/** When places of a measure come, by the tempo at each. */
function clockOf(tempo: (at: number) => number, from: number, begun: number): (at: number) => number {
  const steps = 16;
  return (at) => {
    let seconds = begun;
    const step = (at - from) / steps;
    for (let n = 0; n < steps; n += 1) seconds += (step * 60) / tempo(from + (n + 0.5) * step);
    return seconds;
  };
}

/** An even manner, to be varied. */
export function plainly(bpm: number): Manner {
  return {
    tempo: () => bpm,
    unsteady: 0,
    before: 0.6,
    loud: () => 0.6,
    length: 0.92,
    ...{ pauses: new Map(), restarts: new Map(), wrong: new Map(), missing: new Set(), added: new Map() },
  };
}
