import { boolean, number, object, string, type InferType } from 'yup';
import type { LadderPlace, LadderState, LadderStep, Rung, RungRule } from '@vivid-cue/core/climb';
import type { BeatUnit } from '@vivid-cue/core/music';
import type { PassageReadiness, PassageRecord, ReadinessState, RepContext } from '@vivid-cue/core/readiness';
import type { ScoreDigest } from '@vivid-cue/core/score';
import { beatUnitField, bpmField, idField, measureNumberField, textField } from './fields.js';
import type { StudentView } from './students.js';

/** A new program: one student's answer to one sheet. */
export const programInputSchema = object({
  id: idField.required(),
  studentId: idField.required(),
  sheetId: idField.required(),
}).exact();

/** The tempo the student aims at in a part. */
export const targetSchema = object({
  bpm: bpmField.required('The target tempo is missing.'),
  beatUnit: beatUnitField.required(),
}).exact();

/** What an upload says beside the file's bytes, in its query. */
export const uploadSchema = object({
  id: idField.required(),
  fileName: textField('The file’s name', 200).required(),
  partId: string().max(80),
}).exact();

/** The chosen part of a score with several. */
export const scorePartSchema = object({ partId: string().min(1).max(80).required() }).exact();

const RUNG_RULES: readonly RungRule[] = ['three-in-a-row', 'five-in-a-row', 'no-surprises'];
const stepSchema = object({
  kind: string<LadderStep['kind']>().oneOf(['percent', 'bpm', 'dial']).required(),
  size: number().min(0.5, 'A step is at least 0.5.').max(100, 'A step is at most 100.').nullable().defined(),
}).exact();

const passageFields = {
  name: string().trim().max(80, 'A name has at most 80 characters.').defined(),
  from: measureNumberField.required('The first measure is missing.'),
  to: measureNumberField.required('The last measure is missing.'),
  target: targetSchema.nullable().defined(),
};

/** A new passage; target null takes the part's target tempo. */
export const passageInputSchema = object({ id: idField.required(), ...passageFields }).exact();
/** A changed passage with its ladder's settings. */
export const passageChangeSchema = object({
  ...passageFields,
  step: stepSchema.required(),
  rule: string<RungRule>().oneOf(RUNG_RULES).required(),
}).exact();

const CONTEXTS: readonly RepContext[] = ['alone', 'joined', 'run', 'mock'];

/** One rep: a fact, sent once or many times with the same identifier. */
export const repInputSchema = object({
  id: idField.required(),
  at: string()
    .matches(/^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d{1,3})?Z$/u, 'An instant is written in UTC.')
    .required(),
  bpm: bpmField.required('The tempo is missing.'),
  beatUnit: beatUnitField.required(),
  context: string<RepContext>().oneOf(CONTEXTS).required(),
  isClean: boolean().strict().required(),
}).exact();

/** A new program, as a type. */
export type ProgramInput = InferType<typeof programInputSchema>;
/** A target tempo, as a type. */
export type Target = InferType<typeof targetSchema>;
/** A new passage, as a type. */
export type PassageInput = InferType<typeof passageInputSchema>;
/** A changed passage, as a type. */
export type PassageChange = InferType<typeof passageChangeSchema>;
/** A rep to log, as a type. */
export type RepInput = InferType<typeof repInputSchema>;

/** A rep on the wire. */
export interface RepView extends RepInput {
  readonly day: number;
}

/** A passage with all that its panel shows. Units: see the members. */
export interface PassageView {
  readonly id: string;
  readonly name: string;
  readonly from: string;
  readonly to: string;
  readonly fromIndex: number;
  readonly endIndex: number;
  readonly target: { readonly bpm: number; readonly beatUnit: BeatUnit };
  readonly hasOwnTarget: boolean;
  readonly step: LadderStep;
  readonly rule: RungRule;
  readonly rungs: readonly Rung[];
  readonly ladder: LadderState;
  readonly place: LadderPlace;
  readonly record: PassageRecord;
  readonly readiness: PassageReadiness;
  readonly sentence: string;
  readonly version: number;
}

/** A passage with its latest reps, newest first. */
export interface PassagePageView {
  readonly passage: PassageView;
  readonly reps: readonly RepView[];
}

/** The score room of one part of one program. */
export interface ScoreRoomView {
  readonly programPartId: string;
  readonly student: StudentView;
  readonly sheetId: string;
  readonly sheetTitle: string;
  readonly partLabel: string;
  readonly workTitle: string;
  readonly span: { readonly from: string; readonly to: string } | null;
  readonly spanIssue: string | null;
  readonly tempoText: string;
  readonly target: { readonly bpm: number; readonly beatUnit: BeatUnit } | null;
  readonly daysLeft: number | null;
  readonly score: { readonly id: string; readonly fileName: string; readonly digest: ScoreDigest } | null;
  /** The part's measures by index, half-open; null without a score or with a span the score does not hold. */
  readonly range: { readonly fromIndex: number; readonly endIndex: number } | null;
  readonly passages: readonly PassageView[];
  readonly part: {
    readonly state: ReadinessState;
    readonly chance: number | null;
    readonly expectedSlips: number | null;
    readonly sentence: string;
  };
}
