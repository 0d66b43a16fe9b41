import { asSeconds, type Bpm, type QuarterCount, type Seconds } from '../music/index.js';

/** Of all the air that a long tone measures, so much is used for music: the rest is kept (common practice, no source). */
export const USABLE_SHARE = 0.85;

/** The air that music may use. Units: seconds of a steady full tone in, seconds out */
export function usableAir(capacity: Seconds): Seconds {
  return asSeconds(capacity * USABLE_SHARE);
}

/** What a long tone must last so that music may use so many seconds. Units: seconds */
export function capacityFor(usable: Seconds): Seconds {
  return asSeconds(usable / USABLE_SHARE);
}

/** How long a phrase lasts. Units: beats and beats a minute of one unit; seconds */
export function phraseSeconds(beats: QuarterCount, bpm: Bpm): Seconds {
  return asSeconds((beats * 60) / bpm);
}

/**
 * The slowest tempo at which a phrase fits into one breath, one bow, or one held note.
 * Units:  beats and beats a minute of one unit; seconds that may be used
 * Source: arithmetic
 */
export function slowestBpm(beats: QuarterCount, usable: Seconds): Bpm {
  return (beats * 60) / usable;
}
