import type { Knex } from 'knex';
import { childOf, editable, studioRow } from './columns.js';

/** Cues: short reminders at measures, of a student and a score as passages are. */
export const cues: Knex.Migration = {
  async up(db) {
    await db.schema.createTable('cues', (table) => {
      studioRow(table);
      childOf(table, 'student_id', 'students');
      childOf(table, 'score_id', 'scores');
      table.string('kind', 12).notNullable();
      table.string('span_from', 8).notNullable();
      table.string('span_to', 8).notNullable();
      table.integer('from_index').unsigned().notNullable();
      table.integer('end_index').unsigned().notNullable();
      table.string('text', 160).notNullable();
      table.specificType('finding_key', 'VARCHAR(40) CHARACTER SET ascii').nullable();
      editable(table);
    });
  },
  async down(db) {
    await db.schema.dropTableIfExists('cues');
  },
};
