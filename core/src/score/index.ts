export { scoreText } from './container.js';
export {
  lineAsMusicXml,
  tempoXml,
  transposeXml,
  type LineToWrite,
  type MeasureToWrite,
  type NoteToWrite,
} from './line-writer.js';
export { xmlText } from './xml-text.js';
export { readScore, type ReadScoreOptions } from './read-score.js';
export { choosePart } from './choose-part.js';
export { digestScore, type MeasureDigest, type ScoreDigest } from './digest.js';
export { SCORE_LIMITS } from './limits.js';
export { soundedNotes } from './sounded-notes.js';
export { renumbered, type NumberRestart } from './renumber.js';
export { measureSeconds, quarterBpmAt } from './tempo-map.js';
export { playedOrder, playedSeconds, repeatedStretches, type PlayedMeasure } from './played-seconds.js';
export { unroll } from './unroll.js';
export { hasKnownNotes } from './model.js';
export type { NoteSigns } from './note-signs.js';
export type { DirectionMarks, DynamicMark, HairpinEnd } from './direction-marks.js';
export type { ScoreCode, ScoreWarning, ScoreWarningCode } from './issues.js';
export type {
  MeasureSource,
  Navigation,
  PartInfo,
  Score,
  ScoreMeasure,
  ScoreNote,
  SoundedNote,
  TempoSegment,
} from './model.js';
export {
  indexesOf,
  inRuns,
  printedSpan,
  runsOf,
  inSpan,
  measureIndexes,
  parseSpan,
  resolveSpan,
  spanQuarters,
  withoutPickup,
  type Span,
  type NamedMeasure,
  type SpanCode,
  type SpanText,
  runsPhrase,
  runsText,
  runText,
  spanInWords,
  spanPhrase,
  type NamedRun,
} from '../spans/index.js';
