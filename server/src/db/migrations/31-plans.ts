import type { Knex } from 'knex';
import { idColumn, studioRow } from './columns.js';

/** A column for a student of the same studio, whose rows go with the student. */
function ofStudent(table: Knex.CreateTableBuilder, column: string): void {
  table
    .foreign([column, 'studio_id'])
    .references(['id', 'studio_id'])
    .inTable('students')
    .onDelete('CASCADE');
}

/** What was settled about a student's plan, its days as they were planned, and what was ticked. */
export const plans: Knex.Migration = {
  async up(db) {
    // A student has one plan: its key is the student's.
    await db.schema.createTable('plans', (table) => {
      studioRow(table);
      table.integer('version').unsigned().notNullable();
      table.specificType('made_at', 'DATETIME(3)').notNullable();
      table.specificType('wishes', 'MEDIUMTEXT').notNullable();
      table.text('own_tasks').notNullable();
      ofStudent(table, 'id');
    });
    await db.schema.createTable('planned_days', (table) => {
      studioRow(table);
      idColumn(table, 'student_id');
      table.specificType('date', 'CHAR(10) CHARACTER SET ascii').notNullable();
      table.text('planned').notNullable();
      table.unique(['student_id', 'date']);
      ofStudent(table, 'student_id');
    });
    await db.schema.createTable('task_ticks', (table) => {
      studioRow(table);
      idColumn(table, 'student_id');
      idColumn(table, 'subject_id');
      table.string('kind', 20).notNullable();
      table.specificType('done_on', 'CHAR(10) CHARACTER SET ascii').notNullable();
      table.unique(['student_id', 'subject_id', 'kind']);
      ofStudent(table, 'student_id');
    });
    // Where each passage stood at the end of a lesson, so that the next one can tell what moved.
    await db.schema.alterTable('lessons', (table) => {
      table.specificType('rungs', 'MEDIUMTEXT').nullable();
    });
  },
  async down(db) {
    await db.raw('ALTER TABLE lessons DROP COLUMN IF EXISTS rungs, ALGORITHM=COPY');
    await db.schema.dropTableIfExists('task_ticks');
    await db.schema.dropTableIfExists('planned_days');
    await db.schema.dropTableIfExists('plans');
  },
};
