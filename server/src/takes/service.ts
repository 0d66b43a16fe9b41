import { groupBy } from '@vivid-cue/core/base';
import { tendencies, type ToldTake } from '@vivid-cue/core/takes';
import {
  NO_MARKS,
  type TakeLine,
  type TakeMarks,
  type TakeRun,
  type TakesView,
  type TakeView,
} from '@vivid-cue/contract';
import { rowsOf, type Studio } from '../db/studio.js';
import { notFound, Problem } from '../http/problem.js';
import { logReps, takeRepBack } from '../passages/reps.js';
import { storedOptimism } from '../practice/reports.js';
import { findStudent } from '../students/repository.js';
import { readSettings } from '../studio/settings.js';
import { lastDayOf } from './keeping.js';
import { recordedParts, runsOf, type RecordedParts } from './parts.js';
import {
  arrivedChunks,
  changeTake,
  findTake,
  formsOf,
  keepMarks,
  takeBytes,
  takesOf,
  type FormRow,
  type StoredRun,
  type TakeRow,
} from './repository.js';

/** Whose takes somebody may have: the studio's all, or one student's. Shape: null for the instructor */
export interface TakeReader {
  readonly studio: Studio;
  readonly onlyStudent: string | null;
}

/**
 * A take that somebody may have, removed ones too.
 * Errors: Problem not-found for another studio's or another student's
 */
export async function heardTake({ studio, onlyStudent }: TakeReader, id: string): Promise<TakeRow> {
  const row = await findTake(studio, id);
  if (!row || (onlyStudent !== null && row.student_id !== onlyStudent)) throw notFound('take');
  return row;
}

/**
 * The takes of a student, with the parts that may be recorded.
 * Units:  bytes
 * Errors: Problem not-found
 */
export async function studentTakes(studio: Studio, studentId: string, mostBytes: number): Promise<TakesView> {
  const student = await findStudent(studio, studentId);
  if (!student) throw notFound('student');
  const { id, name, instrument } = student;
  const [recorded, rows, { takeDays }] = await Promise.all([
    recordedParts(studio, studentId),
    takesOf(studio, studentId),
    readSettings(studio),
  ]);
  const forms = groupBy(await formsOf(studio, idsOf(rows)), (form) => form.take_id);
  return {
    student: { id, name, instrument },
    parts: recorded.parts,
    takes: rows.map((row) => lineOf(row, { forms: forms.get(row.id) ?? [], recorded, takeDays })),
    tendencies: tendencies(pitchesOf(rows)),
    room: { used: await takeBytes(studio), most: mostBytes },
  };
}

function idsOf(rows: readonly TakeRow[]): string[] {
  return rows.map(({ id }) => id);
}

function pitchesOf(rows: readonly TakeRow[]): ToldTake['pitches'][] {
  return rows.flatMap((row) => {
    const told = toldOf(row);
    return told ? [told.pitches] : [];
  });
}

/**
 * One take.
 * Errors: Problem not-found, also for one that was removed
 */
export async function takeView(reader: TakeReader, id: string): Promise<TakeView> {
  const row = await heardTake(reader, id);
  if (row.deleted_at !== null) throw notFound('take');
  const { studio } = reader;
  const student = await findStudent(studio, row.student_id);
  if (!student) throw notFound('student');
  const recorded = await recordedParts(studio, row.student_id);
  const part = recorded.parts.find((one) => one.id === row.program_part_id);
  if (!part) throw notFound('part');
  const asked = recorded.rows.get(part.id);
  const forms = await formsOf(studio, [id]);
  const original = forms.find(({ form }) => form === 'original');
  const isComing = row.whole_at === null;
  return {
    ...lineOf(row, { forms, recorded, takeDays: (await readSettings(studio)).takeDays }),
    student: { id: student.id, name: student.name, instrument: student.instrument },
    part,
    runs: asked ? runsOf(asked) : [],
    asked: countedIn(row),
    withRepeats: row.with_repeats === 1,
    told: toldOf(row),
    marks: marksOf(row),
    marksVersion: row.marks_version,
    original: original && original.kind !== 'audio/flac' ? original.kind : null,
    arrived: {
      sound: isComing ? await arrivedChunks(studio, id, 'sound') : [],
      original: isComing ? await arrivedChunks(studio, id, 'original') : [],
    },
  };
}

/** The tempo that a take was counted in at, or null. */
export function countedIn({ asked_bpm: bpm, asked_unit: beatUnit }: TakeRow): TakeView['asked'] {
  return bpm === null || beatUnit === null ? null : { bpm, beatUnit };
}

/** What was heard in a take; null where nobody has read it yet. */
export function toldOf({ told }: Pick<TakeRow, 'told'>): ToldTake | null {
  return told === null ? null : (JSON.parse(told) as ToldTake);
}

/** What was marked in a take. */
export function marksOf({ marks }: Pick<TakeRow, 'marks'>): TakeMarks {
  return marks === null ? NO_MARKS : (JSON.parse(marks) as TakeMarks);
}

