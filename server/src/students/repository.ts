import {
  AS_THE_STUDIO,
  type StudentAir,
  type StudentChange,
  type StudentInput,
  type StudentSchools,
  type StudentView,
} from '@vivid-cue/contract';
import { insertOnce, rowsOf, together, type Studio } from '../db/studio.js';

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

/** How a student climbs and practises; what was never said is what the studio says. */
export async function readSchools(studio: Studio, id: string): Promise<StudentSchools> {
  const row = (await rowsOf(studio, 'students').where({ id }).first('schools')) as
    { readonly schools: string } | undefined;
  return { ...AS_THE_STUDIO, ...(JSON.parse(row?.schools ?? '{}') as Partial<StudentSchools>) };
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
  const { schools, ...columns } = change;
  const own = schools === undefined ? {} : { schools: JSON.stringify(schools) };
  const changed = await rowsOf(studio, 'students')
    .where({ id, version })
    .whereNull('deleted_at')
    .update({ ...columns, ...own, version: version + 1 });
  return changed === 1;
}

/** Keeps how long somebody's long tones last; false where there is no such student. */
export async function keepAir(studio: Studio, id: string, air: StudentAir): Promise<boolean> {
  return together(studio, async (inside) => {
    const row = (await rowsOf(inside, 'students')
      .where({ id })
      .whereNull('deleted_at')
      .forUpdate()
      .first('schools', 'version')) as { readonly schools: string; readonly version: number } | undefined;
    if (!row) return false;
    const schools = { ...(JSON.parse(row.schools) as Partial<StudentSchools>), air };
    const next = { schools: JSON.stringify(schools), version: row.version + 1 };
    return (await rowsOf(inside, 'students').where({ id }).update(next)) === 1;
  });
}

/** Removes a student, or takes the removal back. */
export async function markStudent(studio: Studio, id: string, deletedAt: Date | null): Promise<boolean> {
  return (await rowsOf(studio, 'students').where({ id }).update({ deleted_at: deletedAt })) === 1;
}

/** Deletes a student's row, which takes everything of theirs along. */
export async function deleteStudent(studio: Studio, id: string): Promise<boolean> {
  return (await rowsOf(studio, 'students').where({ id }).delete()) === 1;
}
