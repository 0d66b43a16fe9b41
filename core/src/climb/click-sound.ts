import type { Click } from './click.js';

/** How clicks of each level sound. Units: hertz; gain 0 to 1. */
export const CLICK_SOUNDS: readonly { readonly hertz: number; readonly gain: number }[] = Object.freeze([
  { hertz: 880, gain: 0.35 },
  { hertz: 1320, gain: 0.6 },
  { hertz: 1760, gain: 0.9 },
]);

/** How long a click is heard. Units: seconds. */
const CLICK_SECONDS = 0.03;

/**
 * Clicks as sound: each begins at the sample nearest to its time.
 * Shape:  mono, −1 to 1; silent ones leave silence
 * Units:  `rate` in samples a second; times of the clicks in seconds
 */
export function renderClick(clicks: readonly Click[], rate: number): Float32Array {
  const last = clicks.at(-1)?.at ?? 0;
  const samples = new Float32Array(Math.ceil((last + 1) * rate));
  for (const { at, level, isSilent } of clicks) {
    if (isSilent) continue;
    const { hertz, gain } = CLICK_SOUNDS[level] ?? { hertz: 1320, gain: 0.6 };
    const from = Math.round(at * rate);
    const count = Math.round(CLICK_SECONDS * rate);
    for (let n = 0; n < count && from + n < samples.length; n += 1) {
      const fade = Math.exp((-5 * n) / count);
      // A cosine begins at its full height, so that the first sample is the beginning.
      samples[from + n] = gain * fade * Math.cos((2 * Math.PI * hertz * n) / rate);
    }
  }
  return samples;
}
