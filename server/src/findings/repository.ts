import type { FindingMarkView } from '@vivid-cue/contract';
import { insertOnce, rowsOf, type Studio } from '../db/studio.js';
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

/** Sets a decision over the one before; false where its identifier stands for something else. */
export async function setMark(
  studio: Studio,
  practice: { readonly student_id: string; readonly score_id: string },
  { mark, now }: { readonly mark: FindingMarkView & { readonly id: string }; readonly now: Date },
): Promise<boolean> {
  const place = { ...practice, finding_key: mark.key, measure: mark.measure };
  const row = { mark: mark.mark, created_at: now };
  const isThere = async (): Promise<boolean> =>
    (await rowsOf(studio, 'finding_marks').where(place).update(row)) === 1;
  if (await isThere()) return true;
  // Another request may have set one for the same place meanwhile.
  return (await insertOnce(studio, 'finding_marks', { id: mark.id, ...place, ...row })) || isThere();
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
