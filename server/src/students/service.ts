import type { StudentChange, StudentInput, StudentView } from '@vivid-cue/contract';
import { together, type Studio } from '../db/studio.js';
import { notFound, Problem } from '../http/problem.js';
import { findStudent, insertStudent, updateStudent } from './repository.js';

/**
 * Adds a student; a repeated request gives the same student again.
 * Errors: Problem id-taken
 */
export async function addStudent(studio: Studio, input: StudentInput, now: Date): Promise<StudentView> {
  await insertStudent(studio, input, now);
  const student = await findStudent(studio, input.id);
  if (!student)
    throw new Problem('id-taken', 'This student could not be added; reload the page and try again.');
  return student;
}

/**
 * Adds several students, all or none; a repeated request gives the same students again.
 * Errors: Problem id-taken
 */
export async function addStudents(
  studio: Studio,
  inputs: readonly StudentInput[],
  now: Date,
): Promise<StudentView[]> {
  return together(studio, async (inside) => {
    const added: StudentView[] = [];
    for (const input of inputs) added.push(await addStudent(inside, input, now));
    return added;
  });
}

/** An edit with the version it was made on. */
export interface StudentEdit {
  readonly id: string;
  readonly version: number;
  readonly change: StudentChange;
}

/**
 * Changes a student.
 * Errors: Problem not-found; version-stale with the current row
 */
export async function changeStudent(
  studio: Studio,
  { id, version, change }: StudentEdit,
): Promise<StudentView> {
  const isChanged = await updateStudent(studio, id, { version, change });
  const current = await findStudent(studio, id);
  if (!current) throw notFound('student');
  if (!isChanged)
    throw new Problem(
      'version-stale',
      'Somebody changed this student meanwhile; look at both and save again.',
      { current },
    );
  return current;
}
