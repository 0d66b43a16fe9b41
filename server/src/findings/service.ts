import type { FindingMarkInput, FindingMarkView } from '@vivid-cue/contract';
import { together, type Studio } from '../db/studio.js';
import { Problem } from '../http/problem.js';
import { dropMarks, findingMarks, setMark } from './repository.js';
import { findProgramPart } from '../practice/part-row.js';

/**
 * Keeps, sets aside or pins a finding, or takes that back; at most one measure is pinned as the one that decides.
 * Shape:  all decisions as they then stand
 * Errors: Problem not-found, score-missing, id-taken
 */
export async function markFinding(
  studio: Studio,
  programPartId: string,
  { wish, now }: { readonly wish: FindingMarkInput; readonly now: Date },
): Promise<FindingMarkView[]> {
  const { id, key, measure, mark } = wish;
  const part = await findProgramPart(studio, programPartId);
  if (part.score_id === null)
    throw new Problem('score-missing', 'This part has no score yet; upload one first.');
  const practice = { student_id: part.student_id, score_id: part.score_id };
  return together(studio, async (inside) => {
    if (mark === 'pinned') await dropMarks(inside, practice, { mark });
    if (mark === null) await dropMarks(inside, practice, { key, measure });
    else if (!(await setMark(inside, practice, { mark: { id, key, measure, mark }, now })))
      throw new Problem('id-taken', 'This could not be kept; reload the page and try again.');
    return findingMarks(inside, practice);
  });
}
