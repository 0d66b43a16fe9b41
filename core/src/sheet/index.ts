export { citationOf } from './citation.js';
export { amendSheet } from './errata/amend.js';
export { isErrataNotice } from './errata/notice.js';
export { readErrata, type ErrataReading, type ReadChange } from './errata/read-errata.js';
export { readSheet, SHEET_TEXT_LIMIT } from './read-sheet.js';
export type { SheetMark, SheetReading } from './reading.js';
export {
  COLUMN_ROLES,
  LINE_ROLES,
  withCorrection,
  withoutCorrection,
  WORD_FIELDS,
  type ColumnRole,
  type Correction,
  type LineAnchor,
  type LineRole,
  type PartAnchor,
  type WordField,
} from './told/corrections.js';
export { knownName, withKnownParts, type KnownPart } from './told/same-parts.js';
export type { ShownBlock, ShownLine, ShownRole, ShownRow, ShownTable, Stretch } from './told/shown-blocks.js';
export { valueOfWords, wordsAt } from './told/words.js';
export { readScalePhrase, type ScaleReading } from './scale-phrase.js';
export { readSpanPhrase, type SpanReading } from './find-spans.js';
export { choicesByPart, exchangedSheet, partName, type ExchangedSheet } from './identity.js';
export { dateInYear, type WaitingDate } from './waiting-dates.js';
export {
  fieldOf,
  isSameField,
  PART_FIELDS,
  partField,
  readField,
  showField,
  withField,
  writeField,
  type FieldRead,
  type PartField,
  type PartFieldType,
} from './part-fields.js';
export {
  instrumentKey,
  partsHolding,
  scopeNames,
  scopeOf,
  WHOLE_SCOPE,
  type PartPlayer,
  type PartScope,
} from './scope.js';
export {
  ACCOMPANIMENTS,
  blankPart,
  CHOICE_RULES,
  DEADLINE_KINDS,
  NO_SOURCE,
  NO_TEMPO,
  NOTE_KINDS,
  PART_KINDS,
  REPEATS,
  type Accompaniment,
  type Choice,
  type ChoiceRule,
  type Deadline,
  type DeadlineKind,
  type Division,
  type NoteKind,
  type PartKind,
  type PrintedRange,
  type Repeats,
  type SheetChangeNotice,
  type SheetNote,
  type SheetPart,
  type SheetQuestion,
  type SheetSpan,
  type SpanPoint,
  type StructuredSheet,
  type WorkSource,
} from './model.js';
