import { together, type Studio } from '../db/studio.js';
import { dropUnusedScores, namelessScores, scoresOfStudent } from '../scores/unused.js';
import { deleteStudent } from '../students/repository.js';

/**
 * Erases a student and everything that only the student caused: programs, passages, reps, cues, calendars, and scores
 * that nobody else plays from. A score that others play from stays without the name of its file.
 * Shape:  false where there is no such student
 */
export function eraseStudent(studio: Studio, id: string): Promise<boolean> {
  return together(studio, async (inside) => {
    const scores = await scoresOfStudent(inside, id);
    if (!(await deleteStudent(inside, id))) return false;
    await dropUnusedScores(inside.db, scores);
    await namelessScores(inside, scores);
    return true;
  });
}
