/**
 * A source of uniform numbers in [0, 1).
 * Shape:  half-open
 */
export type Random = () => number;

/**
 * A repeatable source of uniform numbers: the same seed gives the same series everywhere.
 * Shape:  [0, 1), 32-bit resolution
 * Source: the mulberry32 generator (public domain), from memory
 */
export function seededRandom(seed: number): Random {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}

/**
 * One draw from a normal distribution.
 * Shape:  any real number
 * Units:  those of `mean` and `sd`
 * Source: Box and Muller 1958, "A note on the generation of random normal deviates"
 */
export function normalDraw(random: Random, mean: number, sd: number): number {
  return mean + sd * normalDraws(random)();
}

/**
 * Draws from the standard normal distribution, two from each pair of uniform numbers.
 * Shape:  any real number
 * Source: as normalDraw
 */
export function normalDraws(random: Random): () => number {
  let spare: number | null = null;
  return () => {
    if (spare !== null) {
      const kept = spare;
      spare = null;
      return kept;
    }
    const radius = Math.sqrt(-2 * Math.log(1 - random()));
    const angle = 2 * Math.PI * random();
    spare = radius * Math.sin(angle);
    return radius * Math.cos(angle);
  };
}
