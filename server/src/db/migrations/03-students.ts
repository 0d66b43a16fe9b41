import type { Knex } from 'knex';
import { editable, studioRow } from './columns.js';

/** Students: a name and an instrument, no more. */
export const students: Knex.Migration = {
  async up(db) {
    await db.schema.createTable('students', (table) => {
      studioRow(table);
      table.string('name', 120).notNullable();
      table.string('instrument', 60).notNullable();
      editable(table);
    });
  },
  async down(db) {
    await db.schema.dropTableIfExists('students');
  },
};
