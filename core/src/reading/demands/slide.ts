import type { Semitones } from '../../music/index.js';

/** The note of the first partial in first position of a tenor trombone: B♭1. Units: MIDI numbers. */
const FIRST_POSITION = 34;
/** Partials that are used, in semitones above the first; the seventh is flat and left out (harmonic series). */
const PARTIALS: readonly Semitones[] = [0, 12, 19, 24, 28, 31, 36, 38, 40, 43];
const LAST_POSITION = 7;
/** What a far position costs beside the way there, so that near ones are taken where the way is equal (our own). */
const FAR_COST = 0.05;

/**
 * The slide positions of a line of notes that travel least.
 * Shape:  1 to 7 a note; null for notes that a slide without valve does not have
 * Units:  MIDI numbers of sounding pitches; positions
 * Source: the harmonic series, a semitone a position; shortest path over the notes
 */
export function slidePositions(notes: readonly (Semitones | null)[]): (number | null)[] {
  let states: readonly State[] = [{ at: 1, cost: 0, before: null }];
  const ends = notes.map((midi) => {
    const positions = midi === null ? [] : positionsOf(midi);
    // A note that the slide does not have leaves it where it is.
    if (positions.length > 0) states = positions.map((position) => nearest(states, position));
    return positions.length > 0;
  });
  let here: State | null = [...states].sort((a, b) => a.cost - b.cost)[0] ?? null;
  return ends
    .toReversed()
    .map((isPlayed) => {
      if (!isPlayed) return null;
      const position = here?.at ?? null;
      here = here?.before ?? null;
      return position;
    })
    .toReversed();
}

/** A slide in a position, with the way that led there at least cost. */
interface State {
  readonly at: number;
  readonly cost: number;
  readonly before: State | null;
}

function nearest(states: readonly State[], position: number): State {
  const costOf = ({ at, cost }: State): number => cost + Math.abs(at - position);
  const best = states.reduce((a, b) => (costOf(b) < costOf(a) ? b : a));
  return { at: position, cost: costOf(best) + FAR_COST * position, before: best };
}

function positionsOf(midi: Semitones): number[] {
  return PARTIALS.map((partial) => FIRST_POSITION + partial - midi + 1).filter(
    (position) => position >= 1 && position <= LAST_POSITION,
  );
}
