import type { Knex } from 'knex';
import { idColumn, studioRow } from './columns.js';

/** Recorded takes: what they are of, what was heard and marked, and their sound in chunks. */
export const takes: Knex.Migration = {
  async up(db) {
    await db.raw('ALTER TABLE program_parts ADD UNIQUE KEY IF NOT EXISTS program_parts_own (id, studio_id)');
    await db.schema.createTable('takes', (table) => {
      studioRow(table);
      idColumn(table, 'student_id');
      idColumn(table, 'program_part_id');
      table.specificType('sitting_id', 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin').nullable();
      table.integer('number').unsigned().notNullable();
      table.boolean('by_student').notNullable();
      table.specificType('at', 'DATETIME(3)').notNullable();
      table.double('seconds').notNullable();
      table.string('level', 12).notNullable();
      table.boolean('with_repeats').notNullable();
      table.double('asked_bpm').nullable();
      table.string('asked_unit', 30).nullable();
      table.specificType('told', 'MEDIUMTEXT').nullable();
      table.text('marks', 'mediumtext').nullable();
      table.integer('marks_version').unsigned().notNullable().defaultTo(1);
      table.text('run', 'mediumtext').nullable();
      table.specificType('whole_at', 'DATETIME(3)').nullable();
      table.specificType('created_at', 'DATETIME(3)').notNullable();
      table.specificType('deleted_at', 'DATETIME(3)').nullable();
      table.unique(['id', 'studio_id'], { indexName: 'takes_own' });
      table.index(['student_id', 'at']);
      for (const [column, parent] of [
        ['student_id', 'students'],
        ['program_part_id', 'program_parts'],
      ] as const)
        table
          .foreign([column, 'studio_id'])
          .references(['id', 'studio_id'])
          .inTable(parent)
          .onDelete('CASCADE');
    });
    await formTables(db);
  },
  async down(db) {
    await db.schema.dropTableIfExists('take_chunks');
    await db.schema.dropTableIfExists('take_forms');
    await db.schema.dropTableIfExists('takes');
    await db.raw('ALTER TABLE program_parts DROP INDEX IF EXISTS program_parts_own');
  },
};

/** The forms of a take, and their bytes in chunks that come one by one. */
async function formTables(db: Knex): Promise<void> {
  await db.schema.createTable('take_forms', (table) => {
    table.engine('InnoDB');
    table.charset('utf8mb4');
    idColumn(table, 'take_id');
    idColumn(table, 'studio_id').index();
    table.specificType('form', 'VARCHAR(8) CHARACTER SET ascii').notNullable();
    table.string('kind', 20).notNullable();
    table.integer('bytes').unsigned().notNullable();
    table.specificType('sha256', 'CHAR(64) CHARACTER SET ascii').notNullable();
    table.primary(['take_id', 'form']);
    table
      .foreign(['take_id', 'studio_id'])
      .references(['id', 'studio_id'])
      .inTable('takes')
      .onDelete('CASCADE');
  });
  await db.schema.createTable('take_chunks', (table) => {
    table.engine('InnoDB');
    idColumn(table, 'take_id');
    idColumn(table, 'studio_id');
    table.specificType('form', 'VARCHAR(8) CHARACTER SET ascii').notNullable();
    table.smallint('n').unsigned().notNullable();
    table.specificType('data', 'MEDIUMBLOB').notNullable();
    table.primary(['take_id', 'form', 'n']);
    table
      .foreign(['take_id', 'studio_id'])
      .references(['id', 'studio_id'])
      .inTable('takes')
      .onDelete('CASCADE');
  });
}
