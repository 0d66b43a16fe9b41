import { hertzOf } from '../../music/index.js';
import type { Random } from '../../base/index.js';
import type { Sound } from '../sound/sound.js';
import type { PlayedNote } from './performer.js';

/** A sound of its own kind, made by formula. */
export interface Timbre {
  /** Strength of each harmonic at loudness 0 to 1. */
  readonly harmonic: (n: number, loud: number) => number;
  /** Units: seconds */
  readonly attack: number;
  readonly release: number;
  /** How fast it dies away by itself; null where it is held. Units: seconds to a third */
  readonly decay: number | null;
  /** Units: cents, hertz */
  readonly vibrato: number;
  readonly vibratoRate: number;
  /** Breath or bow in the sound, 0 to 1. */
  readonly noise: number;
  /** Multiples of the pitch that the partials have. */
  readonly partials?: readonly number[];
}

export const TIMBRES = {
  clarinet: {
    harmonic: (n, loud) => (n % 2 === 1 ? 1 : 0.12) / n ** (2 - loud),
    attack: 0.03,
    release: 0.05,
    decay: null,
    vibrato: 0,
    vibratoRate: 5,
    noise: 0.01,
  },
  flute: {
    harmonic: (n, loud) => [1, 0.5, 0.25, 0.1, 0.04][n - 1] ?? 0.02 * loud,
    attack: 0.045,
    release: 0.06,
    decay: null,
    vibrato: 18,
    vibratoRate: 5.2,
    noise: 0.05,
  },
  trombone: {
    harmonic: (n, loud) => 1 / n ** (1.9 - 1.2 * loud),
    attack: 0.035,
    release: 0.06,
    decay: null,
    vibrato: 0,
    vibratoRate: 5,
    noise: 0.01,
  },
  bassoon: {
    harmonic: (n, loud) => (n === 1 ? 0.4 : 1) / n ** (1.5 - 0.5 * loud),
    attack: 0.03,
    release: 0.05,
    decay: null,
    vibrato: 6,
    vibratoRate: 5,
    noise: 0.02,
  },
  violin: {
    harmonic: (n) => 1 / n,
    attack: 0.06,
    release: 0.1,
    decay: null,
    vibrato: 25,
    vibratoRate: 5.8,
    noise: 0.03,
  },
  marimba: {
    harmonic: (n) => [1, 0.35, 0.12][n - 1] ?? 0,
    attack: 0.003,
    release: 0.25,
    decay: 0.35,
    vibrato: 0,
    vibratoRate: 5,
    noise: 0,
    partials: [1, 3.94, 9.2],
  },
} as const satisfies Record<string, Timbre>;

const GLIDE = 0.02;
/** After so many times its attack a tone has risen, to the last digit. */
const RISEN = 13;

/**
 * The sound of played notes: partials that add up, slurs without a gap, vibrato that comes late.
 * Units:  as Sound
 */
export function synthesise(
  played: readonly PlayedNote[],
  {
    timbre,
    seconds,
    rate = 22_050,
    random,
    tuning = 0,
  }: {
    readonly timbre: Timbre | 'snare';
    readonly seconds: number;
    readonly rate?: number;
    readonly random: Random;
    readonly tuning?: number;
  },
): Sound {
  const samples = new Float32Array(Math.ceil(seconds * rate));
  let last: (PlayedNote & { phase: number }) | null = null;
  for (const [n, note] of played.entries()) {
    if (timbre === 'snare' || note.midi === null) {
      stroke(samples, note, { rate, random });
      continue;
    }
    const next = played[n + 1];
    const isHeldOn = next !== undefined && next.isSlurred && next.start <= note.end + 0.05;
    const from = note.isSlurred && last !== null && last.end >= note.start - 0.05 ? last : null;
    const end = isHeldOn ? next.start : note.end;
    const phase = tone(samples, { ...note, end }, { timbre, rate, random, tuning, from, isHeldOn });
    last = { ...note, end, phase };
  }
  return { samples, rate };
}

interface Voice {
  readonly timbre: Timbre;
  readonly rate: number;
  readonly random: Random;
  readonly tuning: number;
  readonly from: (PlayedNote & { phase: number }) | null;
  readonly isHeldOn: boolean;
}

