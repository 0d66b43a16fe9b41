import { array, boolean, mixed, number, object, string, type InferType } from 'yup';
import {
  ACCOMPANIMENTS,
  CHOICE_RULES,
  DEADLINE_KINDS,
  NOTE_KINDS,
  PART_KINDS,
  REPEATS,
  SHEET_TEXT_LIMIT,
  type Accompaniment,
  type Repeats,
} from '@vivid-cue/core/sheet';
import { SCALE_NOTE_VALUES, type ScaleNoteValue } from '@vivid-cue/core/scale';
import type { RevisionDifference } from '@vivid-cue/core/program';
import { idField, spanPointField, tempoSchema, textField } from './fields.js';
import { isZone } from './zones.js';

export { DEADLINE_KINDS, PART_KINDS };

/** Whether text is a day that exists, so that 31 April is refused and not moved. */
function isCalendarDay(text: string): boolean {
  const match = /^(\d{4})-(\d{2})-(\d{2})$/u.exec(text);
  if (!match) return false;
  const [year, month, day] = [Number(match[1]), Number(match[2]), Number(match[3])];
  const date = new Date(Date.UTC(year, month - 1, day));
  return year >= 2000 && year < 2100 && date.getUTCMonth() === month - 1 && date.getUTCDate() === day;
}

const deadlineSchema = object({
  id: idField.required(),
  kind: string().oneOf(DEADLINE_KINDS).required('Say what the date is for.'),
  /** Null where the sheet names no single day. */
  date: string()
    .nullable()
    .defined('The date is missing.')
    .test(
      'day',
      'Write a day that exists, as year-month-day.',
      (date) => date === null || isCalendarDay(date),
    ),
  /** The last day where the sheet gives several. */
  endDate: string()
    .nullable()
    .test(
      'day',
      'Write a day that exists, as year-month-day.',
      (date) => date == null || isCalendarDay(date),
    ),
  time: string()
    .matches(/^([01]\d|2[0-3]):[0-5]\d$/u, 'Write a time of day such as 17:00.')
    .nullable()
    .defined(),
  zone: string()
    .required('The time zone is missing.')
    .test('zone', 'Choose a time zone such as Atlantic/Reykjavik.', (zone) => isZone(zone)),
  /** The sheet's own words. */
  text: string().trim().max(400).nullable(),
}).exact();

const printed = (max: number) => string().trim().max(max).nullable().defined();
const spanSchema = object({
  from: spanPointField.required(),
  to: spanPointField.required(),
  anchorText: printed(200),
}).exact();

/** Everything a part states beside its name, its span and its tempo. */
const detailSchema = object({
  appliesTo: array(string().trim().max(80).required()).max(20).required(),
  composer: printed(120),
  book: printed(160),
  number: printed(20),
  page: printed(20),
  edition: printed(80),
  measures: array(spanSchema.required()).max(20).required(),
  key: printed(40),
  octaves: number().min(0.5).max(5).nullable().defined(),
  noteValue: string<ScaleNoteValue>().oneOf(SCALE_NOTE_VALUES).nullable().defined(),
  range: object({ low: string().trim().max(60).required(), high: string().trim().max(60).required() })
    .exact()
    .nullable()
    .defined(),
  articulation: printed(160),
  memory: boolean().nullable().defined(),
  repeats: string<Repeats>().oneOf(REPEATS).required(),
  accompaniment: string<Accompaniment>().oneOf(ACCOMPANIMENTS).nullable().defined(),
  maxSeconds: number().integer().min(1).max(36000).nullable().defined(),
  minSeconds: number().integer().min(1).max(36000).nullable().defined(),
  points: number().min(0).max(10000).nullable().defined(),
}).exact();

const partSchema = object({
  id: idField.required(),
  kind: string().oneOf(PART_KINDS).required('Say what kind of part it is.'),
  label: textField('The part’s name', 80).required('The part’s name is missing.'),
  workTitle: string().trim().max(160).defined(),
  from: spanPointField.nullable().defined(),
  to: spanPointField.nullable().defined(),
  tempo: tempoSchema.required(),
  detail: detailSchema.nullable().optional(),
})
  .exact()
  .test(
    'span-complete',
    'Give both the first and the last measure, or neither.',
    ({ from, to }) => (from === null) === (to === null),
  );

/** Labels, bundles and groups of a rule of choice. */
const choiceSchema = object({
  rule: string().oneOf(CHOICE_RULES).required(),
  n: number().integer().min(1).max(40).nullable().defined(),
  of: array(
    mixed<string | string[]>()
      .test('labels', 'A choice names parts.', (one) =>
        typeof one === 'string'
          ? one.length <= 80
          : Array.isArray(one) &&
            one.length <= 40 &&
            one.every((label) => typeof label === 'string' && label.length <= 80),
      )
      .required(),
  )
    .max(40)
    .required(),
}).exact();
const noteSchema = object({
  kind: string().oneOf(NOTE_KINDS).required(),
  text: string().trim().max(2000).required(),
}).exact();

