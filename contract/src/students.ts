import { array, number, object, type InferType } from 'yup';
import type { QuarterCount } from '@vivid-cue/core/music';
import type { ReadinessState } from '@vivid-cue/core/readiness';
import { idField, textField } from './fields.js';
import type { FromStudentView } from './from-student.js';
import { studentSchoolsSchema, type StudentSchools } from './schools.js';

const name = textField('The student’s name', 120).required('The student’s name is missing.');
const instrument = textField('The instrument', 60).required('The instrument is missing.');

/** A new student: no more is asked than a name and an instrument. */
export const studentInputSchema = object({ id: idField.required(), name, instrument }).exact();
/** A changed student. */
export const studentChangeSchema = object({
  name,
  instrument,
  schools: studentSchoolsSchema.optional(),
}).exact();
/** Several students at once, all or none. */
export const studentListSchema = object({
  students: array(studentInputSchema.required())
    .min(1, 'There is no student to add.')
    .max(100, 'At most 100 students are added at once.')
    .required(),
}).exact();
/** The version an edit was made on, from the If-Match header. */
export const versionSchema = number().integer().min(1).required();

/** Several students, as a type. */
export type StudentList = InferType<typeof studentListSchema>;
/** A new student, as a type. */
export type StudentInput = InferType<typeof studentInputSchema>;
/** A changed student, as a type. */
export type StudentChange = InferType<typeof studentChangeSchema>;

/** A student on the wire. */
export interface StudentView {
  readonly id: string;
  readonly name: string;
  readonly instrument: string;
  readonly version: number;
}

/** The next date a program works towards. Units: calendar days in the studio's zone. */
export interface NextDate {
  readonly what: string;
  readonly date: string;
  readonly time: string | null;
  readonly zone: string;
  readonly daysLeft: number;
}

/** One measure in a small ribbon: its length and the state of the passage that covers it. Units: quarter notes. */
export type RibbonCell = readonly [quarters: QuarterCount, state: ReadinessState];

/** A part of a program with its readiness. Units: chances 0 to 1. */
export interface ProgramPartView {
  readonly id: string;
  readonly label: string;
  readonly kind: string;
  readonly workTitle: string;
  /** Number, page, book, edition and composer as the sheet states them; "" for none. */
  readonly sourceText: string;
  readonly spanText: string;
  readonly tempoText: string;
  readonly hasScore: boolean;
  readonly scoreTitle: string | null;
  readonly state: ReadinessState;
  readonly chance: number | null;
  readonly expectedSlips: number | null;
  readonly sentence: string;
  readonly ribbon: readonly RibbonCell[];
  /** Whether passages are cut, and when one of them was last played. */
  readonly passages: number;
  readonly lastRepAt: string | null;
}

/** A program with its parts. */
export interface ProgramView {
  /** How many of its parts have a number, of how many. */
  readonly tracked: readonly [known: number, all: number];
  readonly expectedSlips: number | null;
  readonly id: string;
  readonly sheetId: string;
  readonly sheetTitle: string;
  /** Whether the sheet has a newer revision than the one that the program stands on. */
  readonly isBehind: boolean;
  readonly nextDate: NextDate | null;
  readonly state: ReadinessState;
  readonly chance: number | null;
  readonly sentence: string;
  readonly parts: readonly ProgramPartView[];
}

/** A student's page. */
export interface StudentPageView {
  readonly student: StudentView;
  /** How the student climbs and practises where that differs from the studio. */
  readonly schools: StudentSchools;
  /** What to know of the student's own reports; "" for nothing. */
  readonly reportsText: string;
  readonly fromStudent: FromStudentView;
  readonly programs: readonly ProgramView[];
}

/** One row of the season: a student and the program whose date comes next. */
export interface SeasonRow {
  readonly student: StudentView;
  readonly program: ProgramView | null;
  readonly morePrograms: number;
  /** What only the instructor can do here now, in a few words; null where practising is all that is needed. */
  readonly need: string | null;
}

/** The season page. */
export interface SeasonView {
  readonly rows: readonly SeasonRow[];
  readonly bodies: number;
  readonly sheets: number;
}
