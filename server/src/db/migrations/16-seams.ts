import type { Knex } from 'knex';

/** A passage may be a seam, the join of two. */
export const seams: Knex.Migration = {
  async up(db) {
    await db.schema.alterTable('passages', (table) => {
      table.boolean('is_seam').notNullable().defaultTo(false);
    });
  },
  async down(db) {
    await db.raw('ALTER TABLE passages DROP COLUMN IF EXISTS is_seam');
  },
};
