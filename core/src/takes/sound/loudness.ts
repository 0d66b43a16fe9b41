import type { Sound } from './sound.js';

/** Filter of the second order. Shape: a0 is one */
interface Biquad {
  readonly b: readonly [number, number, number];
  readonly a: readonly [number, number];
}

/** Blocks of loudness last so long and follow each other so. Units: seconds (ITU-R BS.1770) */
const BLOCK = 0.4;
const STEP = 0.1;
const ABSOLUTE_GATE = -70;
const RELATIVE_GATE = -10;
const OFFSET = -0.691;

/**
 * The K-weighting at any rate: a high shelf for the head, then a high pass.
 * Shape:  the two stages; at 48 kHz they are the published coefficients
 * Source: ITU-R BS.1770-4, annex 1, tables 1 and 2; the analogue form by bilinear transform (from memory)
 */
export function kWeighting(rate: number): readonly [Biquad, Biquad] {
  return [highShelf(rate), highPass(rate)];
}

function highShelf(rate: number): Biquad {
  const [hertz, gain, q] = [1681.974450955533, 3.999843853973347, 0.7071752369554196];
  const k = Math.tan((Math.PI * hertz) / rate);
  const high = 10 ** (gain / 20);
  const band = high ** 0.4996667741545416;
  const a0 = 1 + k / q + k * k;
  return {
    b: [
      (high + (band * k) / q + k * k) / a0,
      (2 * (k * k - high)) / a0,
      (high - (band * k) / q + k * k) / a0,
    ],
    a: [(2 * (k * k - 1)) / a0, (1 - k / q + k * k) / a0],
  };
}

function highPass(rate: number): Biquad {
  const [hertz, q] = [38.13547087602444, 0.5003270373238773];
  const k = Math.tan((Math.PI * hertz) / rate);
  const a0 = 1 + k / q + k * k;
  return { b: [1, -2, 1], a: [(2 * (k * k - 1)) / a0, (1 - k / q + k * k) / a0] };
}

function filtered(samples: Float32Array, { b, a }: Biquad): Float32Array {
  const out = new Float32Array(samples.length);
  let [x1, x2, y1, y2] = [0, 0, 0, 0];
  for (let n = 0; n < samples.length; n += 1) {
    const x = samples[n] ?? 0;
    const y = b[0] * x + b[1] * x1 + b[2] * x2 - a[0] * y1 - a[1] * y2;
    [x2, x1, y2, y1] = [x1, x, y1, y];
    out[n] = y;
  }
  return out;
}

/** How loud a sound is, and where. */
export interface Loudness {
  /** Loudness of the whole, gated. Units: LKFS; null where nothing passes the gates */
  readonly integrated: number | null;
  /** Mean K-weighted power from one second to another. Units: LKFS */
  readonly between: (from: number, to: number) => number;
}

/**
 * Loudness by ITU-R BS.1770 of one channel.
 * Units:  LKFS; only differences mean something where the microphone is unknown
 * Source: ITU-R BS.1770-4, annex 1
 */
export function loudnessOf({ samples, rate }: Sound): Loudness {
  const [shelf, pass] = kWeighting(rate);
  const weighted = filtered(filtered(samples, shelf), pass);
  const sums = new Float64Array(weighted.length + 1);
  for (let n = 0; n < weighted.length; n += 1) sums[n + 1] = (sums[n] ?? 0) + (weighted[n] ?? 0) ** 2;
  const power = (from: number, to: number): number => {
    const start = Math.max(0, Math.min(weighted.length - 1, Math.round(from * rate)));
    const end = Math.max(start + 1, Math.min(weighted.length, Math.round(to * rate)));
    return ((sums[end] ?? 0) - (sums[start] ?? 0)) / (end - start);
  };
  const seconds = weighted.length / rate;
  const count = Math.max(0, Math.floor((seconds - BLOCK) / STEP + 1e-9) + 1);
  const powers = Float64Array.from({ length: count }, (_, n) => power(n * STEP, n * STEP + BLOCK));
  return {
    integrated: gated(powers),
    between: (from, to) => asLoudness(power(from, to)),
  };
}

function asLoudness(power: number): number {
  return OFFSET + 10 * Math.log10(Math.max(power, 1e-15));
}

/** The mean of the blocks that are louder than both gates. */
function gated(powers: Float64Array): number | null {
  const audible = [...powers].filter((power) => asLoudness(power) > ABSOLUTE_GATE);
  if (audible.length === 0) return null;
  const gate = asLoudness(mean(audible)) + RELATIVE_GATE;
  return asLoudness(mean(audible.filter((power) => asLoudness(power) > gate)));
}

function mean(values: readonly number[]): number {
  return values.reduce((sum, value) => sum + value, 0) / values.length;
}
