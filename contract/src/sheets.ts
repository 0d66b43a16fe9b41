import { array, object, string, type InferType } from 'yup';
import { idField, measureNumberField, tempoSchema, textField } from './fields.js';
import { isZone } from './zones.js';

/** What a date on a sheet is for. */
export const DEADLINE_KINDS = [
  'registration',
  'late registration',
  'recording',
  'audition',
  'results',
  'other',
] as const;
/** What a part of a sheet is. */
export const PART_KINDS = [
  'etude',
  'scale',
  'chromatic',
  'excerpt',
  'solo',
  'sight-reading',
  'aural',
  'improvisation',
  'rudiments',
  'other',
] as const;

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
  date: string()
    .required('The date is missing.')
    .test('day', 'Write a day that exists, as year-month-day.', (date) => isCalendarDay(date)),
  time: string()
    .matches(/^([01]\d|2[0-3]):[0-5]\d$/u, 'Write a time of day such as 17:00.')
    .nullable()
    .defined(),
  zone: string()
    .required('The time zone is missing.')
    .test('zone', 'Choose a time zone such as Atlantic/Reykjavik.', (zone) => isZone(zone)),
}).exact();

const partSchema = object({
  id: idField.required(),
  kind: string().oneOf(PART_KINDS).required('Say what kind of part it is.'),
  label: textField('The part’s name', 80).required('The part’s name is missing.'),
  workTitle: string().trim().max(160).defined(),
  from: measureNumberField.nullable().defined(),
  to: measureNumberField.nullable().defined(),
  tempo: tempoSchema.required(),
})
  .exact()
  .test(
    'span-complete',
    'Give both the first and the last measure, or neither.',
    ({ from, to }) => (from === null) === (to === null),
  );

const sheetFields = {
  body: textField('The body’s name', 160).required('The body’s name is missing.'),
  year: string()
    .trim()
    .matches(/^\d{4}(-\d{2})?$/u, 'A year is one such as 2027 or 2026-27.')
    .required('The year is missing.'),
  division: string().trim().max(120).defined(),
  instrument: textField('The instrument', 60).required('The instrument is missing.'),
  deadlines: array(deadlineSchema.required()).min(1, 'Add at least one date.').max(20).required(),
  parts: array(partSchema.required()).min(1, 'Add at least one part.').max(40).required(),
};

/** A new sheet. */
export const sheetInputSchema = object({ id: idField.required(), ...sheetFields }).exact();
/** A changed sheet: the whole of it. */
export const sheetChangeSchema = object(sheetFields).exact();

/** A new sheet, as a type. */
export type SheetInput = InferType<typeof sheetInputSchema>;
/** A changed sheet, as a type. */
export type SheetChange = InferType<typeof sheetChangeSchema>;
/** One date of a sheet. */
export type DeadlineInput = InferType<typeof deadlineSchema>;
/** One part of a sheet. */
export type SheetPartInput = InferType<typeof partSchema>;

/** A sheet on the wire. */
export interface SheetView extends SheetChange {
  readonly id: string;
  readonly version: number;
}

/** A line in the list of sheets. */
export interface SheetLine {
  readonly id: string;
  readonly title: string;
  readonly instrument: string;
  readonly parts: number;
  readonly programs: number;
  readonly next: { readonly what: string; readonly daysLeft: number } | null;
}
