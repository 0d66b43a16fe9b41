import type { BeatUnit, Bpm } from '@vivid-cue/core/music';
import { insertOnce, rowsOf, type Studio } from '../db/studio.js';

/** Adds a program once. */
export function insertProgram(
  studio: Studio,
  program: {
    readonly id: string;
    readonly studentId: string;
    readonly sheetId: string;
    readonly revisionId: string;
    readonly division?: string | null | undefined;
  },
  now: Date,
): Promise<boolean> {
  return insertOnce(studio, 'programs', {
    id: program.id,
    student_id: program.studentId,
    sheet_id: program.sheetId,
    revision_id: program.revisionId,
    division: program.division ?? null,
    created_at: now,
  });
}

/** A program without its parts. */
export interface ProgramHead {
  readonly student_id: string;
  readonly sheet_id: string;
  readonly revision_id: string;
  readonly division: string | null;
}

/** A program's student and sheet, or null where it is removed. */
export async function findProgram(studio: Studio, id: string): Promise<ProgramHead | null> {
  const row: unknown = await rowsOf(studio, 'programs')
    .where({ id })
    .whereNull('deleted_at')
    .first('student_id', 'sheet_id', 'revision_id', 'division');
  return (row as ProgramHead | undefined) ?? null;
}

/** A program with its player. */
export interface ProgramPlayer {
  readonly id: string;
  readonly student_id: string;
  readonly instrument: string;
  readonly division: string | null;
}

/** Programs on a revision with their players, removed ones included. */
export async function programsOn(studio: Studio, revisionId: string): Promise<ProgramPlayer[]> {
  return (await rowsOf(studio, 'programs as p')
    .join('students as st', 'st.id', 'p.student_id')
    .where('p.revision_id', revisionId)
    .select('p.id', 'p.student_id', 'st.instrument', 'p.division')) as unknown as ProgramPlayer[];
}

/** Puts a program into a division of its sheet. */
export async function setDivision(studio: Studio, id: string, division: string | null): Promise<void> {
  await rowsOf(studio, 'programs').where({ id }).update({ division });
}

/** Removes a program, or takes the removal back. */
export async function markProgram(studio: Studio, id: string, deletedAt: Date | null): Promise<boolean> {
  return (await rowsOf(studio, 'programs').where({ id }).update({ deleted_at: deletedAt })) === 1;
}

/** A program's part to add. */
export interface NewProgramPart {
  readonly id: string;
  readonly programId: string;
  readonly sheetPartId: string;
  readonly scoreId: string | null;
  readonly isTaken: boolean;
  readonly policy: string;
}

/** Adds parts to programs that do not answer them yet. */
export async function insertProgramParts(studio: Studio, parts: readonly NewProgramPart[]): Promise<void> {
  await studio.db('program_parts').insert(
    parts.map((part) => ({
      id: part.id,
      studio_id: studio.id,
      program_id: part.programId,
      sheet_part_id: part.sheetPartId,
      score_id: part.scoreId,
      is_taken: part.isTaken,
      policy: part.policy,
    })),
  );
}

/** What some programs already answer. Shape: "program sheet-part" for each. */
export async function answeredParts(
  studio: Studio,
  programIds: readonly string[],
): Promise<ReadonlySet<string>> {
  const rows = (await rowsOf(studio, 'program_parts')
    .whereIn('program_id', programIds)
    .select('program_id', 'sheet_part_id')) as { program_id: string; sheet_part_id: string }[];
  return new Set(rows.map(({ program_id, sheet_part_id }) => `${program_id} ${sheet_part_id}`));
}

/** Scores that the studio already uses for works or for parts of sheets. */
export interface KnownScores {
  /** A score of a work by that title which the student plays already. */
  readonly ofWork: (title: string, studentId: string) => string | null;
  /** The score that any program uses for a sheet's part. */
  readonly ofPart: (sheetPartId: string) => string | null;
}

