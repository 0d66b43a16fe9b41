import type { BeatUnit, Bpm } from '@vivid-cue/core/music';
import type { LevelWord } from '@vivid-cue/core/takes';
import type { OriginalKind, TakeForm } from '@vivid-cue/contract/take-limits';
import type { TakeInput, TakeMarks } from '@vivid-cue/contract';
import { insertOnce, rowsOf, type Studio } from '../db/studio.js';

/** A take as stored. Shape: `told`, `marks` and `run` as JSON. Units: seconds; beats of the unit a minute */
export interface TakeRow {
  readonly id: string;
  readonly student_id: string;
  readonly program_part_id: string;
  readonly sitting_id: string | null;
  readonly number: number;
  readonly by_student: number;
  readonly at: Date;
  readonly seconds: number;
  readonly level: LevelWord;
  readonly with_repeats: number;
  readonly asked_bpm: Bpm | null;
  readonly asked_unit: BeatUnit | null;
  readonly told: string | null;
  readonly marks: string | null;
  readonly marks_version: number;
  readonly run: string | null;
  readonly whole_at: Date | null;
  readonly deleted_at: Date | null;
}

/** A form of a take. Units: bytes of the whole */
export interface FormRow {
  readonly take_id: string;
  readonly form: TakeForm;
  readonly kind: 'audio/flac' | OriginalKind;
  readonly bytes: number;
  readonly sha256: string;
}

/** The run that a take was: what slipped, and the reps that it became. */
export interface StoredRun {
  readonly at: string;
  readonly slips: number;
  readonly repIds: readonly string[];
}

/** One take of a student who is not removed, removed takes too; null for none. */
export async function findTake(studio: Studio, id: string): Promise<TakeRow | null> {
  const row: unknown = await rowsOf(studio, 'takes as t')
    .join('students as st', 'st.id', 't.student_id')
    .where('t.id', id)
    .whereNull('st.deleted_at')
    .first('t.*');
  return (row as TakeRow | undefined) ?? null;
}

/** The takes of a student that are not removed, newest first. */
export async function takesOf(studio: Studio, studentId: string): Promise<TakeRow[]> {
  return (await rowsOf(studio, 'takes')
    .where({ student_id: studentId })
    .whereNull('deleted_at')
    .orderBy([
      { column: 'at', order: 'desc' },
      { column: 'id', order: 'desc' },
    ])
    .select()) as TakeRow[];
}

/** The forms of some takes. */
export async function formsOf(studio: Studio, takeIds: readonly string[]): Promise<FormRow[]> {
  return (await rowsOf(studio, 'take_forms').whereIn('take_id', takeIds).select()) as FormRow[];
}

/** Adds a take once, with the next number of its student. Shape: false where the identifier is taken */
export async function insertTake(
  studio: Studio,
  {
    studentId,
    byStudent,
    now,
  }: { readonly studentId: string; readonly byStudent: boolean; readonly now: Date },
  input: TakeInput,
): Promise<boolean> {
  const [last] = (await rowsOf(studio, 'takes')
    .where({ student_id: studentId })
    .max({ number: 'number' })) as unknown as { readonly number: number | null }[];
  const isNew = await insertOnce(studio, 'takes', {
    ...{ id: input.id, student_id: studentId, program_part_id: input.programPartId },
    ...{ sitting_id: input.sittingId, number: (last?.number ?? 0) + 1, by_student: byStudent },
    ...{
      at: new Date(input.at),
      seconds: input.seconds,
      level: input.level,
      with_repeats: input.withRepeats,
    },
    ...{ asked_bpm: input.asked?.bpm ?? null, asked_unit: input.asked?.beatUnit ?? null, created_at: now },
  });
  if (!isNew) return false;
  await addForm(studio, input.id, { form: 'sound', kind: 'audio/flac', ...input.sound });
  if (input.original) await addForm(studio, input.id, { form: 'original', ...input.original });
  return true;
}

async function addForm(studio: Studio, takeId: string, form: Omit<FormRow, 'take_id'>): Promise<void> {
  await studio.db('take_forms').insert({ take_id: takeId, studio_id: studio.id, ...form });
}

/** Keeps a piece of a form; sending it again changes nothing. */
export async function keepChunk(
  studio: Studio,
  { takeId, form, n }: { readonly takeId: string; readonly form: TakeForm; readonly n: number },
  data: Buffer,
): Promise<void> {
  await insertOnce(studio, 'take_chunks', { take_id: takeId, form, n, data });
}

/** The pieces of a form that have arrived. */
export async function arrivedChunks(studio: Studio, takeId: string, form: TakeForm): Promise<number[]> {
  const rows = (await rowsOf(studio, 'take_chunks')
    .where({ take_id: takeId, form })
    .orderBy('n')
    .select('n')) as { readonly n: number }[];
  return rows.map(({ n }) => n);
}

/** One piece of a form, or null. */
export async function chunkOf(
  studio: Studio,
  { takeId, form, n }: { readonly takeId: string; readonly form: TakeForm; readonly n: number },
): Promise<Buffer | null> {
  const row = (await rowsOf(studio, 'take_chunks').where({ take_id: takeId, form, n }).first('data')) as
    { readonly data: Buffer } | undefined;
  return row?.data ?? null;
}

/** Forgets what arrived of a form. */
export async function dropChunks(studio: Studio, takeId: string, form: TakeForm): Promise<void> {
  await rowsOf(studio, 'take_chunks').where({ take_id: takeId, form }).delete();
}

/** Changes columns of a take. Shape: false where there is no such take */
export async function changeTake(
  studio: Studio,
  id: string,
  columns: Readonly<Record<string, unknown>>,
): Promise<boolean> {
  return (await rowsOf(studio, 'takes').where({ id }).update(columns)) === 1;
}

/** Keeps what was marked on a version. Shape: false where that version is not the current one */
export async function keepMarks(
  studio: Studio,
  id: string,
  { marks, version }: { readonly marks: TakeMarks; readonly version: number },
): Promise<boolean> {
  const changed = await rowsOf(studio, 'takes')
    .where({ id, marks_version: version })
    .whereNull('deleted_at')
    .update({ marks: JSON.stringify(marks), marks_version: version + 1 });
  return changed === 1;
}

/** How much room the studio's takes fill, those that are still coming counted whole. Units: bytes */
export async function takeBytes(studio: Studio): Promise<number> {
  const [row] = (await rowsOf(studio, 'take_forms').sum({ bytes: 'bytes' })) as unknown as {
    readonly bytes: string | number | null;
  }[];
  return Number(row?.bytes ?? 0);
}
