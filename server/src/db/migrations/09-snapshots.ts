import type { Knex } from 'knex';
import { studioRow } from './columns.js';

/** What the reps of a passage add up to; its key is the passage's, and it can always be rebuilt from the facts. */
export const snapshots: Knex.Migration = {
  async up(db) {
    await db.schema.createTable('readiness_snapshots', (table) => {
      studioRow(table);
      table.foreign('id').references('id').inTable('passages').onDelete('CASCADE');
      table.double('mean').notNullable();
      table.double('sd').notNullable();
      table.integer('reps').unsigned().notNullable();
      table.integer('practice_days').unsigned().notNullable();
      table.integer('first_day').nullable();
      table.integer('last_day').nullable();
      table.specificType('last_at', 'DATETIME(3)').nullable();
      table.integer('rung_index').unsigned().notNullable();
      table.integer('streak').unsigned().notNullable();
      table.integer('streak_days').unsigned().notNullable();
      table.integer('rung_day').nullable();
      table.boolean('is_done').notNullable();
    });
  },
  async down(db) {
    await db.schema.dropTableIfExists('readiness_snapshots');
  },
};
