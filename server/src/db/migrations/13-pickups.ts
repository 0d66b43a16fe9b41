import type { Knex } from 'knex';

/** A body may count the pickup as measure 1; the printed numbers stay the truth, this is how a sheet's are read. */
export const pickups: Knex.Migration = {
  async up(db) {
    await db.schema.alterTable('program_parts', (table) => {
      table.boolean('pickup_counts').notNullable().defaultTo(false);
    });
  },
  async down(db) {
    await db.raw('ALTER TABLE program_parts DROP COLUMN IF EXISTS pickup_counts');
  },
};
