import type { Knex } from 'knex';

/** What was removed can be taken back for so many days, then it goes for good. */
export const UNDO_DAYS = 30;

/**
 * Deletes what was removed over 30 days ago, and sessions and rate limits that have run out.
 * Shape:  the number of removed students, programs, passages, cues and sheets that went
 * Units:  milliseconds since 1970
 * Source: docs/architecture.md
 */
export async function purgeRemoved(db: Knex, nowMs: number): Promise<number> {
  const before = new Date(nowMs - UNDO_DAYS * 86_400_000);
  let gone = 0;
  for (const table of ['students', 'programs', 'passages', 'cues', 'sheets']) {
    gone += await db(table).where('deleted_at', '<', before).delete();
  }
  await db('sessions').where('expired', '<', new Date(nowMs)).delete();
  await db('rate_hits').where('resets_at_ms', '<', nowMs).delete();
  return gone;
}
