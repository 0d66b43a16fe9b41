import { array, boolean, object, string, type InferType } from 'yup';
import {
  CUE_INKS,
  CUE_KINDS,
  CUE_SHAPES,
  type CueInk,
  type CueKind,
  type CueShape,
} from '@vivid-cue/core/cue-kinds';
import { parsePitch } from '@vivid-cue/core/music';
import { idField, textField } from './fields.js';

const kindField = string<CueKind>().oneOf(CUE_KINDS, 'Choose what the cue is about.');

const lookSchema = object({
  kind: kindField.required(),
  ink: string<CueInk>().oneOf(CUE_INKS, 'Choose an ink.').required(),
  shape: string<CueShape>().oneOf(CUE_SHAPES, 'Choose a shape.').required(),
}).exact();

/** Written notes as a rule names them: "Bb3", for a pair "A4 Bb4". */
function areNotes(count: 1 | 2) {
  return (text: string | undefined): boolean => {
    const names = (text ?? '').split(' ');
    return names.length === count && names.every((name) => parsePitch(name) !== null);
  };
}

const notesField = (count: 1 | 2, example: string) =>
  array(
    string()
      .max(12)
      .required()
      .test('notes', `Write notes with their octave, such as ${example}.`, areNotes(count)),
  ).max(24, 'A rule names at most 24 notes.');

/** What a rule of the studio speaks at. Shape: one of the three lists; the others are left out */
const patternSchema = object({
  pairs: notesField(2, 'A4 Bb4'),
  notes: notesField(1, 'Bb4'),
  intoFromBelow: notesField(1, 'D5'),
  isSlurred: boolean().strict(),
  isQuick: boolean().strict(),
})
  .exact()
  .test(
    'one',
    'A rule names its notes: at least one.',
    ({ pairs, notes, intoFromBelow }) =>
      [pairs, notes, intoFromBelow].filter((list) => (list?.length ?? 0) > 0).length === 1,
  );

const ruleSchema = object({
  id: idField.required(),
  instrument: textField('The instrument', 40).required('The instrument is missing.'),
  kind: kindField.required(),
  pattern: patternSchema.required(),
  advice: textField('The advice', 160).required('Write what to do there.'),
}).exact();

/** How a studio writes: how its cues are drawn, its own rules, and which of the shipped ones it does not hold to. */
export const bookSchema = object({
  looks: array(lookSchema.required()).max(CUE_KINDS.length, 'Each kind is drawn one way.').required(),
  rules: array(ruleSchema.required()).max(200, 'A studio keeps at most 200 rules of its own.').required(),
  silenced: array(string().max(40).required()).max(200).required(),
}).exact();

/** How a studio writes, as a type. */
export type Book = InferType<typeof bookSchema>;
/** A rule of a studio. */
export type StudioRule = Book['rules'][number];

/** A studio that chose nothing yet. */
export const PLAIN_BOOK: Book = Object.freeze({ looks: [], rules: [], silenced: [] });

/** How a studio writes, with the version an edit is made on. */
export interface BookView extends Book {
  readonly version: number;
}
