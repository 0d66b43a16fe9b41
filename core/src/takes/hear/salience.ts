import FFT from 'fft.js';
import { hertzOf } from '../../music/index.js';
import type { Sound } from '../sound/sound.js';
import { hannWindow } from './hann.js';
import { magnitudeAt } from './magnitude.js';

/**
 * How much of each pitch stands in every frame, though others ring with it.
 * Shape:  `of` of frame and pitch: 1 for the strongest pitch of the frame, 0 for none; `rise` the same of what came anew
 * Units:  whole MIDI numbers from `lowest`
 */
export interface Salience {
  readonly lowest: number;
  readonly count: number;
  readonly strength: Float32Array;
  readonly rise: Float32Array;
}

/** What is looked for. Units: MIDI numbers; samples between frames */
export interface SalienceWish {
  readonly lowest: number;
  readonly highest: number;
  readonly hop: number;
}

const SIZE = 2048;
/** Partials that count, each less than the one before (our own). */
const PARTIALS = 8;
const FADE = 0.8;
/** Between two partials there should be nothing: else the pitch is one of an octave below. */
const BETWEEN = 0.6;
/** Instruments are tuned apart so far. Units: cents */
const TUNED = 35;
/** What came anew is told against so many windows before. */
const BEFORE = 3;
/** Windows are longer than frames, so that every other frame is told anew. */
const STRIDE = 2;

/**
 * The strength of pitches frame by frame, as sums over their partials.
 * Shape:  frame n is about the sample n × hop
 * Source: Klapuri, Multiple fundamental frequency estimation by summing harmonic amplitudes, ISMIR 2006 (from memory);
 *         weights are our own
 */
export function salienceOf(
  { samples, rate }: Sound,
  { lowest, highest, hop }: SalienceWish,
  tell?: (done: number) => void,
): Salience {
  const frames = Math.max(1, Math.ceil(samples.length / hop));
  const count = highest - lowest + 1;
  const strength = new Float32Array(frames * count);
  const rise = new Float32Array(frames * count);
  const combs = Array.from({ length: count }, (_, n) => combOf(lowest + n, rate));
  const picture = new Picture();
  const recent: Float32Array[] = [];
  const anew = new Float32Array(SIZE / 2);
  for (let frame = 0; frame < frames; frame += STRIDE) {
    const magnitudes = picture.of(samples, frame * hop);
    const before = recent[0] ?? magnitudes;
    for (let bin = 0; bin < anew.length; bin += 1)
      anew[bin] = Math.max(0, (magnitudes[bin] ?? 0) - (before[bin] ?? 0));
    fill(strength.subarray(frame * count, (frame + 1) * count), combs, magnitudes);
    fill(rise.subarray(frame * count, (frame + 1) * count), combs, anew);
    for (const table of [strength, rise])
      table.copyWithin((frame + 1) * count, frame * count, (frame + 1) * count);
    recent.push(magnitudes);
    if (recent.length > BEFORE) recent.shift();
    if (frame % 256 === 0) tell?.(frame / frames);
  }
  return { lowest, count, strength, rise };
}

/** How strong a pitch is in a frame, of all that sounds or of what came anew; 0 outside of what was looked for. */
export function salienceAt(
  { lowest, count, ...tables }: Salience,
  kind: 'strength' | 'rise',
  { frame, midi }: { readonly frame: number; readonly midi: number },
): number {
  const place = Math.round(midi) - lowest;
  return place < 0 || place >= count ? 0 : (tables[kind][frame * count + place] ?? 0);
}

/** The bins of a pitch's partials, and of the places between them. Shape: the first and the last of each, in turn */
interface Comb {
  readonly on: Int32Array;
  readonly off: Int32Array;
}

function combOf(midi: number, rate: number): Comb {
  const hertz = hertzOf(midi);
  const bins = (times: number): readonly [number, number] => {
    const middle = (hertz * times * SIZE) / rate;
    const wide = Math.max(0.5, middle * (2 ** (TUNED / 1200) - 1));
    return [Math.round(middle - wide), Math.round(middle + wide)];
  };
  const inside = ([, to]: readonly [number, number]): boolean => to < SIZE / 2;
  const comb = (shift: number): Int32Array =>
    Int32Array.from(
      Array.from({ length: PARTIALS }, (_, n) => bins(n + 1 - shift))
        .filter(inside)
        .flat(),
    );
  return { on: comb(0), off: comb(0.5) };
}

function fill(row: Float32Array, combs: readonly Comb[], magnitudes: Float32Array): void {
  let most = 1e-9;
  for (const [n, { on, off }] of combs.entries()) {
    let [sum, weight] = [0, 1];
    for (let k = 0; k < on.length; k += 2) {
      sum += weight * (highest(magnitudes, on, k) - BETWEEN * highest(magnitudes, off, k));
      weight *= FADE;
    }
    row[n] = Math.max(0, sum);
    most = Math.max(most, sum);
  }
  for (let n = 0; n < row.length; n += 1) row[n] = (row[n] ?? 0) / most;
}

function highest(magnitudes: Float32Array, bins: Int32Array, k: number): number {
  let most = 0;
  const last = bins[k + 1] ?? -1;
  for (let bin = bins[k] ?? 0; bin <= last; bin += 1) most = Math.max(most, magnitudes[bin] ?? 0);
  return most;
}

/** Magnitudes, compressed by a root so that soft partials count beside loud ones. */
class Picture {
  private readonly fft = new FFT(SIZE);
  private readonly input = new Float64Array(SIZE);
  private readonly spectrum = new Float64Array(2 * SIZE);
  private readonly window = hannWindow(SIZE);

  of(samples: Float32Array, centre: number): Float32Array {
    const start = centre - SIZE / 2;
    for (let n = 0; n < SIZE; n += 1) this.input[n] = (samples[start + n] ?? 0) * (this.window[n] ?? 0);
    this.fft.realTransform(this.spectrum, this.input);
    const out = new Float32Array(SIZE / 2);
    for (let bin = 0; bin < out.length; bin += 1) out[bin] = Math.sqrt(magnitudeAt(this.spectrum, bin));
    return out;
  }
}
