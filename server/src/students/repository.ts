import type { StudentChange, StudentInput, StudentView } from '@vivid-cue/contract';
import { insertOnce, rowsOf, type Studio } from '../db/studio.js';

const COLUMNS = ['id', 'name', 'instrument', 'version'] as const;

/** All students of the studio that are not removed, by name. */
export async function listStudents(studio: Studio): Promise<StudentView[]> {
  return (await rowsOf(studio, 'students')
    .whereNull('deleted_at')
    .orderBy('name')
    .select(COLUMNS)) as StudentView[];
}

/** One student, or null. */
export async function findStudent(studio: Studio, id: string): Promise<StudentView | null> {
  return (
    ((await rowsOf(studio, 'students').where({ id }).whereNull('deleted_at').first(COLUMNS)) as
      StudentView | undefined) ?? null
  );
}

/** Adds a student once. */
export function insertStudent(studio: Studio, input: StudentInput, now: Date): Promise<boolean> {
  return insertOnce(studio, 'students', { ...input, created_at: now });
}

/** Changes a student made on a version; false when that version is not the current one. */
export async function updateStudent(
  studio: Studio,
  id: string,
  { version, change }: { readonly version: number; readonly change: StudentChange },
): Promise<boolean> {
  const changed = await rowsOf(studio, 'students')
    .where({ id, version })
    .whereNull('deleted_at')
    .update({ ...change, version: version + 1 });
  return changed === 1;
}

/** Removes a student, or takes the removal back. */
export async function markStudent(studio: Studio, id: string, deletedAt: Date | null): Promise<boolean> {
  return (await rowsOf(studio, 'students').where({ id }).update({ deleted_at: deletedAt })) === 1;
}

/** Erases a student and everything of theirs for good. */
export async function eraseStudent(studio: Studio, id: string): Promise<boolean> {
  return (await rowsOf(studio, 'students').where({ id }).delete()) === 1;
}

/** Everything the studio keeps of a student, table by table. */
export async function exportRows(
  studio: Studio,
  id: string,
): Promise<Readonly<Record<string, unknown>> | null> {
  const student: unknown = await rowsOf(studio, 'students')
    .where({ id })
    .first('id', 'name', 'instrument', 'created_at');
  if (student === undefined) return null;
  const programs: readonly { id: string }[] = await rowsOf<{ id: string }>(studio, 'programs as p')
    .join('sheets as s', 's.id', 'p.sheet_id')
    .where('p.student_id', id)
    .select('p.id', 's.body', 's.year', 's.division');
  const choices = await exportedChoices(studio, programs.map(idOf));
  const passages: readonly { id: string }[] = await rowsOf<{ id: string }>(studio, 'passages')
    .where('student_id', id)
    .select('id', 'name', 'span_from', 'span_to', 'target_bpm', 'target_unit');
  const reps = await exportedReps(studio, passages.map(idOf));
  const cues: unknown = await rowsOf(studio, 'cues')
    .where('student_id', id)
    .orderBy(['score_id', 'from_index'])
    .select('id', 'score_id', 'kind', 'span_from', 'span_to', 'text', 'created_at');
  const findingMarks: unknown = await rowsOf(studio, 'finding_marks')
    .where('student_id', id)
    .select('score_id', 'finding_key', 'measure', 'mark', 'created_at');
  return { student, programs, choices, passages, reps, cues, findingMarks };
}

function idOf({ id }: { readonly id: string }): string {
  return id;
}

async function exportedChoices(studio: Studio, programIds: readonly string[]): Promise<unknown> {
  return rowsOf(studio, 'program_parts as pp')
    .join('sheet_parts as sp', 'sp.id', 'pp.sheet_part_id')
    .whereIn('pp.program_id', programIds)
    .select(
      ...[
        'pp.program_id',
        'sp.label',
        'pp.is_taken',
        'pp.own_title',
        'pp.edition',
        'pp.page',
        'pp.repeats',
        'pp.policy',
      ],
      ...['pp.target_bpm', 'pp.target_unit'],
    );
}

async function exportedReps(studio: Studio, passageIds: readonly string[]): Promise<unknown> {
  return rowsOf(studio, 'reps')
    .whereIn('passage_id', passageIds)
    .orderBy('at')
    .select('id', 'passage_id', 'at', 'bpm', 'beat_unit', 'context', 'is_clean');
}
