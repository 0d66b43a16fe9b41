import { CLIMB_SCHOOLS, type ClimbSchool, type RungRule, type SlipRule } from '@vivid-cue/core/climb';

/** A choice with its words. */
export interface Choice<Value> {
  readonly value: Value;
  readonly label: string;
}

/** When a rung is done. */
export const RUNG_RULE_CHOICES: readonly Choice<RungRule>[] = [
  { value: 'three-in-a-row', label: 'three clean in a row' },
  { value: 'five-in-a-row', label: 'five clean in a row' },
  { value: 'no-surprises', label: 'no slip in eight reps over two days' },
];

/** What slips do. */
export const SLIP_RULE_CHOICES: readonly Choice<SlipRule>[] = [
  { value: 'two-down', label: 'two in a row: a rung down' },
  { value: 'stay', label: 'the count begins anew' },
];

/** How the tempo is reached. */
export const CLIMB_SCHOOL_CHOICES: readonly Choice<ClimbSchool>[] = (
  Object.entries(CLIMB_SCHOOLS) as [ClimbSchool, (typeof CLIMB_SCHOOLS)[ClimbSchool]][]
).map(([value, { name }]) => ({ value, label: name.toLowerCase() }));

/** Days of the week as the platform counts them, Monday first. */
export const WEEKDAYS: readonly Choice<number>[] = [
  { value: 1, label: 'Monday' },
  { value: 2, label: 'Tuesday' },
  { value: 3, label: 'Wednesday' },
  { value: 4, label: 'Thursday' },
  { value: 5, label: 'Friday' },
  { value: 6, label: 'Saturday' },
  { value: 0, label: 'Sunday' },
];
