import { number, object, string, type InferType } from 'yup';
import type { TempoPolicy } from '@vivid-cue/core/program';
import { idField, textField } from './fields.js';
import { climbSchoolField, practiceDayFields, rungRuleField, slipRuleField } from './schools.js';
import { isZone } from './zones.js';

function isAtLeast(cap: number, minutes: number | undefined): boolean {
  return minutes === undefined || cap >= minutes;
}

/** The studio's settings: its name, zone, vocabulary and default schools of practice. */
export const settingsSchema = object({
  studioName: textField('The studio’s name', 120).required('The studio’s name is missing.'),
  zone: string()
    .required('The time zone is missing.')
    .test('zone', 'Choose a time zone such as Europe/Berlin.', (zone) => isZone(zone)),
  vocabulary: string<'us' | 'uk'>().oneOf(['us', 'uk']).required(),
  rungRule: rungRuleField.required(),
  climbSchool: climbSchoolField.required(),
  slipRule: slipRuleField.required(),
  dayMinutes: practiceDayFields.dayMinutes.required('Say how long a usual day is.'),
  dayCap: practiceDayFields.dayCap
    .required('Say what the longest day is.')
    .test('cap', 'The longest day is not shorter than a usual one.', (cap, { parent }) =>
      isAtLeast(cap, (parent as { readonly dayMinutes?: number }).dayMinutes),
    ),
  restDays: practiceDayFields.restDays.required(),
  /** How long takes are kept after a season's last date. Units: days */
  takeDays: number()
    .integer('Say it in whole days.')
    .min(0, 'Days are 0 or more.')
    .max(3650, 'Takes are kept for ten years at most.')
    .required('Say how long takes are kept after the last date.'),
  tempoPolicy: string<TempoPolicy>().oneOf(['keep', 'own', 'range']).required(),
}).exact();

/** The studio's settings, as a type. */
export type Settings = InferType<typeof settingsSchema>;

/** Settings with the version an edit is made on. */
export interface SettingsView extends Settings {
  readonly version: number;
}

/** A private address of a calendar; of one student, or of the studio. */
export const calendarLinkSchema = object({
  id: idField.required(),
  studentId: idField.nullable().defined(),
}).exact();

/** A calendar link to make, as a type. */
export type CalendarLinkInput = InferType<typeof calendarLinkSchema>;

/** A calendar link; its address is shown once, when it is made. */
export interface CalendarLinkView {
  readonly id: string;
  readonly studentName: string | null;
  readonly createdAt: string;
  readonly path: string | null;
}

/** One date in the studio's line of time. Units: calendar days in the studio's zone. */
export interface TimelineEntry {
  readonly deadlineId: string;
  readonly sheetId: string;
  readonly sheetTitle: string;
  readonly what: string;
  readonly date: string;
  readonly endDate: string | null;
  readonly time: string | null;
  readonly zone: string;
  /** The same moment in the studio's zone: a day and, where the sheet states one, a time. */
  readonly localDate: string;
  readonly localTime: string | null;
  readonly daysLeft: number;
  readonly students: readonly { readonly id: string; readonly name: string }[];
}

/** Every date of the studio, soonest first. */
export interface TimelineView {
  readonly zone: string;
  readonly entries: readonly TimelineEntry[];
}