/** The scores that may be known for some parts of sheets. */
export async function knownScores(
  studio: Studio,
  parts: readonly { readonly id: string; readonly work_title: string }[],
): Promise<KnownScores> {
  const titles = [
    ...new Set(parts.map(({ work_title: title }) => title).filter((title) => title.trim() !== '')),
  ];
  const byWork = (await rowsOf(studio, 'program_parts as pp')
    .join('programs as p', 'p.id', 'pp.program_id')
    .join('scores as sc', 'sc.id', 'pp.score_id')
    .join('works as w', 'w.id', 'sc.work_id')
    .whereIn('w.title', titles)
    .select('w.title', 'p.student_id', 'pp.score_id')) as unknown as {
    title: string;
    student_id: string;
    score_id: string;
  }[];
  const byPart = (await rowsOf(studio, 'program_parts')
    .whereIn(
      'sheet_part_id',
      parts.map(({ id }) => id),
    )
    .whereNotNull('score_id')
    .select('sheet_part_id', 'score_id')) as { sheet_part_id: string; score_id: string }[];
  return {
    ofWork: (title, studentId) =>
      byWork.find((row) => row.title === title && row.student_id === studentId)?.score_id ?? null,
    ofPart: (sheetPartId) => byPart.find((row) => row.sheet_part_id === sheetPartId)?.score_id ?? null,
  };
}

/** Sets the target tempo that the student aims at in a part. */
export async function updateTarget(
  studio: Studio,
  programPartId: string,
  { bpm, unit }: { readonly bpm: Bpm; readonly unit: BeatUnit },
): Promise<void> {
  await rowsOf(studio, 'program_parts')
    .where({ id: programPartId })
    .update({ target_bpm: bpm, target_unit: unit });
}

/** Puts programs on another revision. */
export async function setProgramRevision(
  studio: Studio,
  ids: readonly string[],
  revisionId: string,
): Promise<void> {
  await rowsOf(studio, 'programs').whereIn('id', ids).update({ revision_id: revisionId });
}

/** Lets parts of programs answer another part of the sheet. */
export async function moveProgramParts(
  studio: Studio,
  programPartIds: readonly string[],
  sheetPartId: string,
): Promise<void> {
  await rowsOf(studio, 'program_parts').whereIn('id', programPartIds).update({ sheet_part_id: sheetPartId });
}

/** Sets what a student plays for a part. */
export async function updateChoice(
  studio: Studio,
  programPartId: string,
  columns: Readonly<Record<string, string | boolean | null>>,
): Promise<void> {
  await rowsOf(studio, 'program_parts').where({ id: programPartId }).update(columns);
}

/** A sheet in which a student practises a score. */
export interface PractisedIn {
  readonly program_id: string;
  readonly score_id: string;
  readonly body: string;
  readonly division: string;
  readonly year: string;
}

/** Where else a student practises the scores of a program. */
export async function otherPrograms(
  studio: Studio,
  { programId, studentId }: { readonly programId: string; readonly studentId: string },
): Promise<PractisedIn[]> {
  return (await rowsOf(studio, 'program_parts as pp')
    .join('programs as p', 'p.id', 'pp.program_id')
    .join('sheets as sh', 'sh.id', 'p.sheet_id')
    .where('p.student_id', studentId)
    .whereNotNull('pp.score_id')
    .whereNot('pp.program_id', programId)
    .whereNull('p.deleted_at')
    .whereNull('sh.deleted_at')
    .select('pp.program_id', 'pp.score_id', 'sh.body', 'sh.division', 'sh.year')) as unknown as PractisedIn[];
}

/** A program with its sheet's heading. */
export interface ProgramRow {
  readonly id: string;
  readonly student_id: string;
  readonly sheet_id: string;
  readonly revision_id: string;
  readonly current_revision_id: string;
  readonly body: string;
  readonly year: string;
  readonly division: string;
  readonly created_at: Date;
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
    .select('p.id', 'p.student_id', 'p.sheet_id', 'p.revision_id', 'sh.body', 'sh.year', 'sh.division')
    .select('sh.current_revision_id', 'p.created_at');
  return (await (studentId === null ? query : query.where('p.student_id', studentId))) as ProgramRow[];
}
