import { dropUnusedPages } from '../pages/repository.js';
import { dropEmptyMocks } from '../mocks/repository.js';
import { rowsOf, together, type Studio } from '../db/studio.js';
import { dropUnusedScores, namelessScores, scoresOfStudent } from '../scores/unused.js';
import { deleteStudent } from '../students/repository.js';

/**
 * Erases a student and everything that only the student caused: programs, passages, reps, cues, calendars, and scores
 * and pages that nobody else plays from. A score that others play from stays without the name of its file.
 * Shape:  false where there is no such student
 */
export function eraseStudent(studio: Studio, id: string): Promise<boolean> {
  return together(studio, async (inside) => {
    const scores = await scoresOfStudent(inside, id);
    const parts = await partsOfStudent(inside, id);
    if (!(await deleteStudent(inside, id))) return false;
    await dropEmptyMocks(inside);
    await dropUnusedScores(inside.db, scores);
    await dropUnusedPages(rowsOf(inside, 'pages').whereIn('program_part_id', parts));
    await namelessScores(inside, scores);
    return true;
  });
}

async function partsOfStudent(studio: Studio, studentId: string): Promise<string[]> {
  const rows = (await rowsOf(studio, 'program_parts')
    .whereIn('program_id', rowsOf(studio, 'programs').where({ student_id: studentId }).select('id'))
    .select('id')) as { readonly id: string }[];
  return rows.map(({ id }) => id);
}
