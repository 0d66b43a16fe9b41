import type { Knex } from 'knex';
import { childOf, editable, idColumn, studioRow } from './columns.js';

/** Programs: a student's answer to a sheet, part by part. */
export const programs: Knex.Migration = {
  async up(db) {
    await db.schema.createTable('programs', (table) => {
      studioRow(table);
      childOf(table, 'student_id', 'students');
      childOf(table, 'sheet_id', 'sheets');
      editable(table);
    });
    await db.schema.createTable('program_parts', (table) => {
      studioRow(table);
      childOf(table, 'program_id', 'programs');
      childOf(table, 'sheet_part_id', 'sheet_parts');
      idColumn(table, 'score_id').nullable().references('id').inTable('scores').onDelete('SET NULL').index();
      table.decimal('target_bpm', 6, 2).nullable();
      table.string('target_unit', 30).nullable();
      table.unique(['program_id', 'sheet_part_id']);
    });
  },
  async down(db) {
    await db.schema.dropTableIfExists('program_parts');
    await db.schema.dropTableIfExists('programs');
  },
};
