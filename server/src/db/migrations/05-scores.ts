import type { Knex } from 'knex';
import { childOf, studioRow } from './columns.js';

/** Works, and scores stored as uploaded and as parsed; the measure map is kept apart because the season reads only it. */
export const scores: Knex.Migration = {
  async up(db) {
    await db.schema.createTable('works', (table) => {
      studioRow(table);
      table.string('title', 160).notNullable();
      table.specificType('created_at', 'DATETIME(3)').notNullable();
      table.unique(['studio_id', 'title']);
    });
    await db.schema.createTable('scores', (table) => {
      studioRow(table);
      childOf(table, 'work_id', 'works');
      table.string('file_name', 200).notNullable();
      table.specificType('file', 'LONGBLOB').notNullable();
      table.specificType('file_sha256', 'CHAR(64) CHARACTER SET ascii').notNullable();
      table.string('part_id', 80).notNullable();
      table.string('title', 200).nullable();
      table.specificType('digest', 'LONGTEXT').notNullable();
      table.specificType('measure_map', 'MEDIUMTEXT').notNullable();
      table.specificType('created_at', 'DATETIME(3)').notNullable();
    });
  },
  async down(db) {
    await db.schema.dropTableIfExists('scores');
    await db.schema.dropTableIfExists('works');
  },
};
