import type { Knex } from 'knex';
import { dropUnusedPages, pagesOfScores } from '../pages/repository.js';
import { rowsOf, type Studio } from '../db/studio.js';

/** Tables that refer to a score. */
const REFERRING = ['program_parts', 'passages', 'cues', 'finding_marks'] as const;

/** Scores that a student plays or has played from, in whatever program. */
export async function scoresOfStudent(studio: Studio, studentId: string): Promise<string[]> {
  const own = ['passages', 'cues', 'finding_marks'].map((table) =>
    rowsOf(studio, table).where({ student_id: studentId }).select('score_id'),
  );
  const rows = (await rowsOf(studio, 'program_parts as pp')
    .join('programs as p', 'p.id', 'pp.program_id')
    .where('p.student_id', studentId)
    .whereNotNull('pp.score_id')
    .select('pp.score_id')
    .union(own as unknown as Knex.QueryBuilder[])) as unknown as { score_id: string }[];
  return [...new Set(rows.map(({ score_id: id }) => id))];
}

/** Deletes those of some scores that nothing refers to any more, with works and pages that are left without a score. */
export async function dropUnusedScores(
  db: Knex,
  scores: Knex.QueryBuilder | readonly string[],
): Promise<number> {
  const query = db('scores').whereIn('id', scores as Knex.QueryBuilder);
  for (const table of REFERRING)
    query.whereNotExists(
      db(table)
        .whereRaw('?? = ??', [`${table}.score_id`, 'scores.id'])
        .select(db.raw('1')),
    );
  const unused = ((await query.select('id')) as { id: string }[]).map(({ id }) => id);
  if (unused.length === 0) return 0;
  const works = ((await db('scores').whereIn('id', unused).distinct('work_id')) as { work_id: string }[]).map(
    ({ work_id: id }) => id,
  );
  const pages = await pagesOfScores(db('score_pages'), unused);
  await db('scores').whereIn('id', unused).delete();
  await dropUnusedPages(db('pages').whereIn('id', pages));
  await db('works')
    .whereIn('id', works)
    .whereNotExists(db('scores').whereRaw('scores.work_id = works.id').select(db.raw('1')))
    .delete();
  return unused.length;
}

/** The name of a file may hold a name of somebody: scores that stay for others are called scores. */
export async function namelessScores(studio: Studio, ids: readonly string[]): Promise<void> {
  await rowsOf(studio, 'scores')
    .whereIn('id', ids)
    .update({
      file_name: studio.db.raw(
        "CONCAT('score', IF(LOCATE('.', file_name) > 0, CONCAT('.', SUBSTRING_INDEX(file_name, '.', -1)), ''))",
      ),
    });
}
