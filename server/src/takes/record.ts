import type { RecordTake } from '@vivid-cue/contract';
import { TAKE_LIMITS } from '@vivid-cue/contract';
import { sha256 } from '../db/sha256.js';
import { rowsOf, type Studio } from '../db/studio.js';
import { chunksOf } from './arriving.js';
import {
  changeTake,
  chunkOf,
  formsOf,
  insertTake,
  keepChunk,
  type FormRow,
  type TakeRow,
} from './repository.js';
import { countedIn, marksOf, toldOf } from './service.js';

/**
 * A student's takes as a record holds them, written piece by piece so that no take is ever whole in memory.
 * Shape:  texts that make a JSON list together; sounds in base64
 */
export async function* recordedTakes(studio: Studio, studentId: string): AsyncGenerator<string> {
  const rows = (await rowsOf(studio, 'takes')
    .where({ student_id: studentId })
    .whereNotNull('whole_at')
    .orderBy('number')
    .select()) as TakeRow[];
  let comma = '';
  yield '[';
  for (const row of rows) {
    const forms = await formsOf(studio, [row.id]);
    const original = forms.find(({ form }) => form === 'original');
    const sound = forms.find(({ form }) => form === 'sound');
    if (!sound) continue;
    yield `${comma}${JSON.stringify(factsOf(row)).slice(0, -1)},"sound":"`;
    comma = ',';
    yield* base64Of(studio, sound);
    yield '","original":';
    if (original) {
      yield `{"kind":${JSON.stringify(original.kind)},"file":"`;
      yield* base64Of(studio, original);
      yield '"}';
    } else yield 'null';
    yield '}';
  }
  yield ']';
}

function factsOf(row: TakeRow): Omit<RecordTake, 'sound' | 'original'> {
  return {
    ...{
      id: row.id,
      programPartId: row.program_part_id,
      sittingId: row.sitting_id,
      at: row.at.toISOString(),
    },
    ...{ seconds: row.seconds, level: row.level, withRepeats: row.with_repeats === 1, number: row.number },
    ...{ byStudent: row.by_student === 1, isRemoved: row.deleted_at !== null },
    asked: countedIn(row),
    told: toldOf(row),
    marks: marksOf(row),
  };
}

/** A form in base64: three bytes make four letters, so that what is over goes with the next piece. */
async function* base64Of(studio: Studio, form: FormRow): AsyncGenerator<string> {
  let over: Buffer = Buffer.alloc(0);
  for (let n = 0; n < chunksOf(form); n += 1) {
    const data = await chunkOf(studio, { takeId: form.take_id, form: form.form, n });
    const all = Buffer.concat([over, data ?? Buffer.alloc(0)]);
    const whole = all.length - (all.length % 3);
    yield all.toString('base64', 0, whole);
    over = all.subarray(whole);
  }
  yield over.toString('base64');
}

/** Reads takes of a record in. Shape: those without a sound are left out */
export async function addTakes(
  studio: Studio,
  {
    studentId,
    takes,
    now,
  }: { readonly studentId: string; readonly takes: readonly RecordTake[]; readonly now: Date },
): Promise<void> {
  for (const take of takes) {
    const sound = Buffer.from(take.sound, 'base64');
    if (sound.length === 0) continue;
    const file = take.original && Buffer.from(take.original.file, 'base64');
    const sizes = (bytes: Buffer): { bytes: number; sha256: string } => ({
      bytes: bytes.length,
      sha256: sha256(bytes),
    });
    const { number, byStudent, isRemoved, told, marks, ...input } = take;
    await insertTake(
      studio,
      { studentId, byStudent, now },
      {
        ...input,
        sound: sizes(sound),
        original: take.original && file && { kind: take.original.kind, ...sizes(file) },
      },
    );
    await addChunks(studio, take.id, { sound, original: file });
    await changeTake(studio, take.id, {
      ...{ number, whole_at: now, deleted_at: isRemoved ? now : null, marks: JSON.stringify(marks) },
      told: told && JSON.stringify(told),
    });
  }
}

async function addChunks(
  studio: Studio,
  takeId: string,
  forms: { readonly sound: Buffer; readonly original: Buffer | null },
): Promise<void> {
  for (const [form, bytes] of [['sound', forms.sound] as const, ['original', forms.original] as const])
    for (let n = 0; bytes && n * TAKE_LIMITS.chunkBytes < bytes.length; n += 1)
      await keepChunk(
        studio,
        { takeId, form, n },
        bytes.subarray(n * TAKE_LIMITS.chunkBytes, (n + 1) * TAKE_LIMITS.chunkBytes),
      );
}
