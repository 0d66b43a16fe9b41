import type { Knex } from 'knex';

/** How a studio writes: how cues are drawn, its own rules of the hands, and the shipped ones that it does without. */
export const books: Knex.Migration = {
  async up(db) {
    await db.raw(`ALTER TABLE studios
      ADD COLUMN IF NOT EXISTS book MEDIUMTEXT NOT NULL DEFAULT '{}',
      ADD COLUMN IF NOT EXISTS book_version INT UNSIGNED NOT NULL DEFAULT 1`);
  },
  async down(db) {
    await db.raw(
      'ALTER TABLE studios DROP COLUMN IF EXISTS book, DROP COLUMN IF EXISTS book_version, ALGORITHM=COPY',
    );
  },
};
