import { array, boolean, number, object, string, type InferType } from 'yup';
import {
  CUE_AUTHORS,
  CUE_KINDS,
  CUE_STATUSES,
  type CueAuthor,
  type CueKind,
  type CueStatus,
} from '@vivid-cue/core/cue-kinds';
import { CUE_REASON_LIMIT, CUE_SIGN_LIMIT, CUE_TEXT_LIMIT } from '@vivid-cue/core/cues';
import { idField, measureNumberField } from './fields.js';

const FINDING_KEY = /^[a-z-]{1,20}:[0-9a-f]{16}$/u;
const findingKeyField = string().matches(FINDING_KEY, 'A finding is named by its kind and its mark.');
/** A number as it stands on the page: also "X1" and the like. */
const printedField = string().trim().max(8);

/** What an instructor decided about a finding: kept, set aside, or pinned as the measure that decides; null takes it back. */
export const findingMarkSchema = object({
  id: idField.required(),
  key: findingKeyField.required(),
  measure: printedField.defined(),
  mark: string<'confirmed' | 'dismissed' | 'pinned'>()
    .oneOf(['confirmed', 'dismissed', 'pinned'])
    .nullable()
    .defined(),
}).exact();

/** Another way that was considered, why it was not taken, and whether it would be safe before a panel. */
const alternativeSchema = object({
  text: string().trim().max(CUE_TEXT_LIMIT).required('Name the other way.'),
  reason: string().trim().max(300, 'A reason here has at most 300 characters.').defined(),
  isSafe: boolean().strict().required(),
}).exact();

const cueFields = {
  kind: string<CueKind>().oneOf(CUE_KINDS, 'Choose what the cue is about.').required(),
  from: measureNumberField.required('The first measure is missing.'),
  to: measureNumberField.required('The last measure is missing.'),
  text: string()
    .trim()
    .max(CUE_TEXT_LIMIT, `A cue has at most ${CUE_TEXT_LIMIT} characters.`)
    .required('Write what to remember here.'),
  /** The note of the first measure that it stands at, from 1; null for the measure. */
  note: number().integer().min(1, 'Notes are counted from 1.').max(999).nullable().default(null),
  /** The beat of the first measure that it stands at, from 1, where it stands at none of its notes. */
  beat: number()
    .min(1, 'Beats are counted from 1.')
    .max(64, 'No measure has so many beats.')
    .nullable()
    .default(null),
  /** What is drawn on the music; "" for nothing. */
  sign: string().trim().max(CUE_SIGN_LIMIT, `A sign has at most ${CUE_SIGN_LIMIT} characters.`).default(''),
  status: string<CueStatus>().oneOf(CUE_STATUSES, 'Say whether it is settled.').default('settled'),
  reason: string()
    .trim()
    .max(CUE_REASON_LIMIT, `A reason has at most ${CUE_REASON_LIMIT} characters.`)
    .default(''),
  alternatives: array(alternativeSchema.required()).max(6, 'At most six other ways are kept.').default([]),
};

/** A new cue; `findingKey` where a finding became one. */
export const cueInputSchema = object({
  id: idField.required(),
  ...cueFields,
  findingKey: findingKeyField.nullable().defined(),
  author: string<CueAuthor>().oneOf(CUE_AUTHORS).default('instructor'),
}).exact();

/** New cues, in one request. */
export const cueListSchema = object({
  cues: array(cueInputSchema.required())
    .min(1, 'No cue came.')
    .max(200, 'At most 200 cues at once.')
    .required(),
}).exact();

/** A changed cue. */
export const cueChangeSchema = object(cueFields).exact();

/** Places from which measures are counted anew. */
export const restartsField = array(
  object({
    index: number().integer().min(0).max(20_000).required(),
    number: number().integer().min(0).max(9_000, 'A measure number has at most four digits.').required(),
  }).exact(),
)
  .max(200, 'At most 200 places are numbered anew.')
  .defined();

/** From which measures on to count from which numbers; an empty list returns to the printed ones. */
export const numberingSchema = object({ restarts: restartsField }).exact();

/** A decision about a finding, as a type. */
export type FindingMarkInput = InferType<typeof findingMarkSchema>;
/** Another way of a cue, as a type. */
export type CueAlternative = InferType<typeof alternativeSchema>;
type Fields = InferType<typeof cueInputSchema>;
/** What may be left out of a cue: it stands at its measures, without a sign, settled. */
type Optional = 'note' | 'beat' | 'sign' | 'status' | 'reason' | 'alternatives' | 'author';
/** A new cue, as a type. */
export type CueInput = Omit<Fields, Optional> & Partial<Pick<Fields, Optional>>;
/** A changed cue, as a type. */
export type CueChange = Omit<CueInput, 'id' | 'findingKey' | 'author'>;
/** New cues, as a type. */
export interface CueList {
  readonly cues: readonly CueInput[];
}
/** A numbering, as a type. */
export type Numbering = InferType<typeof numberingSchema>;

/** A decision about a finding on the wire. */
export interface FindingMarkView {
  readonly key: string;
  readonly measure: string;
  readonly mark: 'confirmed' | 'dismissed' | 'pinned';
}

/** A cue at its measures, without a sign, settled: what is not said of one. */
export const PLAIN_CUE = Object.freeze({
  note: null,
  beat: null,
  sign: '',
  status: 'settled',
  reason: '',
  author: 'instructor',
  alternatives: [],
} satisfies Pick<CueView, Optional>);

/** A cue on the wire. Shape: half-open run of measure indexes beside the printed numbers. */
export interface CueView {
  readonly id: string;
  readonly kind: CueKind;
  readonly from: string;
  readonly to: string;
  readonly fromIndex: number;
  readonly endIndex: number;
  readonly text: string;
  /** The note of the first measure, from 1; null for the measure. */
  readonly note: number | null;
  /** The printed beat of the first measure, from 1, for a cue at none of its notes. */
  readonly beat: number | null;
  /** What is drawn on the music; "" for nothing. */
  readonly sign: string;
  readonly status: CueStatus;
  readonly reason: string;
  readonly author: CueAuthor;
  readonly alternatives: readonly CueAlternative[];
  readonly findingKey: string | null;
  readonly version: number;
}
