import type { Knex } from 'knex';

/** Cues at a note with a sign on the music, their status, the reason, and what else was considered. */
export const cuePlaces: Knex.Migration = {
  async up(db) {
    await db.raw(`ALTER TABLE cues
      ADD COLUMN IF NOT EXISTS note SMALLINT UNSIGNED NULL,
      ADD COLUMN IF NOT EXISTS sign VARCHAR(12) NOT NULL DEFAULT '',
      ADD COLUMN IF NOT EXISTS status VARCHAR(8) NOT NULL DEFAULT 'settled',
      ADD COLUMN IF NOT EXISTS reason TEXT NOT NULL DEFAULT '',
      ADD COLUMN IF NOT EXISTS author VARCHAR(10) NOT NULL DEFAULT 'instructor',
      ADD COLUMN IF NOT EXISTS alternatives TEXT NOT NULL DEFAULT '[]'`);
    await db.raw("UPDATE cues SET author = 'reading' WHERE finding_key IS NOT NULL");
  },
  async down(db) {
    // Written anew: a column that is dropped at once leaves its room behind, and a row has only so much.
    await db.raw(`ALTER TABLE cues DROP COLUMN IF EXISTS note, DROP COLUMN IF EXISTS sign,
      DROP COLUMN IF EXISTS status, DROP COLUMN IF EXISTS reason, DROP COLUMN IF EXISTS author,
      DROP COLUMN IF EXISTS alternatives, ALGORITHM=COPY`);
  },
};
