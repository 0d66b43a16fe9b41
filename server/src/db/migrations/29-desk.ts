import type { Knex } from 'knex';
import { idColumn, studioRow } from './columns.js';

/** What students use and send: personal links, surprises on a measure, and notes to the instructor. */
export const desk: Knex.Migration = {
  async up(db) {
    await db.schema.createTable('student_links', (table) => {
      studioRow(table);
      idColumn(table, 'student_id');
      table.specificType('code_hash', 'CHAR(64) CHARACTER SET ascii').notNullable();
      table.specificType('created_at', 'DATETIME(3)').notNullable();
      table.specificType('expires_at', 'DATETIME(3)').notNullable();
      table.specificType('last_used_at', 'DATETIME(3)').nullable();
      table.specificType('revoked_at', 'DATETIME(3)').nullable();
      ownedBy(table, 'student_id', 'students');
    });
    await db.schema.createTable('surprises', (table) => {
      studioRow(table);
      idColumn(table, 'passage_id');
      table.integer('measure_index').unsigned().notNullable();
      table.decimal('bpm', 6, 2).notNullable();
      table.string('beat_unit', 30).notNullable();
      table.string('text', 200).notNullable();
      table.specificType('at', 'DATETIME(3)').notNullable();
      table.specificType('cleared_at', 'DATETIME(3)').nullable();
      ownedBy(table, 'passage_id', 'passages');
    });
    await db.schema.createTable('student_notes', (table) => {
      studioRow(table);
      idColumn(table, 'student_id');
      table.specificType('passage_id', 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin').nullable();
      table.string('text', 300).notNullable();
      table.specificType('at', 'DATETIME(3)').notNullable();
      table.specificType('seen_at', 'DATETIME(3)').nullable();
      ownedBy(table, 'student_id', 'students');
      ownedBy(table, 'passage_id', 'passages');
    });
  },
  async down(db) {
    await db.schema.dropTableIfExists('student_notes');
    await db.schema.dropTableIfExists('surprises');
    await db.schema.dropTableIfExists('student_links');
  },
};

/** A row of the same studio, which takes this one along when it goes. */
function ownedBy(table: Knex.CreateTableBuilder, column: string, parent: string): void {
  table.foreign([column, 'studio_id']).references(['id', 'studio_id']).inTable(parent).onDelete('CASCADE');
}
