import type { Knex } from 'knex';
import { idColumn } from './columns.js';

/** What stands on a sheet's desk and is not saved: under the sheet's identifier, of a new sheet under the studio's own. */
export const sheetDrafts: Knex.Migration = {
  async up(db) {
    await db.schema.createTable('sheet_drafts', (table) => {
      table.engine('InnoDB');
      table.charset('utf8mb4');
      idColumn(table, 'studio_id').references('id').inTable('studios').onDelete('CASCADE');
      idColumn(table, 'sheet_id');
      table.primary(['studio_id', 'sheet_id']);
      table.integer('version').unsigned().notNullable();
      table.specificType('saved_at', 'DATETIME(3)').notNullable();
      table.specificType('state', 'MEDIUMTEXT').notNullable();
    });
  },
  async down(db) {
    await db.schema.dropTableIfExists('sheet_drafts');
  },
};
