import type { FindingMarkView } from '@vivid-cue/contract';
import { rowsOf, type Studio } from '../db/studio.js';
import type { Practice } from '../practice/part-row.js';

/** Decisions about the findings of a student's score, oldest first. */
export async function findingMarks(
  studio: Studio,
  { student_id: studentId, score_id: scoreId }: Practice,
): Promise<FindingMarkView[]> {
  if (scoreId === null) return [];
  return (await rowsOf(studio, 'finding_marks')
    .where({ student_id: studentId, score_id: scoreId })
    .orderBy(['created_at', 'id'])
    .select({ key: 'finding_key' }, 'measure', 'mark')) as unknown as FindingMarkView[];
}

/** Sets a decision over the one before. */
export async function setMark(
  studio: Studio,
  practice: { readonly student_id: string; readonly score_id: string },
  { mark, now }: { readonly mark: FindingMarkView & { readonly id: string }; readonly now: Date },
): Promise<void> {
  const row = { mark: mark.mark, created_at: now };
  await studio
    .db('finding_marks')
    .insert({
      id: mark.id,
      studio_id: studio.id,
      ...practice,
      finding_key: mark.key,
      measure: mark.measure,
      ...row,
    })
    .onConflict(['student_id', 'score_id', 'finding_key', 'measure'])
    .merge(row);
}

/** Takes decisions back: of one finding, or all of a kind. */
export async function dropMarks(
  studio: Studio,
  practice: { readonly student_id: string; readonly score_id: string },
  of: Partial<FindingMarkView>,
): Promise<void> {
  const { key, ...rest } = of;
  await rowsOf(studio, 'finding_marks')
    .where({ ...practice, ...rest, ...(key === undefined ? {} : { finding_key: key }) })
    .delete();
}

/** Lets the decisions about one score stand for another. */
export async function moveMarks(
  studio: Studio,
  { from, to, studentId }: { readonly from: string; readonly to: string; readonly studentId: string | null },
): Promise<void> {
  if (from === to) return;
  const query = rowsOf(studio, 'finding_marks').where({ score_id: from });
  await (studentId === null ? query : query.where({ student_id: studentId })).update({ score_id: to });
}
