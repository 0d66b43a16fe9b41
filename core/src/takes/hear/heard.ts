import { hertzOf } from '../../music/index.js';
import type { Sound } from '../sound/sound.js';
import { salienceOf, type Salience } from './salience.js';
import { spectrumOf } from './spectrum.js';
import { CANDIDATES, pitchTrack, surestChance, type PitchTrack } from './yin.js';

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
  /** One where nothing is played. */
  readonly isSilent: Uint8Array;
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
  const isSilent = silences(level, compass ? pitch : null);
  return {
    ...{ frames, hop: HOP / rate, level, pitch, salience, isSilent, sound },
    flux: attacks(flux, isSilent),
  };
}

/** So far below what is loud, where no pitch is heard for so long, is the room. Units: dB; chance; frames */
const ROOM = { below: 20, chance: 0.05, frames: 12 };

/**
 * Where nothing is played: what is quieter than the rest, and what is quiet and without a pitch, for a room may be louder
 * now than it is later.
 */
function silences(level: Float32Array, pitch: PitchTrack | null): Uint8Array {
  const { silence, loud } = levelsOf(level);
  const isSilent = Uint8Array.from(level, (one) => (one < silence ? 1 : 0));
  if (!pitch) return isSilent;
  for (let from = 0, at = 0; at <= level.length; at += 1) {
    const isRoom =
      at < level.length && (level[at] ?? 0) < loud - ROOM.below && surestChance(pitch, at) < ROOM.chance;
    if (isRoom) continue;
    if (at - from >= ROOM.frames) isSilent.fill(1, from, at);
    from = at + 1;
  }
  return isSilent;
}

/** What is above the quiet of the room and far below what is played, and what is loud. Units: dB of full scale */
function levelsOf(level: Float32Array): { readonly silence: number; readonly loud: number } {
  const sorted = Float32Array.from(level).sort();
  const floor = sorted[Math.floor(sorted.length * 0.03)] ?? -120;
  const loud = sorted[Math.floor(sorted.length * 0.9)] ?? -120;
  return { silence: Math.max(loud - 45, Math.min(floor + 8, loud - 12)), loud };
}

/** Half of a window over which the usual flux is told. Units: frames */
const AROUND = 40;

/**
 * Flux over what is usual around it, as a share of a clear attack of this take; below zero is nothing.
 * Shape:  what rises in silence says nothing of how clear attacks are
 */
function attacks(flux: Float32Array, isSilent: Uint8Array): Float32Array {
  const over = new Float32Array(flux.length);
  let sum = 0;
  for (let n = -AROUND; n < flux.length; n += 1) {
    sum += (flux[n + AROUND] ?? 0) - (flux[n - AROUND - 1] ?? 0);
    if (n >= 0) over[n] = Math.max(0, (flux[n] ?? 0) - (sum / (2 * AROUND + 1)) * 1.2);
  }
  const peaks = over
    .filter((one, n) => !isSilent[n] && one > (over[n - 1] ?? 0) && one >= (over[n + 1] ?? 0))
    .sort();
  const clear = peaks[Math.floor(peaks.length * 0.85)] ?? 1;
  return over.map((one) => one / Math.max(1e-6, clear));
}
