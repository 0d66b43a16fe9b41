import { array, number, object, string, type InferType } from 'yup';
import type { LessonItem } from '@vivid-cue/core/plan';
import { idField, instantField, textField } from './fields.js';
import type { DeskPart, DeskPassage, DeskScore } from './desk.js';
import type { FromStudentView } from './from-student.js';

/** Something that is asked for until the next lesson. */
const lessonAskSchema = object({
  id: idField.required(),
  passageId: idField.nullable().defined(),
  text: textField('What is asked', 200).required('An empty line asks for nothing; take it out.'),
}).exact();

/** A lesson that was held: what was noted, and what is asked until the next. */
export const lessonSchema = object({
  id: idField.required(),
  at: instantField,
  minutes: number().integer().min(5).max(240).required(),
  notes: string().max(4000, 'Notes have at most 4,000 characters.').defined(),
  asks: array(lessonAskSchema.required()).max(30, 'At most 30 things are asked at once.').required(),
}).exact();

/** How long the lesson is, in the query. */
export const lessonQuerySchema = object({
  minutes: number().integer().min(5).max(240).required(),
}).exact();

/** A lesson, as a type. */
export type LessonInput = InferType<typeof lessonSchema>;
/** Something that is asked for, as a type. */
export type LessonAsk = InferType<typeof lessonAskSchema>;

/** What to hear today, beside what was promised. Shape: `last` null before the first lesson; newest first */
export interface LessonView {
  readonly student: { readonly id: string; readonly name: string; readonly instrument: string };
  readonly items: readonly LessonItem[];
  readonly parts: readonly DeskPart[];
  readonly passages: readonly DeskPassage[];
  readonly scores: readonly DeskScore[];
  readonly fromStudent: FromStudentView;
  readonly reportsText: string;
  /** On how many of the last seven days something was played, and how many reps. */
  readonly week: { readonly days: number; readonly reps: number };
  readonly lessons: readonly LessonInput[];
}
