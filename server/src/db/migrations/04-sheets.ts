import type { Knex } from 'knex';
import { childOf, editable, studioRow } from './columns.js';

/** Sheets with their dates, kept as published, and their parts. */
export const sheets: Knex.Migration = {
  async up(db) {
    await db.schema.createTable('sheets', (table) => {
      studioRow(table);
      table.string('body', 160).notNullable();
      table.string('year', 7).notNullable();
      table.string('division', 120).notNullable();
      table.string('instrument', 60).notNullable();
      editable(table);
    });
    await db.schema.createTable('deadlines', (table) => {
      studioRow(table);
      childOf(table, 'sheet_id', 'sheets');
      table.integer('position').unsigned().notNullable();
      table.string('kind', 20).notNullable();
      table.date('date').notNullable();
      table.specificType('time', 'CHAR(5)').nullable();
      table.string('zone', 64).notNullable();
    });
    await db.schema.createTable('sheet_parts', (table) => {
      studioRow(table);
      childOf(table, 'sheet_id', 'sheets');
      table.integer('position').unsigned().notNullable();
      table.string('kind', 20).notNullable();
      table.string('label', 80).notNullable();
      table.string('work_title', 160).notNullable();
      table.string('span_from', 8).nullable();
      table.string('span_to', 8).nullable();
      table.string('beat_unit', 30).nullable();
      table.decimal('bpm_min', 6, 2).nullable();
      table.decimal('bpm_max', 6, 2).nullable();
      table.string('bound', 8).notNullable();
      table.string('tempo_words', 120).nullable();
      table.specificType('deleted_at', 'DATETIME(3)').nullable();
    });
  },
  async down(db) {
    await db.schema.dropTableIfExists('sheet_parts');
    await db.schema.dropTableIfExists('deadlines');
    await db.schema.dropTableIfExists('sheets');
  },
};
