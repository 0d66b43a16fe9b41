import {
  array,
  boolean,
  mixed,
  number,
  object,
  string,
  type InferType,
  type ObjectSchema,
  type Schema,
} from 'yup';
import {
  CHOICE_RULES,
  DEADLINE_KINDS,
  NO_SOURCE,
  NOTE_KINDS,
  PART_FIELDS,
  PART_KINDS,
  SHEET_TEXT_LIMIT,
  type PartField,
  type SheetPart,
} from '@vivid-cue/core/sheet';
import type { RevisionDifference } from '@vivid-cue/core/program';
import { idField, spanPointField, tempoSchema, textField } from './fields.js';
import { toldSchema } from './told.js';
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

/** One end of a run: a printed number, or a text as spanPointField has it. */
const pointSchema = mixed<number | string>()
  .test(
    'point',
    'Name a measure: a printed number such as 9 or 22A, a mark such as K or K-6, start or end.',
    (point) =>
      typeof point === 'number'
        ? Number.isInteger(point) && point >= 0 && point <= 9999
        : spanPointField.isValidSync(point, { strict: true }),
  )
  .required();
const runSchema = object({ from: pointSchema, to: pointSchema, anchorText: printed(200) }).exact();
const names = () => array(string().trim().max(80).required()).max(40).required();
const scopeSchema = object({ instruments: names(), divisions: names(), options: names() }).exact();

/** The notes of a scale as printed; only the lowest where a sheet says no more ("from D"). */
const rangeSchema = object({
  low: string().trim().max(60).required(),
  high: string().trim().max(60).nullable().defined(),
}).exact();

/** The schema of one field of a part, made from its descriptor. */
function fieldSchema({ caption, type }: PartField): Schema {
  switch (type.kind) {
    case 'text':
      return string()
        .trim()
        .max(type.maxLength, `The ${caption} has at most ${type.maxLength} characters.`)
        .nullable()
        .defined();
    case 'number': {
      const between = number()
        .min(type.min, `${caption}: at least ${type.min}.`)
        .max(type.max, `${caption}: at most ${type.max}.`);
      return (type.isWhole ? between.integer(`${caption}: a whole number.`) : between).nullable().defined();
    }
    case 'choice': {
      const message = `Choose one for ${caption}: ${type.values.join(', ')}.`;
      return type.unset === null
        ? string()
            .nullable()
            .defined()
            .oneOf([...type.values, null], message)
        : string().oneOf(type.values, message).required(`Say what ${caption} it is.`);
    }
    case 'yes-no':
      return boolean().strict().nullable().defined();
    case 'measures':
      return array(runSchema.required()).max(20, 'A part has at most 20 runs of measures.').required();
    case 'tempo':
      return tempoSchema.required();
    case 'key':
      return printed(40);
    case 'range':
      return rangeSchema.nullable().defined();
    case 'scope':
      return scopeSchema.required();
  }
}

const SOURCE_NAMES: readonly string[] = Object.keys(NO_SOURCE);
const fieldSchemas = (isSource: boolean): Record<string, Schema> =>
  Object.fromEntries(
    PART_FIELDS.filter(({ name }) => SOURCE_NAMES.includes(name) === isSource).map((field) => [
      field.name,
      fieldSchema(field),
    ]),
  );

/** A part as core has it, made from the table of its fields. */
const partSchema = object({
  id: idField.required(),
  ...fieldSchemas(false),
  label: textField('The part’s name', 80).required('The part’s name is missing.'),
  source: object(fieldSchemas(true)).exact().required(),
}).exact() as unknown as ObjectSchema<SheetPart>;

/** Parts by their identifiers, bundles and groups of a rule of choice; what no part answers to is named in words. */
const choiceSchema = object({
  rule: string().oneOf(CHOICE_RULES).required(),
  n: number().integer().min(1).max(40).nullable().defined(),
  of: array(
    mixed<string | string[]>()
      .test('labels', 'A choice names parts.', (one) =>
        typeof one === 'string'
          ? one.length <= 200
          : Array.isArray(one) &&
            one.length <= 40 &&
            one.every((label) => typeof label === 'string' && label.length <= 200),
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
  partId: idField.nullable().defined(),
  about: string().trim().max(200).required(),
  ask: string().trim().max(600).required(),
  candidates: array(mixed().defined()).max(20).required(),
  answer: printed(400),
  reason: printed(400),
}).exact();

const extrasFields = {
  choices: array(choiceSchema.required()).max(60, 'A sheet has at most 60 rules of choice.'),
  notes: array(noteSchema.required()).max(300, 'A sheet has at most 300 notes.'),
  questions: array(questionSchema.required()).max(300, 'A sheet has at most 300 questions.'),
  publishedText: string()
    .max(SHEET_TEXT_LIMIT, 'A published text has at most 400,000 characters.')
    .nullable(),
  told: toldSchema.nullable().default(undefined).optional(),
};

/** Parts of one sheet: a document for a whole band has some (our own limit). */
const MAX_PARTS = 300;

const sheetFields = {
  body: textField('The body’s name', 160).required('The body’s name is missing.'),
  year: string()
    .trim()
    .matches(/^\d{4}(-\d{2})?$/u, 'A year is one such as 2027 or 2026-27.')
    .required('The year is missing.'),
  division: string().trim().max(120).defined(),
  instrument: textField('The list of instruments', 400).required('The instrument is missing.'),
  deadlines: array(deadlineSchema.required()).max(60, 'A sheet has at most 60 dates.').required(),
  parts: array(partSchema.required())
    .min(1, 'Add at least one part.')
    .max(MAX_PARTS, `A sheet has at most ${MAX_PARTS} parts; take those of other instruments away.`)
    .required(),
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
/** One part of a sheet: the same on the wire as in core. */
export type SheetPartInput = SheetPart;

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
