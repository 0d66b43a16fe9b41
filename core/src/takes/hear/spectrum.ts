import FFT from 'fft.js';
import type { Sound } from '../sound/sound.js';
import { hannWindow } from './hann.js';
import { magnitudeAt } from './magnitude.js';

/** What the spectrum tells of every frame. Shape: one number a frame, about the sample n × hop */
export interface Spectrum {
  /** How much came anew. Units: log magnitudes over all bands */
  readonly flux: Float32Array;
  /** Units: dB of full scale */
  readonly level: Float32Array;
}

const SIZE = 1024;
/** A change is measured against so many frames before (SuperFlux). */
const LAG = 2;
/** Bands an octave, as in SuperFlux. */
const BANDS_AN_OCTAVE = 24;
const [LOWEST, HIGHEST] = [60, 9000];
/** Magnitudes are compressed by log(1 + so many times) (our own: the level of a take is set to one first). */
const COMPRESSION = 30;

/**
 * What comes anew in a sound, frame by frame, and how loud it is. A maximum over neighbouring bands keeps vibrato from
 * looking like a new note.
 * Shape:  frame n is about the sample n × hop
 * Source: Böck and Widmer, Maximum filter vibrato suppression for onset detection, DAFx 2013 (from memory)
 */
export function spectrumOf({ samples, rate }: Sound, hop: number, tell?: (done: number) => void): Spectrum {
  const frames = Math.max(1, Math.ceil(samples.length / hop));
  const flux = new Float32Array(frames);
  const level = new Float32Array(frames);
  const bands = new Bands(rate);
  const scale = 1 / Math.max(1e-6, loudPart(samples));
  const recent: Float32Array[] = [];
  for (let frame = 0; frame < frames; frame += 1) {
    const { magnitudes, power } = bands.of(samples, frame * hop, scale);
    level[frame] = 10 * Math.log10(Math.max(power / scale / scale, 1e-12));
    const before = recent[recent.length - LAG];
    flux[frame] = before ? rise(magnitudes, before) : 0;
    recent.push(magnitudes);
    if (recent.length > LAG) recent.shift();
    if (frame % 256 === 0) tell?.(frame / frames);
  }
  return { flux, level };
}

/** The root mean square of the louder tenth of a sound. */
function loudPart(samples: Float32Array): number {
  const block = 2048;
  const powers: number[] = [];
  for (let at = 0; at < samples.length; at += block) {
    let sum = 0;
    const end = Math.min(samples.length, at + block);
    for (let n = at; n < end; n += 1) sum += (samples[n] ?? 0) ** 2;
    powers.push(sum / (end - at));
  }
  powers.sort((a, b) => b - a);
  return Math.sqrt(powers[Math.floor(powers.length / 10)] ?? 0);
}

function rise(now: Float32Array, before: Float32Array): number {
  let sum = 0;
  for (let band = 0; band < now.length; band += 1) {
    const held = Math.max(before[band - 1] ?? 0, before[band] ?? 0, before[band + 1] ?? 0);
    const difference = (now[band] ?? 0) - held;
    if (difference > 0) sum += difference;
  }
  return sum;
}

/** Magnitudes in bands that are as wide as music is: fractions of an octave. */
class Bands {
  private readonly fft = new FFT(SIZE);
  private readonly window = hannWindow(SIZE);
  private readonly input = new Float64Array(SIZE);
  private readonly spectrum = new Float64Array(2 * SIZE);
  private readonly edges: number[];

  constructor(rate: number) {
    const bins = new Set<number>();
    for (let hertz = LOWEST; hertz < Math.min(HIGHEST, rate / 2); hertz *= 2 ** (1 / BANDS_AN_OCTAVE))
      bins.add(Math.round((hertz * SIZE) / rate));
    this.edges = [...bins].filter((bin) => bin > 0 && bin <= SIZE / 2);
  }

  of(samples: Float32Array, centre: number, scale: number): { magnitudes: Float32Array; power: number } {
    const start = centre - SIZE / 2;
    let power = 0;
    for (let n = 0; n < SIZE; n += 1) {
      const sample = (samples[start + n] ?? 0) * scale;
      const weight = this.window[n] ?? 0;
      power += sample * sample * weight;
      this.input[n] = sample * weight;
    }
    this.fft.realTransform(this.spectrum, this.input);
    const magnitudes = new Float32Array(this.edges.length);
    for (let band = 0; band < this.edges.length; band += 1) magnitudes[band] = this.band(band);
    return { magnitudes, power: (2 * power) / SIZE };
  }

  private band(band: number): number {
    const from = this.edges[band] ?? 1;
    const to = Math.max(from + 1, this.edges[band + 1] ?? from + 1);
    let sum = 0;
    for (let bin = from; bin < to; bin += 1) sum += magnitudeAt(this.spectrum, bin);
    return Math.log1p((COMPRESSION * sum * 4) / SIZE);
  }
}
