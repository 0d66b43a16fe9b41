import FFT from 'fft.js';
import type { Sound } from '../sound/sound.js';

/** Pitches that a frame may have, the surest first. Shape: `CANDIDATES` a frame; 0 where there are fewer */
export interface PitchTrack {
  /** MIDI numbers, not rounded. */
  readonly midi: Float32Array;
  /** How much of the frame's belief goes to it, 0 to 1. */
  readonly chance: Float32Array;
}

/** How sure the likeliest pitch of a frame is. Shape: 0 to 1 */
export function surestChance({ chance }: PitchTrack, frame: number): number {
  return chance[frame * CANDIDATES] ?? 0;
}

/** The likeliest pitch of a frame. Units: MIDI number, not rounded; 0 for none */
export function surestMidi({ midi }: PitchTrack, frame: number): number {
  return midi[frame * CANDIDATES] ?? 0;
}

/** What is looked for. Units: hertz; samples between frames; `centre` of frame n is at `n × hop` */
export interface PitchWish {
  readonly lowest: number;
  readonly highest: number;
  readonly hop: number;
}

export const CANDIDATES = 3;

/** Thresholds that a dip is held against, and how likely each is: a beta distribution of mean 0.15 (pYIN). */
const THRESHOLDS = Array.from({ length: 50 }, (_, n) => (n + 1) / 100);
const WEIGHTS = betaWeights(THRESHOLDS, 2, 11);
/** What the deepest dip is worth where it stays above a threshold (pYIN). */
const ABOVE_THRESHOLD = 0.02;

/**
 * The pitches of a sound, frame by frame: dips of the cumulative mean normalised difference, each as likely as the
 * thresholds it is the first to pass.
 * Shape:  frame n is about the sample n × hop
 * Units:  MIDI numbers
 * Source: de Cheveigné and Kawahara, YIN, JASA 111 (2002); Mauch and Dixon, pYIN, ICASSP 2014 (both from memory)
 */
export function pitchTrack(
  { samples, rate }: Sound,
  wish: PitchWish,
  tell?: (done: number) => void,
): PitchTrack {
  const frames = Math.max(1, Math.ceil(samples.length / wish.hop));
  const track = {
    midi: new Float32Array(frames * CANDIDATES),
    chance: new Float32Array(frames * CANDIDATES),
  };
  const yin = new Yin(rate, wish);
  for (let frame = 0; frame < frames; frame += 1) {
    yin.listen(samples, frame * wish.hop);
    yin.write(track, frame);
    if (frame % 256 === 0) tell?.(frame / frames);
  }
  return track;
}

/** One frame after another through the same buffers. */
class Yin {
  private readonly window: number;
  private readonly maxLag: number;
  private readonly minLag: number;
  private readonly fft: FFT;
  private readonly whole: Float64Array;
  private readonly part: Float64Array;
  private readonly wholeSpectrum: Float64Array;
  private readonly partSpectrum: Float64Array;
  private readonly back: Float64Array;
  /** The normalised difference of every lag. */
  private readonly dips: Float64Array;

  constructor(
    private readonly rate: number,
    { lowest, highest }: PitchWish,
  ) {
    this.maxLag = Math.ceil((rate / lowest) * 1.12) + 2;
    this.minLag = Math.max(2, Math.floor(rate / highest / 1.12));
    this.window = Math.round(Math.max(rate * 0.02, (rate / lowest) * 1.6));
    const size = 2 ** Math.ceil(Math.log2(this.window + this.maxLag + 1));
    this.fft = new FFT(size);
    this.whole = new Float64Array(size);
    this.part = new Float64Array(size);
    this.wholeSpectrum = new Float64Array(2 * size);
    this.partSpectrum = new Float64Array(2 * size);
    this.back = new Float64Array(2 * size);
    this.dips = new Float64Array(this.maxLag + 1);
  }

  listen(samples: Float32Array, centre: number): void {
    const { window, maxLag, whole, part } = this;
    const start = centre - ((window + maxLag) >> 1);
    const end = window + maxLag;
    for (let n = 0; n < end; n += 1) {
      const sample = samples[start + n] ?? 0;
      whole[n] = sample;
      part[n] = n < window ? sample : 0;
    }
    this.correlate();
    let [still, moved] = [0, 0];
    for (let n = 0; n < window; n += 1) still += (part[n] ?? 0) ** 2;
    moved = still;
    let sum = 0;
    this.dips[0] = 1;
    for (let lag = 1; lag <= maxLag; lag += 1) {
      moved += (whole[lag + window - 1] ?? 0) ** 2 - (whole[lag - 1] ?? 0) ** 2;
      const difference = Math.max(0, still + moved - 2 * (this.back[2 * lag] ?? 0));
      sum += difference;
      this.dips[lag] = sum > 1e-12 ? (difference * lag) / sum : 1;
    }
  }

  /** The correlation of the window with what follows it, at every lag. */
  private correlate(): void {
    const { fft, wholeSpectrum: a, partSpectrum: b } = this;
    fft.realTransform(a, this.whole);
    fft.completeSpectrum(a);
    fft.realTransform(b, this.part);
    fft.completeSpectrum(b);
    for (let n = 0; n < a.length; n += 2) {
      const [re, im, reB, imB] = [a[n] ?? 0, a[n + 1] ?? 0, b[n] ?? 0, b[n + 1] ?? 0];
      a[n] = re * reB + im * imB;
      a[n + 1] = im * reB - re * imB;
    }
    fft.inverseTransform(this.back, a);
  }

  write({ midi, chance }: PitchTrack, frame: number): void {
    const places = this.minima();
    const deepest = places.reduce(
      (best, lag) => (this.dip(lag) < this.dip(best) ? lag : best),
      places[0] ?? 0,
    );
    const beliefs = new Map<number, number>();
    THRESHOLDS.forEach((threshold, n) => {
      const first = places.find((lag) => this.dip(lag) < threshold);
      const lag = first ?? deepest;
      if (lag > 0)
        beliefs.set(lag, (beliefs.get(lag) ?? 0) + (WEIGHTS[n] ?? 0) * (first ? 1 : ABOVE_THRESHOLD));
    });
    [...beliefs]
      .sort(([, a], [, b]) => b - a)
      .slice(0, CANDIDATES)
      .forEach(([lag, belief], n) => {
        midi[frame * CANDIDATES + n] = 69 + 12 * Math.log2(this.rate / this.refined(lag) / 440);
        chance[frame * CANDIDATES + n] = belief;
      });
  }

  private dip(lag: number): number {
    return this.dips[lag] ?? 1;
  }

  private minima(): number[] {
    const found: number[] = [];
    for (let lag = this.minLag; lag < this.maxLag; lag += 1) {
      const here = this.dip(lag);
      if (here < 0.6 && here <= this.dip(lag - 1) && here < this.dip(lag + 1)) found.push(lag);
    }
    return found;
  }

  /** The bottom of a dip between samples. */
  private refined(lag: number): number {
    const [a, b, c] = [this.dip(lag - 1), this.dip(lag), this.dip(lag + 1)];
    const curve = a - 2 * b + c;
    return curve > 1e-12 ? lag + (0.5 * (a - c)) / curve : lag;
  }
}

function betaWeights(at: readonly number[], alpha: number, beta: number): number[] {
  const raw = at.map((x) => x ** (alpha - 1) * (1 - x) ** (beta - 1));
  const sum = raw.reduce((total, one) => total + one, 0);
  return raw.map((one) => one / sum);
}
