export { readMusicFile } from './music-file.js';
export { isPaper, readPaper, writePaper } from './paper-file.js';
export { scoreOfPaper } from './paper-score.js';
export {
  TYPED_CLEFS,
  type PaperCode,
  type PaperMusic,
  type TypedClef,
  type TypedIssue,
  type TypedPassage,
} from './paper.js';
export {
  lineOfFields,
  readToldLine,
  toldFields,
  writeToldLine,
  type ToldFields,
  type ToldReading,
} from './told-line.js';
export { tempoPhrase } from './tempo-phrase.js';
export { toldOfScore } from './told-of-score.js';
export { scoreOfTold } from './told-score.js';
export { toldValueWords } from './told-values.js';
export type {
  ToldDensity,
  ToldEnding,
  ToldIssue,
  ToldMeter,
  ToldMusic,
  ToldRepeat,
  ToldValue,
} from './told.js';
