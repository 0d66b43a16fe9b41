import { array, boolean, number, object, string, type InferType } from 'yup';
import type { KeptDay, PlanWishes, TaskKind } from '@vivid-cue/core/plan';
import { bpmField, dateField, idField, textField } from './fields.js';

/** Nobody plans further ahead than this (our own). Units: days */
const MOST_DAYS = 500;
const TASK_KINDS: readonly TaskKind[] = [
  'listen',
  'sing-and-clap',
  'forms',
  'equipment',
  'page-order',
  'accompanist',
  'upload',
  'own',
];
const RUN_KINDS = ['first-run', 'run', 'assembly', 'mock', 'take'] as const;

const minutesField = number().integer().min(0).max(600);
const onDaySchema = object({ passageId: idField.required(), date: dateField().required() }).exact();

/** What a person has settled about a plan. */
const wishesSchema = object({
  skipped: array(dateField().required()).max(MOST_DAYS).required(),
  minutesOf: array(
    object({ date: dateField().required(), minutes: minutesField.required() }).exact().required(),
  )
    .max(MOST_DAYS)
    .required(),
  pinned: array(onDaySchema.required()).max(2000).required(),
  barred: array(onDaySchema.required()).max(2000).required(),
  assembly: dateField().nullable().defined(),
}).exact();

/** Something the instructor wants done that is no passage. */
const ownTaskSchema = object({
  id: idField.required(),
  text: textField('What is to be done', 160).required(),
  date: dateField().required(),
}).exact();

const keptDaySchema = object({
  date: dateField().required(),
  minutes: minutesField.required(),
  isRest: boolean().strict().required(),
  blocks: array(
    object({ passageId: idField.required(), minutes: minutesField.required(), bpm: bpmField.required() })
      .exact()
      .required(),
  )
    .max(100)
    .required(),
  runs: array(
    object({
      kind: string<(typeof RUN_KINDS)[number]>().oneOf(RUN_KINDS).required(),
      partIds: array(idField.required()).max(60).required(),
      minutes: minutesField.required(),
    })
      .exact()
      .required(),
  )
    .max(10)
    .required(),
}).exact();

/** A plan to keep: what was settled, and its days from today on. Shape: `version` 0 for the first */
export const planSchema = object({
  version: number().integer().min(0).required(),
  wishes: wishesSchema.required(),
  ownTasks: array(ownTaskSchema.required()).max(200).required(),
  from: dateField().required(),
  days: array(keptDaySchema.required()).max(MOST_DAYS).required(),
}).exact();

/** Something that was done, or is to be done after all. Shape: `doneOn` null for that */
export const taskTickSchema = object({
  subjectId: idField.required(),
  kind: string<TaskKind>().oneOf(TASK_KINDS).required(),
  doneOn: dateField().nullable().defined(),
}).exact();

/** A plan of a student's record: with its days, the past ones too, and what was ticked. */
export const recordPlanSchema = object({
  wishes: wishesSchema.required(),
  ownTasks: array(ownTaskSchema.required()).max(200).required(),
  madeAt: string().max(40).required(),
  days: array(keptDaySchema.required()).max(5000).required(),
  ticks: array(taskTickSchema.required()).max(5000).required(),
}).exact();

/** A plan to keep, as a type. */
export interface PlanToKeep {
  readonly version: number;
  readonly wishes: PlanWishes;
  readonly ownTasks: readonly OwnTask[];
  readonly from: string;
  readonly days: readonly KeptDay[];
}
/** A task's tick, as a type. */
export type TaskTick = InferType<typeof taskTickSchema>;
/** A task of the instructor's own, as a type. */
export type OwnTask = InferType<typeof ownTaskSchema>;
/** A plan of a record, as a type. */
export type RecordPlan = InferType<typeof recordPlanSchema>;

/** Something to be done that is no passage. Shape: `subjectId` its program, or its own; `doneOn` null until it is */
export interface TaskView {
  readonly subjectId: string;
  readonly kind: TaskKind;
  readonly text: string;
  /** Whose sheet it belongs to; "" for the instructor's own. */
  readonly sheetTitle: string;
  readonly date: string;
  readonly doneOn: string | null;
}

/** What was kept of a plan. Shape: `version` 0 and `madeAt` null before the first; days in order, past ones too */
export interface KeptPlan {
  readonly version: number;
  readonly madeAt: string | null;
  readonly wishes: PlanWishes;
  readonly ownTasks: readonly OwnTask[];
  readonly days: readonly KeptDay[];
}
