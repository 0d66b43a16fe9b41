export { harmonics, type Partial } from './harmonics.js';
export {
  addQuarters,
  compareQuarters,
  laterOf,
  quarters,
  scaleQuarters,
  subtractQuarters,
  toNumber,
  ZERO,
  type Quarters,
} from './quarters.js';
export {
  AS_WRITTEN,
  letterAt,
  letterName,
  midiOf,
  parsePitch,
  pitchName,
  spellAt,
  staffPlace,
  transposePitch,
  type Pitch,
  type Step,
  type Transposition,
} from './pitch.js';
export { STEPS } from './pitch.data.js';
export { alterInKey, signatureWords, tonicOf, type Mode } from './key.js';
export {
  beatCount,
  beatUnitOf,
  COMMON_TIME,
  isCompound,
  measureLength,
  meterFrom,
  meterText,
  type Meter,
} from './meter.js';
export {
  BEAT_UNITS,
  checkBpm,
  clickAt,
  beatBpm,
  convertBpm,
  halfSpeedClick,
  MAX_BPM,
  MIN_BPM,
  quarterBpm,
  secondsAt,
  unitLength,
  type BeatUnit,
  type BpmCode,
  type NoteValue,
  type TempoBound,
  type TempoMark,
} from './tempo.js';
export {
  asQuarterBpm,
  asSeconds,
  type Bpm,
  type QuarterBpm,
  type QuarterCount,
  type Seconds,
  type Semitones,
} from './units.js';
export { DIAL, snapDown } from './dial.js';
export {
  askTempo,
  distinctTempos,
  parseTempo,
  questionOfMark,
  type TempoCode,
  type TempoQuestion,
} from './tempo-parse.js';
export { scanTempos, scanTempoWords, type TempoFound } from './tempo-scan.js';
export { markPhrase, markText, tempoText } from './tempo-text.js';
export { NOTE_VALUES } from './tempo.data.js';
export {
  inVocabulary,
  measuresText,
  measureSign,
  measureWord,
  unitGlyph,
  unitWords,
  withSigns,
  type Vocabulary,
} from './words.js';
export { hertzOf } from './hertz.js';
