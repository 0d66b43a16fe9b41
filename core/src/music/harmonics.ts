import type { Semitones } from './units.js';

/** A partial of the harmonic series against the keyboard. Units: whole semitones above the first; cents above them */
export interface Partial {
  readonly number: number;
  readonly semitones: Semitones;
  readonly cents: number;
}

/**
 * The partials of the harmonic series up to one of them.
 * Shape:  from the first on
 * Units:  see Partial
 * Source: 12 · log2 n semitones for partial n (the harmonic series)
 * @example harmonics(4).at(-1) // { number: 4, semitones: 24, cents: 0 }
 */
export function harmonics(last: number): Partial[] {
  return Array.from({ length: last }, (_, n) => {
    const exact = 12 * Math.log2(n + 1);
    const semitones = Math.round(exact);
    return { number: n + 1, semitones, cents: (exact - semitones) * 100 };
  });
}