function runOf({ run }: Pick<TakeRow, 'run'>): StoredRun | null {
  return run === null ? null : (JSON.parse(run) as StoredRun);
}

interface LineFacts {
  readonly forms: readonly FormRow[];
  readonly recorded: RecordedParts;
  readonly takeDays: number;
}

function lineOf(row: TakeRow, { forms, recorded, takeDays }: LineFacts): TakeLine {
  const told = toldOf(row);
  const part = recorded.parts.find(({ id }) => id === row.program_part_id);
  const listened = listenedOf(marksOf(row));
  return {
    id: row.id,
    programPartId: row.program_part_id,
    workTitle: part?.workTitle ?? '',
    number: row.number,
    at: row.at.toISOString(),
    seconds: row.seconds,
    level: row.level,
    byStudent: row.by_student === 1,
    isWhole: row.whole_at !== null,
    bytes: forms.reduce((sum, { bytes }) => sum + bytes, 0),
    sentence: told?.sentences[0]?.text ?? null,
    opening: told?.opening ?? null,
    decidingBpm: told?.deciding?.bpm ?? null,
    open: told?.slips.filter(({ seconds }) => !listened.has(seconds)).length ?? 0,
    runSlips: runOf(row)?.slips ?? null,
    keptUntil: lastDayOf(recorded.programs.get(part?.programId ?? '')?.lastDate ?? null, takeDays),
  };
}

/** Places that somebody has listened to already. */
function listenedOf({ taps, fine }: TakeMarks): ReadonlySet<number> {
  return new Set([...taps.map(({ seconds }) => seconds), ...fine]);
}

/** Keeps what was heard in a take. Errors: Problem not-found */
export async function keepReading(reader: TakeReader, id: string, told: ToldTake): Promise<void> {
  await heardTake(reader, id);
  await changeTake(reader.studio, id, { told: JSON.stringify(told) });
}

/**
 * Keeps what somebody marked while listening.
 * Shape:  the take as it then stands
 * Errors: Problem not-found; version-stale with the take as it stands, so that both may be laid together
 */
export async function markTake(
  reader: TakeReader,
  id: string,
  { marks, version }: { readonly marks: TakeMarks; readonly version: number },
): Promise<TakeView> {
  await heardTake(reader, id);
  const isKept = await keepMarks(reader.studio, id, { marks, version });
  const current = await takeView(reader, id);
  if (!isKept)
    throw new Problem('version-stale', 'Somebody marked this take meanwhile; both stand together now.', {
      current,
    });
  return current;
}

/**
 * Logs the run that a take was: every passage of its part once, in context. Logging it again changes nothing.
 * Shape:  the take as it then stands
 * Units:  milliseconds since 1970
 * Errors: as logReps; Problem not-found for a passage of another student
 */
export async function logRun(
  reader: TakeReader,
  id: string,
  { run, nowMs }: { readonly run: TakeRun; readonly nowMs: number },
): Promise<TakeView> {
  const { studio, onlyStudent } = reader;
  const row = await heardTake(reader, id);
  if (runOf(row) === null) {
    await refuseForeignPassages(studio, row.student_id, run);
    // What an instructor confirms from a take was heard; what a student confirms is a student's report.
    const said =
      onlyStudent === null
        ? ({ witness: 'take', optimism: 0 } as const)
        : ({ witness: 'student', optimism: await storedOptimism(studio, row.student_id) } as const);
    for (const { passageId, ...rep } of run.reps)
      await logReps(studio, passageId, { reps: [rep], nowMs, said });
    const stored: StoredRun = {
      at: new Date(nowMs).toISOString(),
      slips: new Set(marksOf(row).taps.map(({ index, number }) => index ?? number)).size,
      repIds: run.reps.map((rep) => rep.id),
    };
    await changeTake(studio, id, { run: JSON.stringify(stored) });
  }
  return takeView(reader, id);
}

async function refuseForeignPassages(studio: Studio, studentId: string, { reps }: TakeRun): Promise<void> {
  const ids = [...new Set(reps.map(({ passageId }) => passageId))];
  const rows = (await rowsOf(studio, 'passages')
    .whereIn('id', ids)
    .where({ student_id: studentId })
    .whereNull('deleted_at')
    .select('id')) as { readonly id: string }[];
  if (rows.length < ids.length) throw notFound('passage');
}

/** Takes the run of a take back. Shape: the take as it then stands. Errors: Problem not-found */
export async function takeRunBack(reader: TakeReader, id: string, nowMs: number): Promise<TakeView> {
  const row = await heardTake(reader, id);
  for (const repId of runOf(row)?.repIds ?? []) await takeRepBack(reader.studio, repId, nowMs);
  await changeTake(reader.studio, id, { run: null });
  return takeView(reader, id);
}

/**
 * Drops a take, or takes that back. A student drops only what the student recorded.
 * Errors: Problem not-found
 */
export async function markDropped(reader: TakeReader, id: string, at: Date | null): Promise<void> {
  const row = await heardTake(reader, id);
  if (reader.onlyStudent !== null && row.by_student !== 1) throw notFound('take');
  await changeTake(reader.studio, id, { deleted_at: at });
}
