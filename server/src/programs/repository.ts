import type { BeatUnit } from '@vivid-cue/core/music';
import { insertOnce, rowsOf, type Studio } from '../db/studio.js';

/** Adds a program once. */
export function insertProgram(
  studio: Studio,
  program: {
    readonly id: string;
    readonly studentId: string;
    readonly sheetId: string;
    readonly revisionId: string;
  },
  now: Date,
): Promise<boolean> {
  return insertOnce(studio, 'programs', {
    id: program.id,
    student_id: program.studentId,
    sheet_id: program.sheetId,
    revision_id: program.revisionId,
    created_at: now,
  });
}

/** A program's student and sheet, or null. */
export async function findProgram(
  studio: Studio,
  id: string,
): Promise<{ readonly student_id: string; readonly sheet_id: string; readonly revision_id: string } | null> {
  return (
    ((await rowsOf(studio, 'programs')
      .where({ id })
      .whereNull('deleted_at')
      .first('student_id', 'sheet_id', 'revision_id')) as
      { student_id: string; sheet_id: string; revision_id: string } | undefined) ?? null
  );
}

/** Programs on a revision, removed ones included, so that restoring one finds it whole. */
export async function programIdsOn(studio: Studio, revisionId: string): Promise<string[]> {
  return (
    (await rowsOf(studio, 'programs').where({ revision_id: revisionId }).select('id')) as { id: string }[]
  ).map(({ id }) => id);
}

/** Removes a program, or takes the removal back. */
export async function markProgram(studio: Studio, id: string, deletedAt: Date | null): Promise<boolean> {
  return (await rowsOf(studio, 'programs').where({ id }).update({ deleted_at: deletedAt })) === 1;
}

/** Adds a program's part once. */
export function insertProgramPart(
  studio: Studio,
  part: {
    readonly id: string;
    readonly programId: string;
    readonly sheetPartId: string;
    readonly scoreId: string | null;
    readonly isTaken: boolean;
    readonly policy: string;
  },
): Promise<boolean> {
  return insertOnce(studio, 'program_parts', {
    is_taken: part.isTaken,
    policy: part.policy,
    id: part.id,
    program_id: part.programId,
    sheet_part_id: part.sheetPartId,
    score_id: part.scoreId,
  });
}

/** Sheet parts that a program already answers. */
export async function answeredParts(studio: Studio, programId: string): Promise<ReadonlySet<string>> {
  const rows = (await rowsOf(studio, 'program_parts')
    .where({ program_id: programId })
    .select('sheet_part_id')) as { sheet_part_id: string }[];
  return new Set(rows.map(({ sheet_part_id }) => sheet_part_id));
}

/** The score that any program of the studio uses for a sheet's part, or null. */
export async function scoreInUse(studio: Studio, sheetPartId: string): Promise<string | null> {
  const row = (await rowsOf(studio, 'program_parts')
    .where({ sheet_part_id: sheetPartId })
    .whereNotNull('score_id')
    .first('score_id')) as { score_id: string } | undefined;
  return row?.score_id ?? null;
}

/** Sets the target tempo that the student aims at in a part. */
export async function updateTarget(
  studio: Studio,
  programPartId: string,
  bpm: number,
  unit: BeatUnit,
): Promise<void> {
  await rowsOf(studio, 'program_parts')
    .where({ id: programPartId })
    .update({ target_bpm: bpm, target_unit: unit });
}

/** Puts a program on another revision. */
export async function setProgramRevision(studio: Studio, id: string, revisionId: string): Promise<void> {
  await rowsOf(studio, 'programs').where({ id }).update({ revision_id: revisionId });
}

/** Lets a program's part answer another part of the sheet. */
export async function moveProgramPart(
  studio: Studio,
  programPartId: string,
  sheetPartId: string,
): Promise<void> {
  await rowsOf(studio, 'program_parts').where({ id: programPartId }).update({ sheet_part_id: sheetPartId });
}

/** Sets what a student plays for a part. */
export async function updateChoice(
  studio: Studio,
  programPartId: string,
  columns: Readonly<Record<string, string | boolean | null>>,
): Promise<void> {
  await rowsOf(studio, 'program_parts').where({ id: programPartId }).update(columns);
}

/** Titles of the other sheets in which a student practises a score. */
export async function programsPractising(
  studio: Studio,
  {
    student_id: studentId,
    score_id: scoreId,
    program_id: programId,
  }: { readonly student_id: string; readonly score_id: string | null; readonly program_id: string },
): Promise<{ readonly body: string; readonly division: string; readonly year: string }[]> {
  if (scoreId === null) return [];
  return (await rowsOf(studio, 'program_parts as pp')
    .join('programs as p', 'p.id', 'pp.program_id')
    .join('sheets as sh', 'sh.id', 'p.sheet_id')
    .where({ 'p.student_id': studentId, 'pp.score_id': scoreId })
    .whereNot('pp.program_id', programId)
    .whereNull('p.deleted_at')
    .whereNull('sh.deleted_at')
    .select('sh.body', 'sh.division', 'sh.year')) as unknown as {
    body: string;
    division: string;
    year: string;
  }[];
}

/** A score of a work by that title which the student, or else anybody of the studio, plays already; or null. */
export async function scoreOfWork(studio: Studio, title: string, studentId: string): Promise<string | null> {
  if (title.trim() === '') return null;
  const row = (await rowsOf(studio, 'program_parts as pp')
    .join('programs as p', 'p.id', 'pp.program_id')
    .join('scores as sc', 'sc.id', 'pp.score_id')
    .join('works as w', 'w.id', 'sc.work_id')
    .where({ 'w.title': title, 'p.student_id': studentId })
    .first('pp.score_id')) as { score_id: string } | undefined;
  return row?.score_id ?? null;
}

/** A program with its sheet's heading. */
export interface ProgramRow {
  readonly id: string;
  readonly student_id: string;
  readonly sheet_id: string;
  readonly revision_id: string;
  readonly body: string;
  readonly year: string;
  readonly division: string;
}

/** Programs of one student, or of all students that are not removed. */
export async function programRows(studio: Studio, studentId: string | null): Promise<ProgramRow[]> {
  const query = rowsOf(studio, 'programs as p')
    .join('sheets as sh', 'sh.id', 'p.sheet_id')
    .join('students as st', 'st.id', 'p.student_id')
    .whereNull('p.deleted_at')
    .whereNull('st.deleted_at')
    .whereNull('sh.deleted_at')
    .orderBy('p.created_at')
    .select('p.id', 'p.student_id', 'p.sheet_id', 'p.revision_id', 'sh.body', 'sh.year', 'sh.division');
  return (await (studentId === null ? query : query.where('p.student_id', studentId))) as ProgramRow[];
}
