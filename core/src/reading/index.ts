export {
  beatOf,
  quarterBpmOf,
  secondsOver,
  secondsTo,
  steadyPace,
  wholePace,
  type Pace,
} from './line/pace.js';
export { inFamilyWords } from './findings/family-words.js';
export {
  READING_STEPS,
  measureDemands,
  readMusic,
  type MusicReading,
  type ReadingStep,
  type ReadMusicOptions,
} from './read-music.js';
export { instrumentProfile, isBlown, type Family, type InstrumentProfile } from './demands/profiles.js';
export {
  compareEditions,
  followedSpan,
  followMusic,
  type FollowedMusic,
  type EditionDifference,
  type SetDifference,
} from './likeness/editions.js';
export { engravedNotes, type EngravedNote } from './findings/engraved-notes.js';
export type { Finding, FindingKind, FindingPair, NotePlace } from './findings/finding.js';
export { differenceTexts, differingNotes } from './findings/return-texts.js';
export { phraseReturns, sourcesOf, type PhraseReturn } from './likeness/phrases.js';
export { findingsOf, matchMarks, measurePrints, type FindingMark } from './findings/findings.js';
export {
  measureFacts,
  spanFacts,
  type Counted,
  type MeasureFacts,
  type SpanFacts,
} from './findings/measure-facts.js';
export { pinKey, withPin } from './findings/pinned.js';
export { hairpinRanges } from './line/hairpins.js';
export { wordSwells } from './inventory/swells.js';
export {
  isJoined,
  isWritten,
  soloLine,
  type LineNote,
  type LineRest,
  type SoloLine,
  type WrittenNote,
} from './line/solo-line.js';
export type { AwkwardPair } from './demands/awkward-pairs.js';
export type { BeatToFeel } from './inventory/feel.js';
export type { BreathingPlace, HeldNote, LongStretch } from './inventory/breathing-places.js';
export type { DemandName, MeasureDemand } from './demands/demands.js';
export type { Deciding, Opening } from './demands/opening.js';
export { levelOf, LEVELS, type DynamicsAdvice, type Level } from './inventory/dynamics-advice.js';
export type { ArticulationCount, HairpinSpan, Inventory } from './inventory/inventory.js';
export type { MeterTrap } from './traps/meter-traps.js';
export type { OddOneOut } from './likeness/odd-ones-out.js';
export type { NoteDifference } from './likeness/bar-differences.js';
export type { NearRepeat, Repeats } from './likeness/repeats.js';
export { shortRhythm, type RhythmPattern } from './inventory/rhythm-patterns.js';
export type { Run } from './inventory/runs.js';
export type { Shows } from './demands/shows.js';
export type { Surprise } from './traps/surprises.js';
