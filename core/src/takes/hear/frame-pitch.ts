import { peakOf } from '../sound/level-word.js';
import { HOP } from './heard.js';
import { pitchTrack, surestChance, surestMidi } from './yin.js';

/** A pitch that somebody sings or plays just now. Units: MIDI number, not rounded; chance 0 to 1 */
export interface FramePitch {
  readonly midi: number;
  readonly chance: number;
}

/** Any voice. Units: hertz */
const VOICE = { lowest: 70, highest: 1100 };
/** Below this nothing sounds. Units: of full scale */
const QUIET = 0.004;

/**
 * The pitch of a short stretch of sound, at its middle.
 * Shape:  null where nothing sounds; at least 60 milliseconds
 * Source: YIN (2002) with the beliefs of pYIN (2014)
 */
export function framePitch(samples: Float32Array, rate: number): FramePitch | null {
  if (peakOf(samples) < QUIET) return null;
  const hop = Math.max(HOP, samples.length >> 1);
  const track = pitchTrack({ samples, rate }, { ...VOICE, hop });
  const midi = surestMidi(track, 1);
  return midi > 0 ? { midi, chance: surestChance(track, 1) } : null;
}
