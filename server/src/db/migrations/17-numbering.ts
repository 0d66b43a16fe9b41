import type { Knex } from 'knex';

/** Where an instructor counts a score's measures otherwise than printed: JSON list of [index, number]. */
export const numbering: Knex.Migration = {
  async up(db) {
    await db.schema.alterTable('scores', (table) => {
      table.text('numbering').nullable();
    });
  },
  async down(db) {
    await db.raw('ALTER TABLE scores DROP COLUMN IF EXISTS numbering');
  },
};
