import { object, string, type InferType } from 'yup';
import type { RungRule } from '@vivid-cue/core/climb';
import type { TempoPolicy } from '@vivid-cue/core/program';
import { idField, textField } from './fields.js';
import { isZone } from './zones.js';

/** The studio's settings: its name, zone, vocabulary and default schools of practice. */
export const settingsSchema = object({
  studioName: textField('The studio’s name', 120).required('The studio’s name is missing.'),
  zone: string()
    .required('The time zone is missing.')
    .test('zone', 'Choose a time zone such as Europe/Berlin.', (zone) => isZone(zone)),
  vocabulary: string<'us' | 'uk'>().oneOf(['us', 'uk']).required(),
  rungRule: string<RungRule>().oneOf(['three-in-a-row', 'five-in-a-row', 'no-surprises']).required(),
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
