import type { Knex } from 'knex';
import { idColumn, studioRow } from './columns.js';

/** Pages of printed music: their pictures in chunks, so that no statement carries a whole one, and the scores they belong to. */
export const pages: Knex.Migration = {
  async up(db) {
    await db.schema.createTable('pages', (table) => {
      studioRow(table);
      // The part it was brought for: counted while it waits, and nothing more; what it belongs to is its score.
      idColumn(table, 'program_part_id').index();
      table.integer('width').unsigned().notNullable();
      table.integer('height').unsigned().notNullable();
      table.integer('stored_bytes').unsigned().notNullable();
      table.specificType('sha256', 'CHAR(64) CHARACTER SET ascii').notNullable();
      table.specificType('created_at', 'DATETIME(3)').notNullable();
      table.unique(['id', 'studio_id'], { indexName: 'pages_own' });
    });
    await db.schema.createTable('page_chunks', (table) => {
      table.engine('InnoDB');
      idColumn(table, 'page_id');
      idColumn(table, 'studio_id');
      table.specificType('size', 'VARCHAR(8) CHARACTER SET ascii').notNullable();
      table.smallint('n').unsigned().notNullable();
      table.specificType('data', 'MEDIUMBLOB').notNullable();
      table.primary(['page_id', 'size', 'n']);
      table
        .foreign(['page_id', 'studio_id'])
        .references(['id', 'studio_id'])
        .inTable('pages')
        .onDelete('CASCADE');
    });
    await linkTable(db);
  },
  async down(db) {
    await db.schema.dropTableIfExists('score_pages');
    await db.schema.dropTableIfExists('page_chunks');
    await db.schema.dropTableIfExists('pages');
  },
};

/** Which pages show which score. */
async function linkTable(db: Knex): Promise<void> {
  await db.schema.createTable('score_pages', (table) => {
    table.engine('InnoDB');
    idColumn(table, 'score_id');
    idColumn(table, 'page_id');
    idColumn(table, 'studio_id');
    table.primary(['score_id', 'page_id']);
    table
      .foreign(['score_id', 'studio_id'])
      .references(['id', 'studio_id'])
      .inTable('scores')
      .onDelete('CASCADE');
    table
      .foreign(['page_id', 'studio_id'])
      .references(['id', 'studio_id'])
      .inTable('pages')
      .onDelete('CASCADE');
  });
}