function tone(
  samples: Float32Array,
  note: PlayedNote,
  { timbre, rate, random, tuning, from, isHeldOn }: Voice,
): number {
  const hertz = hertzOf((note.midi ?? 60) + tuning / 100);
  const begun = from ? hertzOf((from.midi ?? 60) + tuning / 100) : hertz;
  const start = Math.round(note.start * rate);
  const held = Math.round(note.end * rate);
  const end = isHeldOn ? held : Math.min(samples.length, held + Math.round(timbre.release * 3 * rate));
  let phase = from?.phase ?? random();
  const partials = timbre.partials ?? Array.from({ length: 12 }, (_, n) => n + 1);
  const strengths = partials.map((_, n) => timbre.harmonic(n + 1, note.loud));
  const gain = 0.25 * 10 ** ((note.loud - 1) * 1.5);
  for (let at = start; at < end && at < samples.length; at += 1) {
    const seconds = (at - start) / rate;
    const glide = Math.min(1, seconds / GLIDE);
    const width = timbre.vibrato * Math.min(1, Math.max(0, (seconds - 0.15) / 0.2));
    const bend =
      width === 0 ? 1 : 2 ** ((width * Math.sin(2 * Math.PI * timbre.vibratoRate * seconds)) / 1200);
    const now = (begun + (hertz - begun) * glide) * bend;
    phase += now / rate;
    const rise = from || seconds > RISEN * timbre.attack ? 1 : 1 - Math.exp((-3 * seconds) / timbre.attack);
    const fall = at < held ? 1 : Math.exp(-(at - held) / rate / timbre.release);
    const dies = timbre.decay === null ? 1 : Math.exp(-seconds / timbre.decay);
    let sum = timbre.noise * (random() * 2 - 1);
    sum += timbre.partials
      ? inharmonic(partials, strengths, { phase, now, most: rate * 0.45 })
      : harmonic(strengths, { phase, now, most: rate * 0.45 });
    samples[at] = (samples[at] ?? 0) + gain * rise * fall * dies * sum;
  }
  return phase;
}

interface Moment {
  readonly phase: number;
  readonly now: number;
  readonly most: number;
}

/** Whole multiples of a pitch, each sine from the two before it. */
function harmonic(strengths: readonly number[], { phase, now, most }: Moment): number {
  const turn = 2 * Math.cos(2 * Math.PI * phase);
  let [last, sine, sum] = [0, Math.sin(2 * Math.PI * phase), 0];
  for (let n = 0; n < strengths.length && (n + 1) * now < most; n += 1) {
    sum += (strengths[n] ?? 0) * sine;
    [last, sine] = [sine, turn * sine - last];
  }
  return sum;
}

function inharmonic(
  partials: readonly number[],
  strengths: readonly number[],
  { phase, now, most }: Moment,
): number {
  return partials.reduce(
    (sum, partial, n) =>
      partial * now < most ? sum + (strengths[n] ?? 0) * Math.sin(2 * Math.PI * phase * partial) : sum,
    0,
  );
}

function stroke(
  samples: Float32Array,
  note: PlayedNote,
  { rate, random }: { readonly rate: number; readonly random: Random },
): void {
  const start = Math.round(note.start * rate);
  const gain = 0.4 * 10 ** ((note.loud - 1) * 1.5);
  for (let n = 0; n < rate * 0.25 && start + n < samples.length; n += 1) {
    const seconds = n / rate;
    const skin = Math.exp(-seconds / 0.05) * Math.sin(2 * Math.PI * 190 * seconds);
    const snares = Math.exp(-seconds / 0.06) * (random() * 2 - 1);
    samples[start + n] = (samples[start + n] ?? 0) + gain * (0.5 * skin + 0.6 * snares);
  }
}

/** A room around a sound: its reverberation and its noise. Units: seconds; dB below the loud part */
export interface Room {
  readonly reverberation: number;
  readonly wet: number;
  readonly noise: number;
}

/** Puts a sound into a room. Source: Schroeder, Natural sounding artificial reverberation, JAES 10 (1962), from memory */
export function inRoom({ samples, rate }: Sound, { reverberation, wet, noise }: Room, random: Random): Sound {
  const out = Float32Array.from(samples);
  if (wet > 0) {
    let tail: Float32Array<ArrayBuffer> = new Float32Array(samples.length);
    for (const delay of [0.0297, 0.0371, 0.0411, 0.0437]) {
      const length = Math.round(delay * rate);
      const keep = 10 ** ((-3 * delay) / reverberation);
      // Nothing comes back before the delay is over.
      const comb = new Float32Array(samples.length);
      for (let n = length; n < samples.length; n += 1) {
        comb[n] = (samples[n - length] ?? 0) + keep * (comb[n - length] ?? 0);
        tail[n] = (tail[n] ?? 0) + (comb[n] ?? 0) / 4;
      }
    }
    for (const delay of [0.005, 0.0017]) tail = allPass(tail, Math.round(delay * rate));
    for (let n = 0; n < out.length; n += 1) out[n] = (out[n] ?? 0) + wet * (tail[n] ?? 0);
  }
  let power = 0;
  for (const one of samples) power += one * one;
  const loud = Math.sqrt(power / samples.length);
  const gain = loud * 10 ** (-noise / 20);
  let hum = 0;
  for (let n = 0; n < out.length; n += 1) {
    hum = 0.95 * hum + 0.3 * (random() * 2 - 1);
    out[n] = (out[n] ?? 0) + gain * (hum + 0.5 * (random() * 2 - 1));
  }
  return { samples: out, rate };
}

function allPass(samples: Float32Array, delay: number): Float32Array<ArrayBuffer> {
  const out = new Float32Array(samples.length);
  for (let n = 0; n < delay; n += 1) out[n] = -0.7 * (samples[n] ?? 0);
  for (let n = delay; n < samples.length; n += 1)
    out[n] = -0.7 * (samples[n] ?? 0) + (samples[n - delay] ?? 0) + 0.7 * (out[n - delay] ?? 0);
  return out;
}
