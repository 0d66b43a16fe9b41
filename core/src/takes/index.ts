export { readWav, writeWav, LONGEST_TAKE_MINUTES, type WavCode } from './sound/wav.js';
export { lengthOf, type Sound } from './sound/sound.js';
export { loudnessOf, type Loudness } from './sound/loudness.js';
export {
  readTake,
  type MeasureTempo,
  type TakeCode,
  type TakeNotice,
  type TakeReading,
  type TakeWish,
} from './read-take.js';
export type { AskedMeasure, AskedMusic, AskedNote } from './follow/asked-notes.js';
export type { FollowedNote } from './follow/follow.js';
export type { HairpinHeard, MeasureLoudness } from './tell/dynamics.js';
export { contrastReach, hairpinReach, unevenness, type Reach } from './tell/reach.js';
export type { Pause, Restart } from './tell/pauses.js';
export { takeSentences, type TakeSentence } from './tell/sentences.js';
export type { PossibleSlip } from './tell/slips.js';
export type { Evenness } from './tell/steadiness.js';
export { longTone, type LongTone } from './tell/tone.js';
export type { TakeMeasure } from './tell/take-measures.js';
export { decibels, levelWord, peakOf, type LevelWord } from './sound/level-word.js';
export { takesBeside, type MeasureBeside, type TakesBeside } from './tell/beside.js';
export { contrastsHeard, type ContrastHeard, type LoudestPlace } from './tell/contrasts.js';
export type { NotePitch } from './tell/note-pitches.js';
export { tappedPulse, type TappedMeasure, type TappedPulse } from './tell/tapped-pulse.js';
export { tendencies, type Tendency } from './tell/tendencies.js';
export { takenTempo, toldTake, type ToldMeasure, type ToldSlip, type ToldTake } from './tell/told-take.js';
export { framePitch, type FramePitch } from './hear/frame-pitch.js';
