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
  let states: { readonly at: number; readonly cost: number; readonly path: readonly (number | null)[] }[] = [
    { at: 1, cost: 0, path: [] },
  ];
  for (const midi of notes) {
    const positions = midi === null ? [] : positionsOf(midi);
    states =
      positions.length === 0
        ? states.map((one) => ({ ...one, path: [...one.path, null] }))
        : positions.map((position) => {
            const [best] = states
              .map((one) => ({ one, cost: one.cost + Math.abs(one.at - position) + FAR_COST * position }))
              .sort((a, b) => a.cost - b.cost);
            return { at: position, cost: best?.cost ?? 0, path: [...(best?.one.path ?? []), position] };
          });
  }
  return [...([...states].sort((a, b) => a.cost - b.cost)[0]?.path ?? [])];
}

function positionsOf(midi: Semitones): number[] {
  return PARTIALS.map((partial) => FIRST_POSITION + partial - midi + 1).filter(
    (position) => position >= 1 && position <= LAST_POSITION,
  );
}
