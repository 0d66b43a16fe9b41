import type { Knex } from 'knex';
import { childOf, editable, studioRow } from './columns.js';

/** Passages: spans that are tracked, with their own target and ladder. */
export const passages: Knex.Migration = {
  async up(db) {
    await db.schema.createTable('passages', (table) => {
      studioRow(table);
      childOf(table, 'program_part_id', 'program_parts');
      table.string('name', 80).notNullable();
      table.string('span_from', 8).notNullable();
      table.string('span_to', 8).notNullable();
      table.integer('from_index').unsigned().notNullable();
      table.integer('end_index').unsigned().notNullable();
      table.decimal('target_bpm', 6, 2).notNullable();
      table.string('target_unit', 30).notNullable();
      table.boolean('has_own_target').notNullable();
      table.string('step_kind', 8).notNullable();
      table.decimal('step_size', 6, 2).nullable();
      table.string('rule', 20).notNullable();
      editable(table);
    });
  },
  async down(db) {
    await db.schema.dropTableIfExists('passages');
  },
};
