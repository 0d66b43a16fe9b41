import { array, boolean, number, object, string, type InferType } from 'yup';
import type { Witness } from '@vivid-cue/core/readiness';
import { deskNoteSchema, surpriseSchema } from './from-student.js';
import { dateField, idField, textField } from './fields.js';
import { recordPlanSchema } from './plans.js';
import { lessonSchema } from './lessons.js';
import {
  partChoiceSchema,
  passageInputSchema,
  passageLadderFields,
  repInputSchema,
  targetSchema,
} from './programs.js';
import { cueInputSchema, findingMarkSchema, restartsField } from './score-marks.js';
import { sheetInputSchema } from './sheets.js';
import { studentSchoolsSchema } from './schools.js';
import { studentInputSchema } from './students.js';
import { recordTakeSchema } from './takes.js';
import { unitSchema } from './units.js';

/** How a record calls itself, and which of its forms it has. */
export const RECORD_FORMAT = 'vivid-cue-record';
const RECORD_VERSION = 1;

/** Reps of one student (our own limit). */
const MOST_REPS = 400_000;

const isRemoved = boolean().strict().required();
const index = number().integer().min(0).max(20_000).required();
/** A number as it is printed in the score, which may be one that nobody would type. */
const printedNumber = string().trim().max(8).defined();
const place = {
  scoreId: idField.required(),
  from: printedNumber,
  to: printedNumber,
  fromIndex: index,
  endIndex: index,
};
const instant = string()
  .matches(/^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d\.\d{3}Z$/u)
  .required();

/** The part of a program: what of the sheet it answers, from which score, and how. */
const recordPartSchema = partChoiceSchema
  .concat(
    object({
      id: idField.required(),
      /** The sheet's part. */
      partId: idField.required(),
      target: targetSchema.nullable().defined(),
    }),
  )
  .exact();

const recordProgramSchema = object({
  id: idField.required(),
  sheetId: idField.required(),
  division: string().trim().max(120).nullable().defined(),
  isRemoved,
  parts: array(recordPartSchema.required()).max(300).required(),
}).exact();

/** A score with its file, in base64. */
const recordScoreSchema = object({
  id: idField.required(),
  work: textField('A work’s title', 160).required(),
  fileName: textField('A file’s name', 200).required(),
  partId: string().max(80).required(),
  restarts: restartsField,
  file: string()
    .matches(/^[\w+/]*={0,2}$/u, 'A file is written in base64.')
    .required(),
}).exact();

/** A page of printed music with its picture, in base64. */
const recordPageSchema = object({
  id: idField.required(),
  picture: string()
    .matches(/^[\w+/]*={0,2}$/u, 'A picture is written in base64.')
    .required(),
}).exact();

/** A passage with its place in the score and its ladder; `progress` is where it stood. */
const recordPassageSchema = passageInputSchema
  .concat(
    object({
      ...place,
      hasOwnTarget: boolean().strict().required(),
      isRemoved,
      ...passageLadderFields,
      /** How it stood when the record was written, as text: compared, never taken. */
      progress: string().max(4000).required(),
    }),
  )
  .exact();

const WITNESSES: readonly Witness[] = ['instructor', 'student', 'take'];

/** A rep with its passage and its day in the studio's zone. */
export const recordRepSchema = repInputSchema
  .concat(
    object({
      passageId: idField.required(),
      day: number().integer().min(-1).max(100_000).required(),
      isTakenBack: boolean().strict().required(),
      /** Reps of before witnesses were told apart have none. */
      witness: string<Witness>().oneOf(WITNESSES).optional(),
      optimism: number().min(-3).max(3).optional(),
    }),
  )
  .exact();

const recordCueSchema = cueInputSchema.concat(object({ ...place, isRemoved })).exact();
const recordMarkSchema = findingMarkSchema.concat(object({ scoreId: idField.required() })).exact();

const recordSurpriseSchema = surpriseSchema
  .concat(object({ passageId: idField.required(), isOpen: boolean().strict().required() }))
  .exact();
const recordNoteSchema = deskNoteSchema.concat(object({ isSeen: boolean().strict().required() })).exact();

const recordMockSchema = object({
  date: dateField().required(),
  items: array(
    object({
      title: string().max(160).required(),
      criteria: array(string().max(100).required()).max(12).required(),
      given: array(
        object({
          points: array(number().nullable().defined()).max(12).required(),
          taps: array(index).max(500).required(),
          remark: string().max(600).defined(),
        }).exact(),
      )
        .max(100)
        .required(),
    }).exact(),
  )
    .max(40)
    .required(),
}).exact();

/** All that a studio keeps of a student. Reps are checked one by one with recordRepSchema: there may be many. */
export const recordSchema = object({
  format: string().oneOf([RECORD_FORMAT], 'This is not a record of a student.').required(),
  formatVersion: number().oneOf([RECORD_VERSION], 'This record was written by a newer version.').required(),
  student: studentInputSchema.required(),
  schools: studentSchoolsSchema.optional(),
  sheets: array(sheetInputSchema.required()).max(200).required(),
  programs: array(recordProgramSchema.required()).max(500).required(),
  scores: array(recordScoreSchema.required()).max(500).required(),
  /** Records of before pages were kept have none. */
  pages: array(recordPageSchema.required()).max(2000).optional(),
  passages: array(recordPassageSchema.required()).max(20_000).required(),
  reps: array().max(MOST_REPS, `A record has at most ${MOST_REPS} reps.`).required(),
  cues: array(recordCueSchema.required()).max(20_000).required(),
  findingMarks: array(recordMarkSchema.required()).max(20_000).required(),
  /** Told, not taken: their addresses are secret and stay with the studio that made them. */
  studentLinks: array(object({ id: idField.required(), createdAt: instant }).exact())
    .max(1000)
    .optional(),
  /** What the student flagged and wrote; records of before the desk have none. */
  surprises: array(recordSurpriseSchema.required()).max(20_000).optional(),
  plan: recordPlanSchema.nullable().optional(),
  lessons: array(lessonSchema.required()).max(5000).optional(),
  notes: array(recordNoteSchema.required()).max(20_000).optional(),
  /** Sight-reading and ear tests that were done. */
  units: array(unitSchema.required()).max(50_000).optional(),
  /** Told, not taken: what was played in mocks and given for it, without who gave it. */
  mocks: array(recordMockSchema.required()).max(1000).optional(),
  /** Takes with their sound; records of before takes, and those written without sounds, have none. */
  takes: array(recordTakeSchema.required()).max(5000).optional(),
  calendarLinks: array(object({ id: idField.required(), createdAt: instant }).exact())
    .max(1000)
    .required(),
}).exact();

/** A record, as a type. */
export type StudentRecord = Omit<InferType<typeof recordSchema>, 'reps'> & {
  readonly reps: readonly RecordRep[];
};
/** A rep of a record. */
export type RecordRep = InferType<typeof recordRepSchema>;
/** A passage of a record. */
export type RecordPassage = InferType<typeof recordPassageSchema>;

/** What a record says beside itself where it is read in: the identifier that its student gets. */
export const recordQuerySchema = object({ studentId: idField.required() }).exact();

/** How a record is asked for: with the sound of its takes or without, which is much smaller. */
export const exportQuerySchema = object({
  sound: string<'with' | 'without'>().oneOf(['with', 'without']).default('with'),
}).exact();

/** What was read in. Shape: `differing` names passages that do not stand as the record says */
export interface RecordReadView {
  readonly studentId: string;
  readonly passages: number;
  readonly reps: number;
  readonly differing: readonly string[];
}
