export { beatOf } from './pace.js';
export { inFamilyWords } from './family-words.js';
export {
  READING_STEPS,
  readMusic,
  type MusicReading,
  type ReadingStep,
  type ReadMusicOptions,
} from './read-music.js';
export { instrumentProfile, type Family, type InstrumentProfile } from './profiles.js';
export { compareEditions, followMusic, type EditionDifference, type SetDifference } from './editions.js';
export { engravedNotes, type EngravedNote } from './engraved-notes.js';
export type { Finding, FindingKind, FindingPair, NotePlace } from './finding.js';
export { differenceTexts, differingNotes } from './return-findings.js';
export { findingsOf, matchMarks, measurePrints, type FindingMark } from './findings.js';
export { measureFacts, spanFacts, type Counted, type MeasureFacts, type SpanFacts } from './measure-facts.js';
export { pinKey, withPin } from './pinned.js';
export { soloLine, type LineNote, type LineRest, type SoloLine } from './solo-line.js';
export type { AwkwardPair } from './awkward-pairs.js';
export type { BeatToFeel } from './feel.js';
export type { BreathingPlace, HeldNote, LongStretch } from './breathing-places.js';
export type { Deciding, DemandName, MeasureDemand, Opening } from './demands.js';
export type { DynamicsAdvice } from './dynamics-advice.js';
export type { ArticulationCount, HairpinSpan, Inventory } from './inventory.js';
export type { MeterTrap } from './meter-traps.js';
export type { OddOneOut } from './odd-ones-out.js';
export type { NoteDifference } from './bar-differences.js';
export type { NearRepeat, Repeats } from './repeats.js';
export { shortRhythm, type RhythmPattern } from './rhythm-patterns.js';
export type { Run } from './runs.js';
export type { Shows } from './shows.js';
export type { Surprise } from './surprises.js';
