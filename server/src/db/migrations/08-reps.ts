import type { Knex } from 'knex';
import { childOf, studioRow } from './columns.js';

/** Reps are facts and only ever added; taking one back is a fact of its own. */
export const reps: Knex.Migration = {
  async up(db) {
    await db.schema.createTable('reps', (table) => {
      studioRow(table);
      childOf(table, 'passage_id', 'passages');
      table.specificType('at', 'DATETIME(3)').notNullable();
      table.integer('day').notNullable();
      table.decimal('bpm', 6, 2).notNullable();
      table.string('beat_unit', 30).notNullable();
      table.string('context', 8).notNullable();
      table.boolean('is_clean').notNullable();
      table.specificType('received_at', 'DATETIME(3)').notNullable();
      table.index(['passage_id', 'at', 'id']);
    });
    await db.schema.createTable('rep_retractions', (table) => {
      studioRow(table);
      childOf(table, 'rep_id', 'reps');
      table.specificType('created_at', 'DATETIME(3)').notNullable();
      table.unique(['rep_id']);
    });
  },
  async down(db) {
    await db.schema.dropTableIfExists('rep_retractions');
    await db.schema.dropTableIfExists('reps');
  },
};
