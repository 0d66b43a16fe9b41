import type { Knex } from 'knex';
import { studioRow } from './columns.js';

/** What a student chose for a part, the studio's schools of practice, and private calendar addresses. */
export const choices: Knex.Migration = {
  async up(db) {
    await db.schema.alterTable('program_parts', (table) => {
      table.boolean('is_taken').notNullable().defaultTo(true);
      table.string('own_title', 160).notNullable().defaultTo('');
      table.string('edition', 80).notNullable().defaultTo('');
      table.string('page', 20).notNullable().defaultTo('');
      table.string('repeats', 4).nullable();
      table.string('policy', 5).notNullable().defaultTo('keep');
    });
    await db.schema.alterTable('studios', (table) => {
      table.integer('version').unsigned().notNullable().defaultTo(1);
      table.string('schools', 400).notNullable().defaultTo('{}');
    });
    await db.schema.createTable('calendar_links', (table) => {
      studioRow(table);
      table.specificType('student_id', 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin').nullable();
      table.foreign('student_id').references('id').inTable('students').onDelete('CASCADE');
      table.specificType('token_sha256', 'CHAR(64) CHARACTER SET ascii').notNullable().unique();
      table.specificType('created_at', 'DATETIME(3)').notNullable();
    });
  },
  async down(db) {
    await db.schema.dropTableIfExists('calendar_links');
    await db.raw('ALTER TABLE studios DROP COLUMN IF EXISTS version, DROP COLUMN IF EXISTS schools');
    await db.raw(`ALTER TABLE program_parts DROP COLUMN IF EXISTS is_taken, DROP COLUMN IF EXISTS own_title,
      DROP COLUMN IF EXISTS edition, DROP COLUMN IF EXISTS page, DROP COLUMN IF EXISTS repeats,
      DROP COLUMN IF EXISTS policy`);
  },
};
