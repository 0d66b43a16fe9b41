import { array, number, object, string, type InferType } from 'yup';
import type { ClimbSchool, RungRule, SlipRule } from '@vivid-cue/core/climb';
import { dateField } from './fields.js';

export const RUNG_RULES: readonly RungRule[] = ['three-in-a-row', 'five-in-a-row', 'no-surprises'];
const CLIMB_SCHOOLS: readonly ClimbSchool[] = ['steady', 'reach', 'whole'];
const SLIP_RULES: readonly SlipRule[] = ['two-down', 'stay'];
/** Nobody practises longer in a day under a plan of ours (our own bound, far above what is healthy). */
const MOST_MINUTES = 300;

/** A studio's or a passage's words on how a passage climbs. */
export const rungRuleField = string<RungRule>().oneOf(RUNG_RULES);
export const climbSchoolField = string<ClimbSchool>().oneOf(CLIMB_SCHOOLS);
export const slipRuleField = string<SlipRule>().oneOf(SLIP_RULES);
const minutesField = number()
  .integer('Minutes are whole.')
  .min(5, 'A day of practice has at least 5 minutes.');

/** Minutes of a usual day, the most that a day may have, and the weekdays without practice. */
export const practiceDayFields = {
  dayMinutes: minutesField.max(MOST_MINUTES),
  dayCap: minutesField.max(MOST_MINUTES),
  restDays: array(number().integer().min(0).max(6).required()).max(7),
};

const secondsField = number()
  .min(1, 'A long tone lasts at least a second.')
  .max(120, 'A long tone lasts at most 120 seconds.');

/** How long a student's long tones last, soft and loud, best of several tries, and when that was; null for unknown. */
export const airSchema = object({
  soft: secondsField.nullable().defined(),
  loud: secondsField.nullable().defined(),
  on: dateField().nullable().defined(),
}).exact();

/** A student's air, as a type. */
export type StudentAir = InferType<typeof airSchema>;

/** Nothing is known of somebody's air. */
export const NO_AIR: StudentAir = Object.freeze({ soft: null, loud: null, on: null });

/** How a student climbs and practises; null is what the studio says. */
export const studentSchoolsSchema = object({
  climbSchool: climbSchoolField.nullable().defined(),
  rungRule: rungRuleField.nullable().defined(),
  slipRule: slipRuleField.nullable().defined(),
  dayMinutes: practiceDayFields.dayMinutes.nullable().defined(),
  dayCap: practiceDayFields.dayCap.nullable().defined(),
  restDays: practiceDayFields.restDays.nullable().defined(),
  air: airSchema.default(NO_AIR),
}).exact();

/** How a student climbs and practises, as a type. */
export type StudentSchools = InferType<typeof studentSchoolsSchema>;

/** Nothing of a student's own. */
export const AS_THE_STUDIO: StudentSchools = Object.freeze({
  climbSchool: null,
  rungRule: null,
  slipRule: null,
  dayMinutes: null,
  dayCap: null,
  restDays: null,
  air: NO_AIR,
});
