import type { Knex } from 'knex';
import { dropUnusedScores } from '../scores/unused.js';
import { dropUnusedPages } from '../pages/repository.js';
import { eraseStudent } from '../record/erase.js';
import { TAKE_DAYS } from '../studio/settings.js';
import { purgeTakes } from '../takes/keeping.js';

/** What was removed can be taken back for so many days, then it goes for good. */
export const UNDO_DAYS = 30;

/** A draft that nobody touched is kept for so many days. */
const DRAFT_DAYS = 180;
/** Pages of which no score was made wait for so many days. */
const WAITING_DAYS = 7;

/**
 * Deletes what was removed over 30 days ago, scores that nothing has referred to for as long, and sessions and counts
 * that have run out.
 * Shape:  the number of removed studios, students, programs, passages, cues, sheets, mocks and takes that went
 * Units:  milliseconds since 1970
 * Source: docs/architecture.md
 */
export async function purgeRemoved(db: Knex, nowMs: number): Promise<number> {
  const before = new Date(nowMs - UNDO_DAYS * 86_400_000);
  let gone = await purgeStudios(db, before);
  const students = (await db('students').where('deleted_at', '<', before).select('id', 'studio_id')) as {
    readonly id: string;
    readonly studio_id: string;
  }[];
  for (const { id, studio_id: studioId } of students)
    gone += Number(await eraseStudent({ db, id: studioId }, id));
  for (const table of ['programs', 'passages', 'cues', 'sheets', 'mocks']) {
    gone += await db(table).where('deleted_at', '<', before).delete();
  }
  gone += await purgeTakes(db, { before, nowMs, usualDays: TAKE_DAYS });
  await dropUnusedScores(db, db('scores').where('created_at', '<', before).select('id'));
  await dropUnusedPages(db('pages').where('created_at', '<', new Date(nowMs - WAITING_DAYS * 86_400_000)));
  await db('sheet_drafts')
    .where('saved_at', '<', new Date(nowMs - DRAFT_DAYS * 86_400_000))
    .delete();
  await db('sessions').where('expired', '<', new Date(nowMs)).delete();
  await db('rate_hits').where('resets_at_ms', '<', nowMs).delete();
  return gone;
}

/** A studio takes everything of it along; scores only leave their parts first. */
async function purgeStudios(db: Knex, before: Date): Promise<number> {
  const studios = (
    (await db('studios').where('deleted_at', '<', before).select('id')) as { id: string }[]
  ).map(({ id }) => id);
  for (const id of studios) {
    await db('program_parts').where({ studio_id: id }).update({ score_id: null });
    await db('studios').where({ id }).delete();
  }
  return studios.length;
}
