import type { Knex } from 'knex';

/** How much room a score takes, kept by the database, so that what a studio stores is added up without reading it. */
export const scoreBytes: Knex.Migration = {
  async up(db) {
    await db.raw(`ALTER TABLE scores ADD COLUMN IF NOT EXISTS stored_bytes INT UNSIGNED
      AS (LENGTH(file) + LENGTH(digest) + LENGTH(measure_map)) PERSISTENT`);
  },
  async down(db) {
    await db.raw('ALTER TABLE scores DROP COLUMN IF EXISTS stored_bytes');
  },
};
