import type { Knex } from 'knex';
import { studioRow } from './columns.js';

/** How a program is likely to stand on its day, with what that was reckoned from. */
export const forecasts: Knex.Migration = {
  async up(db) {
    // A program has one forecast: its key is the program's.
    await db.schema.createTable('forecasts', (table) => {
      studioRow(table);
      table.specificType('basis', 'CHAR(64) CHARACTER SET ascii').notNullable();
      table.text('answer').notNullable();
      table
        .foreign(['id', 'studio_id'])
        .references(['id', 'studio_id'])
        .inTable('programs')
        .onDelete('CASCADE');
    });
  },
  async down(db) {
    await db.schema.dropTableIfExists('forecasts');
  },
};