/** A question the sheet leaves open, with the answer and its reason where one was given. */
const questionSchema = object({
  about: string().trim().max(200).required(),
  ask: string().trim().max(600).required(),
  candidates: array(mixed().defined()).max(20).required(),
  answer: printed(400),
  reason: printed(400),
}).exact();

const extrasFields = {
  choices: array(choiceSchema.required()).max(20),
  notes: array(noteSchema.required()).max(100),
  questions: array(questionSchema.required()).max(100),
  publishedText: string()
    .max(SHEET_TEXT_LIMIT, 'A published text has at most 400,000 characters.')
    .nullable(),
};

const sheetFields = {
  body: textField('The body’s name', 160).required('The body’s name is missing.'),
  year: string()
    .trim()
    .matches(/^\d{4}(-\d{2})?$/u, 'A year is one such as 2027 or 2026-27.')
    .required('The year is missing.'),
  division: string().trim().max(120).defined(),
  instrument: textField('The instrument', 60).required('The instrument is missing.'),
  deadlines: array(deadlineSchema.required()).max(30).required(),
  parts: array(partSchema.required()).min(1, 'Add at least one part.').max(60).required(),
  ...extrasFields,
};

/** A new sheet. */
export const sheetInputSchema = object({ id: idField.required(), ...sheetFields }).exact();
/** A changed sheet: the whole of it. */
export const sheetChangeSchema = object(sheetFields).exact();

/** A new revision: the whole sheet as it now stands, with where the change comes from. */
export const revisionInputSchema = object({
  revisionId: idField.required(),
  issuedOn: string()
    .nullable()
    .defined()
    .test(
      'day',
      'Write a day that exists, as year-month-day.',
      (date) => date === null || isCalendarDay(date),
    ),
  note: string().trim().max(400).defined(),
  ...sheetFields,
}).exact();
/** Programs to move over to the sheet's current revision; none named moves all. */
export const moveSchema = object({
  programIds: array(idField.required()).max(500).nullable().defined(),
}).exact();

/** A new revision, as a type. */
export type RevisionInput = InferType<typeof revisionInputSchema>;
/** Everything a part states beside its name, span and tempo. */
export type PartDetail = InferType<typeof detailSchema>;
/** A rule of choice. */
export type ChoiceInput = InferType<typeof choiceSchema>;
/** A question with its answer. */
export type AskedQuestion = InferType<typeof questionSchema>;
/** A new sheet, as a type. */
export type SheetInput = InferType<typeof sheetInputSchema>;
/** A changed sheet, as a type. */
export type SheetChange = InferType<typeof sheetChangeSchema>;
/** One date of a sheet. */
export type DeadlineInput = InferType<typeof deadlineSchema>;
/** One part of a sheet. */
export type SheetPartInput = InferType<typeof partSchema>;

/** A revision of a sheet. */
export interface RevisionLine {
  readonly id: string;
  readonly number: number;
  readonly issuedOn: string | null;
  readonly note: string;
  readonly programs: number;
}

/** A sheet on the wire, as its current revision states it. */
export interface SheetView extends SheetChange {
  readonly id: string;
  readonly version: number;
  readonly revision: RevisionLine;
}

/** A line in the list of sheets. */
export interface SheetLine {
  readonly id: string;
  readonly title: string;
  readonly instrument: string;
  readonly parts: number;
  readonly programs: number;
  readonly revision: number;
  /** Programs that still stand on an older revision. */
  readonly behind: number;
  readonly openQuestions: number;
  readonly next: { readonly what: string; readonly daysLeft: number } | null;
}

/** A program that stands on an older revision, with what the current one breaks in it. */
export interface ProgramBehind {
  readonly programId: string;
  readonly studentId: string;
  readonly studentName: string;
  readonly revisionNumber: number;
  readonly breaks: readonly { readonly part: string; readonly sentences: readonly string[] }[];
}

/** The revisions of a sheet, what the last one changed, and who it touches. */
export interface RevisionsView {
  readonly sheetId: string;
  readonly title: string;
  readonly revisions: readonly RevisionLine[];
  readonly difference: RevisionDifference | null;
  readonly behind: readonly ProgramBehind[];
}

/** What a removed sheet takes along until it is restored. */
export interface SheetRemovalView {
  readonly programs: readonly { readonly studentName: string }[];
}
