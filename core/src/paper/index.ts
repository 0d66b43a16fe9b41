export { readMusicFile } from './music-file.js';
export {
  barAt,
  boxesOf,
  clashesOf,
  edgeAt,
  layoutOf,
  lineAt,
  repeatsOfPages,
  type BoxPlace,
  type LinePlace,
  type NumberClash,
  type PaperBar,
  type PaperBox,
  type PaperLine,
  type PaperPage,
} from './page-layout.js';
export {
  withBar,
  withBarKind,
  withBarMoved,
  withCount,
  withCounted,
  withEvenBoxes,
  withFirst,
  withLineAdded,
  withLineOut,
  withoutBar,
  withRegionOut,
  withSureBar,
  type PageRegion,
} from './page-edits.js';
export { abcMeasures, abcTokens, type AbcKind, type AbcMeasure, type AbcToken } from './abc-tokens.js';
export { KEY_ENTRY, keyed, playedPitch, withPitch, type Keyed, type KeyEntry } from './key-entry.js';
export { typedWork, withTyped, withoutTyped, typedAt, usualClef, type TypedWork } from './typed-work.js';
export { worthTyping, type WorthTyping } from './worth-typing.js';
export { measureDifference, numberRuns, type MeasureDifference } from './difference.js';
export { rowsOfPages, type PageRow, type RowMeasure, type RowWish } from './page-rows.js';
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
export { toldAt, withToldAt, type ToldAt, type ToldAtKind, type ToldChange } from './told-at.js';
export { toldOfScore } from './told-of-score.js';
export { boxesOfDraft, startOf, toldAfter, type PaperDraft } from './told-pages.js';
export { scoreOfTold } from './told-score.js';
export { toldValueWords } from './told-values.js';
export { startOfMusic } from './told.js';
export type {
  ToldDensity,
  ToldEnding,
  ToldIssue,
  ToldMeter,
  ToldMusic,
  ToldRepeat,
  ToldValue,
} from './told.js';
