import type { Knex } from 'knex';
import { idColumn, studioRow } from './columns.js';

/** Studios and the instructors who own them. */
export const accounts: Knex.Migration = {
  async up(db) {
    await db.schema.createTable('studios', (table) => {
      table.engine('InnoDB');
      table.charset('utf8mb4');
      idColumn(table, 'id').primary();
      table.string('name', 120).notNullable();
      table.string('zone', 64).notNullable();
      table.enum('vocabulary', ['us', 'uk']).notNullable().defaultTo('us');
      table.specificType('created_at', 'DATETIME(3)').notNullable();
    });
    await db.schema.createTable('users', (table) => {
      studioRow(table);
      table.string('email', 254).notNullable().unique();
      table.string('name', 120).notNullable();
      table.string('password_hash', 255).notNullable();
      table.specificType('created_at', 'DATETIME(3)').notNullable();
    });
  },
  async down(db) {
    await db.schema.dropTableIfExists('users');
    await db.schema.dropTableIfExists('studios');
  },
};
