export { SCALE_NOTE_VALUES, type ScaleNoteValue } from './note-values.data.js';
export {
  readScaleKey,
  scaleInstrument,
  scaleNotes,
  writtenKey,
  type ScaleCode,
  type ScaleForm,
  type ScaleInstrument,
  type ScaleKey,
} from './scale-notes.js';
export { fifthsOf, scaleScore, type ScaleOrder } from './scale-score.js';
