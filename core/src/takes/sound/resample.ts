import type { Sound } from './sound.js';

/** Sound is analysed at this rate (the design: at least so many). Units: samples a second */
export const ANALYSIS_RATE = 22_050;

/** Zero crossings of the kernel on each side: a stop band of about 60 dB (our own). */
const CROSSINGS = 12;
/** The pass band ends at this share of the lower rate's half. */
const PASS = 0.92;
/** Places between two samples for which the kernel is known. */
const PHASES = 256;

/**
 * A sound at another rate: low-passed by a windowed sinc.
 * Shape:  the same sound where it has the rate already
 * Units:  samples a second
 * Source: Smith and Gossett, A flexible sampling-rate conversion method, ICASSP 1984 (from memory)
 */
export function resampled(sound: Sound, rate = ANALYSIS_RATE): Sound {
  if (sound.rate === rate) return sound;
  const { samples } = sound;
  const step = sound.rate / rate;
  const cut = PASS * Math.min(1, rate / sound.rate);
  const half = Math.ceil(CROSSINGS / cut);
  const kernel = kernelTable(cut, half);
  const length = Math.max(1, Math.floor(samples.length / step));
  const out = new Float32Array(length);
  const width = 2 * half;
  // Nothing sounds before the beginning and after the end.
  const padded = new Float32Array(samples.length + 2 * width);
  padded.set(samples, half - 1);
  for (let n = 0; n < length; n += 1) {
    const place = n * step;
    const first = Math.floor(place);
    const row = Math.round((place - first) * PHASES) * width;
    let sum = 0;
    for (let k = 0; k < width; k += 1) sum += (padded[first + k] ?? 0) * (kernel[row + k] ?? 0);
    out[n] = sum;
  }
  return { samples: out, rate };
}

/** The kernel at every phase, each of sum one. */
function kernelTable(cut: number, half: number): Float32Array {
  const width = 2 * half;
  const table = new Float32Array((PHASES + 1) * width);
  for (let phase = 0; phase <= PHASES; phase += 1) {
    let sum = 0;
    for (let k = 0; k < width; k += 1) {
      const x = k - half + 1 - phase / PHASES;
      const angle = Math.PI * x * cut;
      const sinc = Math.abs(angle) < 1e-9 ? 1 : Math.sin(angle) / angle;
      const window = Math.abs(x) >= half ? 0 : 0.5 + 0.5 * Math.cos((Math.PI * x) / half);
      table[phase * width + k] = sinc * window;
      sum += sinc * window;
    }
    for (let k = 0; k < width; k += 1) table[phase * width + k] = (table[phase * width + k] ?? 0) / sum;
  }
  return table;
}
