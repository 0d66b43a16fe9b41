import { createHash } from 'node:crypto';
import type { TakeForm } from '@vivid-cue/contract/take-limits';
import { TAKE_LIMITS, type TakeInput } from '@vivid-cue/contract';
import { rowsOf, together, type Studio } from '../db/studio.js';
import { notFound, Problem } from '../http/problem.js';
import { flacHead } from './flac-head.js';
import {
  arrivedChunks,
  changeTake,
  chunkOf,
  dropChunks,
  findTake,
  formsOf,
  insertTake,
  keepChunk,
  takeBytes,
  type FormRow,
} from './repository.js';

const MEGABYTE = 1024 * 1024;
/** A clock of a sound card may be off by so much. Units: seconds */
const CLOCK = 2;

/** Who keeps a take: the studio, whose student it is, and whether the student recorded it. Units: milliseconds since 1970 */
export interface TakeKeeper {
  readonly studio: Studio;
  readonly studentId: string;
  readonly byStudent: boolean;
  readonly nowMs: number;
}

/**
 * Begins a take: what it is of, and what will be sent. Beginning it again changes nothing.
 * Units:  `mostBytes` that the studio's takes may fill
 * Errors: Problem not-found for another student's part; too-large where the studio is full; id-taken
 */
export async function beginTake(
  { studio, studentId, byStudent, nowMs }: TakeKeeper,
  input: TakeInput,
  mostBytes: number,
): Promise<void> {
  await refuseForeignPart(studio, studentId, input.programPartId);
  const isNew = await together(studio, async (inside) => {
    // Numbers of a student's takes are counted with the student held, so that no two are alike.
    const student: unknown = await rowsOf(inside, 'students')
      .where({ id: studentId })
      .forUpdate()
      .first('id');
    if (student === undefined) throw notFound('student');
    if ((await findTake(inside, input.id)) !== null) return false;
    const asked = input.sound.bytes + (input.original?.bytes ?? 0);
    if ((await takeBytes(inside)) + asked > mostBytes) throw full(mostBytes);
    return insertTake(inside, { studentId, byStudent, now: new Date(nowMs) }, input);
  });
  if (isNew) return;
  const known = await findTake(studio, input.id);
  if (known?.student_id !== studentId)
    throw new Problem('id-taken', 'This take could not be kept; record it again.');
}

function full(mostBytes: number): Problem {
  return new Problem(
    'too-large',
    `The takes of this studio fill ${Math.round(mostBytes / MEGABYTE)} MB, as much as they may: drop some that are not needed any more. This take stays on the device meanwhile.`,
  );
}

/** A part of the student's own programs. Errors: Problem not-found */
async function refuseForeignPart(studio: Studio, studentId: string, programPartId: string): Promise<void> {
  const row: unknown = await rowsOf(studio, 'program_parts as pp')
    .join('programs as p', 'p.id', 'pp.program_id')
    .where({ 'pp.id': programPartId, 'p.student_id': studentId })
    .whereNull('p.deleted_at')
    .first('pp.id');
  if (row === undefined) throw notFound('part');
}

/** A piece of a form, as it came. */
export interface ArrivingChunk {
  readonly takeId: string;
  readonly form: TakeForm;
  readonly n: number;
  readonly bytes: Buffer;
}

/**
 * Takes in a piece of a take, in any order and as often as it is sent; with the last one the whole is looked at.
 * Shape:  whether the take is whole
 * Units:  milliseconds since 1970
 * Errors: Problem not-found; take-refused for a piece that has not the length it should have, and for a whole that is not
 *         what was announced, which is forgotten so that it can be sent again
 */
export async function takeChunk(studio: Studio, chunk: ArrivingChunk, nowMs: number): Promise<boolean> {
  const take = await findTake(studio, chunk.takeId);
  if (!take) throw notFound('take');
  const forms = await formsOf(studio, [take.id]);
  const form = forms.find((one) => one.form === chunk.form);
  if (!form) throw notFound('take');
  if (take.whole_at !== null) return true;
  const count = chunksOf(form);
  const last = form.bytes - (count - 1) * TAKE_LIMITS.chunkBytes;
  const wanted = chunk.n < count - 1 ? TAKE_LIMITS.chunkBytes : chunk.n === count - 1 ? last : 0;
  if (chunk.bytes.length !== wanted || wanted === 0) throw damaged();
  await keepChunk(studio, chunk, chunk.bytes);
  for (const one of forms)
    if ((await arrivedChunks(studio, take.id, one.form)).length < chunksOf(one)) return false;
  for (const one of forms) await refuseDamaged(studio, one);
  await changeTake(studio, take.id, { whole_at: new Date(nowMs) });
  return true;
}

/** How many pieces a form has. */
export function chunksOf({ bytes }: Pick<FormRow, 'bytes'>): number {
  return Math.max(1, Math.ceil(bytes / TAKE_LIMITS.chunkBytes));
}

async function refuseDamaged(studio: Studio, form: FormRow): Promise<void> {
  const hash = createHash('sha256');
  let head: Buffer | null = null;
  for (let n = 0; n < chunksOf(form); n += 1) {
    const data = await chunkOf(studio, { takeId: form.take_id, form: form.form, n });
    if (!data) break;
    head ??= data;
    hash.update(data);
  }
  const isWhole = hash.digest('hex') === form.sha256;
  if (isWhole && (form.form === 'original' || isTake(head))) return;
  await dropChunks(studio, form.take_id, form.form);
  throw damaged();
}

function isTake(head: Buffer | null): boolean {
  const told = head && flacHead(head);
  return told?.channels === 1 && told.bits === 16 && told.seconds <= TAKE_LIMITS.seconds + CLOCK;
}

function damaged(): Problem {
  return new Problem(
    'take-refused',
    'The sound did not arrive whole. It is still on the device: send it again, or record it anew.',
  );
}
