import type { Knex } from 'knex';

/** What tells whether a practice moved is counted over all passages of a studio: from an index, without reading rows. */
export const passageMarks: Knex.Migration = {
  async up(db) {
    await db.raw(`ALTER TABLE passages ADD INDEX IF NOT EXISTS passages_marks
      (studio_id, student_id, score_id, deleted_at, version)`);
  },
  async down(db) {
    await db.raw('ALTER TABLE passages DROP INDEX IF EXISTS passages_marks');
  },
};
