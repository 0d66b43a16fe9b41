import { array, mixed, number, object, string, type ObjectSchema, type Schema } from 'yup';
import {
  COLUMN_ROLES,
  LINE_ROLES,
  WORD_FIELDS,
  type Correction,
  type KnownPart,
} from '@vivid-cue/core/sheet';
import { idField } from './fields.js';

/** Corrections of one text (our own limit: more than lines of a long sheet). */
const MOST_CORRECTIONS = 600;
const MOST_PARTS = 300;

const place = (most: number) => number().integer().min(0).max(most).required();
const anchorFields = { line: string().max(200).defined().strict(), nth: place(100_000) };
const anchorSchema = object(anchorFields).exact().required();
const partAnchorSchema = object({ ...anchorFields, index: place(1000) }).exact();

const CORRECTIONS: Readonly<Record<Correction['kind'], Schema>> = {
  line: object({
    kind: string().oneOf(['line']).required(),
    at: anchorSchema,
    role: string().oneOf(LINE_ROLES).required(),
  }).exact(),
  column: object({
    kind: string().oneOf(['column']).required(),
    at: anchorSchema,
    column: place(200),
    role: string().oneOf(COLUMN_ROLES).required(),
  }).exact(),
  words: object({
    kind: string().oneOf(['words']).required(),
    at: anchorSchema,
    from: place(400_000),
    to: place(400_000),
    part: partAnchorSchema.required(),
    field: string().oneOf(WORD_FIELDS).required(),
  }).exact(),
};

function isCorrection(value: unknown): value is Correction {
  const kind = (value as { readonly kind?: unknown } | null)?.kind;
  return (
    typeof kind === 'string' &&
    Object.hasOwn(CORRECTIONS, kind) &&
    CORRECTIONS[kind as Correction['kind']].isValidSync(value, { strict: true })
  );
}

/** What a person said of a text, as a type. */
export interface ToldOfText {
  readonly corrections: readonly Correction[];
  readonly parts: readonly KnownPart[];
}

/** What a person said of the published text, and where its parts begin: so that it can be read again. */
export const toldSchema = object({
  corrections: array(
    mixed<Correction>().test(
      'correction',
      'A correction says what a line, a column or words are.',
      isCorrection,
    ),
  )
    .max(MOST_CORRECTIONS, `A text has at most ${MOST_CORRECTIONS} corrections.`)
    .required(),
  parts: array(
    object({
      id: idField.required(),
      at: partAnchorSchema.nullable().default(undefined).defined(),
      name: string().max(1000).defined().strict(),
    })
      .exact()
      .required(),
  )
    .max(MOST_PARTS)
    .required(),
}).exact() as unknown as ObjectSchema<ToldOfText>;
