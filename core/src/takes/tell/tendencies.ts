import { groupBy, roundTo, upperMedian } from '../../base/index.js';
import type { NotePitch } from './note-pitches.js';

/** A pitch that stands off the centre in most takes. Units: sounding MIDI number; cents, flat below 0 */
export interface Tendency {
  readonly midi: number;
  readonly cents: number;
  /** In how many takes it was off this way, of how many in which it was heard. */
  readonly off: number;
  readonly takes: number;
}

/** From so many takes on something is a tendency (our own). */
const FEWEST_TAKES = 3;
/** A listener hears less than this as the same pitch (common practice, no source). Units: cents */
const OFF = 8;
const MOST = 2 / 3;

/**
 * Pitches that are sharp or flat in most takes of a student, each against its own take's centre.
 * Shape:  the farthest first; empty below three takes
 * Units:  see Tendency
 * Source: the design
 */
export function tendencies(takes: readonly (readonly NotePitch[])[]): Tendency[] {
  const all = [...groupBy(takes.flat(), ({ midi }) => midi)];
  return all
    .flatMap(([midi, heard]): Tendency[] => {
      const cents = upperMedian(heard.map((one) => one.cents)) ?? 0;
      const off = heard.filter((one) => one.cents * Math.sign(cents) >= OFF).length;
      if (heard.length < FEWEST_TAKES || Math.abs(cents) < OFF || off < heard.length * MOST) return [];
      return [{ midi, cents: roundTo(cents, 0), off, takes: heard.length }];
    })
    .sort((a, b) => Math.abs(b.cents) - Math.abs(a.cents));
}
