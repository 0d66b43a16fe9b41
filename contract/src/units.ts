import { number, object, string, type InferType } from 'yup';
import { idField, instantField } from './fields.js';

/** Kinds of practice beside the program: reading at sight, and ear tests by what is asked. */
export const UNIT_KINDS = ['sight', 'echo', 'clap', 'interval', 'cadence', 'meter', 'pulse'] as const;

/** One of UNIT_KINDS. */
export type UnitKind = (typeof UNIT_KINDS)[number];

/** A unit of practice that was done: what came of it, and the seed it can be made again from. */
export const unitSchema = object({
  id: idField.required(),
  kind: string<UnitKind>().oneOf(UNIT_KINDS).required(),
  level: number().integer().min(1).max(8).required(),
  seed: number().integer().min(0).max(2_147_483_647).required(),
  at: instantField,
  /** How much of it was right. */
  right: number().min(0).max(1000).required(),
  of: number().min(1).max(1000).required(),
}).exact();

/** A unit, as a type. */
export type UnitInput = InferType<typeof unitSchema>;

/** How one kind stands with a student. Shape: share of the last ten that were right, 0 to 1 */
export interface UnitLine {
  readonly kind: UnitKind;
  readonly level: number;
  readonly done: number;
  readonly share: number;
  readonly lastAt: string;
}

/** The units of a student, kind by kind and level by level. */
export interface UnitsView {
  readonly student: { readonly id: string; readonly name: string; readonly instrument: string };
  readonly lines: readonly UnitLine[];
}
