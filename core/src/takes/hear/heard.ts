import { hertzOf } from '../../music/index.js';
import type { Sound } from '../sound/sound.js';
import { salienceOf, type Salience } from './salience.js';
import { spectrumOf } from './spectrum.js';
import { CANDIDATES, pitchTrack, type PitchTrack } from './yin.js';

/** Frames follow each other so. Units: samples at the rate of analysis */
export const HOP = 256;

/**
 * What is heard in a sound, frame by frame, before anything is known of the music.
 * Shape:  frame n is about `n × hop`
 * Units:  `hop` seconds; `level` dB of full scale; `flux` see Spectrum, one where a clear attack stands
 */
export interface Heard {
  readonly frames: number;
  readonly hop: number;
  readonly level: Float32Array;
  readonly flux: Float32Array;
  readonly pitch: PitchTrack;
  /** Null where nothing has a pitch. */
  readonly salience: Salience | null;
  /** Below this level nothing is played. Units: dB of full scale */
  readonly silence: number;
  readonly sound: Sound;
}

/** What may sound. Units: MIDI numbers */
export interface Compass {
  readonly lowest: number;
  readonly highest: number;
}

/**
 * Listens to a sound at the rate of analysis.
 * Shape:  `tell` is called with the share that is done
 * Units:  as Heard
 */
export function hear(sound: Sound, compass: Compass | null, tell?: (done: number) => void): Heard {
  const { rate } = sound;
  const { flux, level } = spectrumOf(sound, HOP, (done) => tell?.(done * 0.3));
  const frames = level.length;
  const pitch = compass
    ? pitchTrack(
        sound,
        { lowest: hertzOf(compass.lowest - 3), highest: hertzOf(compass.highest + 3), hop: HOP },
        (done) => tell?.(0.3 + done * 0.5),
      )
    : { midi: new Float32Array(frames * CANDIDATES), chance: new Float32Array(frames * CANDIDATES) };
  const salience = compass
    ? salienceOf(sound, { lowest: compass.lowest, highest: compass.highest, hop: HOP }, (done) =>
        tell?.(0.8 + done * 0.2),
      )
    : null;
  const silence = silenceOf(level);
  return {
    ...{ frames, hop: HOP / rate, level, pitch, salience, silence, sound },
    flux: attacks(flux, (frame) => (level[frame] ?? 0) >= silence),
  };
}

/** Above the quiet of the room and far below what is played. */
function silenceOf(level: Float32Array): number {
  const sorted = Float32Array.from(level).sort();
  const floor = sorted[Math.floor(sorted.length * 0.03)] ?? -120;
  const loud = sorted[Math.floor(sorted.length * 0.9)] ?? -120;
  return Math.max(loud - 45, Math.min(floor + 8, loud - 12));
}

/** Half of a window over which the usual flux is told. Units: frames */
const AROUND = 40;

/**
 * Flux over what is usual around it, as a share of a clear attack of this take; below zero is nothing.
 * Shape:  what rises in silence says nothing of how clear attacks are
 */
function attacks(flux: Float32Array, sounds: (frame: number) => boolean): Float32Array {
  const over = new Float32Array(flux.length);
  let sum = 0;
  for (let n = -AROUND; n < flux.length; n += 1) {
    sum += (flux[n + AROUND] ?? 0) - (flux[n - AROUND - 1] ?? 0);
    if (n >= 0) over[n] = Math.max(0, (flux[n] ?? 0) - (sum / (2 * AROUND + 1)) * 1.2);
  }
  const peaks = over
    .filter((one, n) => sounds(n) && one > (over[n - 1] ?? 0) && one >= (over[n + 1] ?? 0))
    .sort();
  const clear = peaks[Math.floor(peaks.length * 0.85)] ?? 1;
  return over.map((one) => one / Math.max(1e-6, clear));
}
