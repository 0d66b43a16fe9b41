import { array, number, object, string, type InferType } from 'yup';
import { CUE_KINDS, CUE_TEXT_LIMIT, type CueKind } from '@vivid-cue/core/cues';
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

const cueFields = {
  kind: string<CueKind>().oneOf(CUE_KINDS, 'Choose what the cue is about.').required(),
  from: measureNumberField.required('The first measure is missing.'),
  to: measureNumberField.required('The last measure is missing.'),
  text: string()
    .trim()
    .max(CUE_TEXT_LIMIT, `A cue has at most ${CUE_TEXT_LIMIT} characters.`)
    .required('Write what to remember here.'),
};

/** A new cue; `findingKey` where a finding became one. */
export const cueInputSchema = object({
  id: idField.required(),
  ...cueFields,
  findingKey: findingKeyField.nullable().defined(),
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
/** A new cue, as a type. */
export type CueInput = InferType<typeof cueInputSchema>;
/** A changed cue, as a type. */
export type CueChange = InferType<typeof cueChangeSchema>;
/** A numbering, as a type. */
export type Numbering = InferType<typeof numberingSchema>;

/** A decision about a finding on the wire. */
export interface FindingMarkView {
  readonly key: string;
  readonly measure: string;
  readonly mark: 'confirmed' | 'dismissed' | 'pinned';
}

/** A cue on the wire. Shape: half-open run of measure indexes beside the printed numbers. */
export interface CueView {
  readonly id: string;
  readonly kind: CueKind;
  readonly from: string;
  readonly to: string;
  readonly fromIndex: number;
  readonly endIndex: number;
  readonly text: string;
  readonly findingKey: string | null;
  readonly version: number;
}
