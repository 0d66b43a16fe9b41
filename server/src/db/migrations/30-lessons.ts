import type { Knex } from 'knex';
import { idColumn, studioRow } from './columns.js';

/** Lessons that were held: what was noted, and what is asked until the next. */
export const lessons: Knex.Migration = {
  async up(db) {
    await db.schema.createTable('lessons', (table) => {
      studioRow(table);
      idColumn(table, 'student_id');
      table.specificType('at', 'DATETIME(3)').notNullable();
      table.integer('minutes').unsigned().notNullable();
      table.text('notes').notNullable();
      table.text('asks').notNullable();
      table.index(['student_id', 'at']);
      table
        .foreign(['student_id', 'studio_id'])
        .references(['id', 'studio_id'])
        .inTable('students')
        .onDelete('CASCADE');
    });
  },
  async down(db) {
    await db.schema.dropTableIfExists('lessons');
  },
};
