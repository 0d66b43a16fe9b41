import { number, object, string, type InferType } from 'yup';
import { beatUnitField, bpmField, idField, instantField, textField } from './fields.js';

/** Something that surprised while playing. Units: `measureIndex` in the passage's score */
export const surpriseSchema = object({
  id: idField.required(),
  measureIndex: number().integer().min(0).max(20_000).required(),
  bpm: bpmField.required('The tempo is missing.'),
  beatUnit: beatUnitField.required(),
  text: string().trim().max(200, 'A remark has at most 200 characters.').defined(),
  at: instantField,
}).exact();

/** A line to the instructor. */
export const deskNoteSchema = object({
  id: idField.required(),
  passageId: idField.nullable().defined(),
  text: textField('The note', 300).required('There is no text to send.'),
  at: instantField,
}).exact();

/** A surprise, as a type. */
export type SurpriseInput = InferType<typeof surpriseSchema>;
/** A note, as a type. */
export type DeskNoteInput = InferType<typeof deskNoteSchema>;

/** A surprise on the wire. Shape: open until the instructor has looked at it */
export interface SurpriseView extends SurpriseInput {
  readonly passageId: string;
  readonly passageName: string;
  readonly measure: string;
}

/** A student's note on the wire. */
export interface DeskNoteView extends DeskNoteInput {
  readonly passageName: string | null;
  readonly isSeen: boolean;
}

/** What a student sent that the instructor has not looked at yet. */
export interface FromStudentView {
  readonly surprises: readonly SurpriseView[];
  readonly notes: readonly DeskNoteView[];
}
