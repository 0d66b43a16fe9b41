import type { Knex } from 'knex';
import { v7 as newId } from 'uuid';
import { childOf, studioRow } from './columns.js';

interface OldSheet {
  readonly id: string;
  readonly studio_id: string;
  readonly created_at: Date;
}

/**
 * Sheets have revisions: dates and parts belong to one, programs stand on one. Parts keep an origin from revision to
 * revision, and everything they state beside span and tempo as JSON.
 */
export const revisions: Knex.Migration = {
  async up(db) {
    await db.schema.createTable('sheet_revisions', (table) => {
      studioRow(table);
      childOf(table, 'sheet_id', 'sheets');
      table.integer('number').unsigned().notNullable();
      table.date('issued_on').nullable();
      table.string('note', 400).notNullable();
      table.specificType('published_text', 'MEDIUMTEXT').nullable();
      table.specificType('extras', 'LONGTEXT').notNullable();
      table.specificType('created_at', 'DATETIME(3)').notNullable();
      table.unique(['sheet_id', 'number']);
    });
    const id = (name: string): string => `${name} CHAR(36) CHARACTER SET ascii COLLATE ascii_bin`;
    for (const table of ['deadlines', 'sheet_parts', 'programs'])
      await db.raw(`ALTER TABLE ${table} ADD COLUMN ${id('revision_id')} NULL`);
    await db.raw(`ALTER TABLE sheets ADD COLUMN ${id('current_revision_id')} NULL`);
    await db.raw(`ALTER TABLE sheet_parts ADD COLUMN ${id('origin_id')} NULL, ADD COLUMN detail LONGTEXT NULL,
      MODIFY span_from VARCHAR(20) NULL, MODIFY span_to VARCHAR(20) NULL`);
    await db.raw(
      'ALTER TABLE deadlines MODIFY date DATE NULL, ADD COLUMN end_date DATE NULL, ADD COLUMN text VARCHAR(400) NULL',
    );
    for (const sheet of (await db('sheets').select('id', 'studio_id', 'created_at')) as OldSheet[])
      await firstRevision(db, sheet);
    await db('sheet_parts').update({ origin_id: db.ref('id') });
    for (const table of ['deadlines', 'sheet_parts', 'programs']) {
      await db.raw(`ALTER TABLE ${table} MODIFY ${id('revision_id')} NOT NULL,
        ADD CONSTRAINT ${table}_revision FOREIGN KEY (revision_id) REFERENCES sheet_revisions (id) ON DELETE CASCADE`);
    }
    await db.raw(`ALTER TABLE sheet_parts MODIFY ${id('origin_id')} NOT NULL`);
  },
  async down(db) {
    for (const table of ['deadlines', 'sheet_parts', 'programs'])
      await db.raw(`ALTER TABLE ${table} DROP FOREIGN KEY IF EXISTS ${table}_revision,
        DROP COLUMN IF EXISTS revision_id`);
    await db('deadlines').whereNull('date').delete();
    await db.raw(
      'ALTER TABLE deadlines MODIFY date DATE NOT NULL, DROP COLUMN IF EXISTS end_date, DROP COLUMN IF EXISTS text',
    );
    await db('sheet_parts').update({ span_from: null, span_to: null }).whereRaw('CHAR_LENGTH(span_from) > 8');
    await db.raw(
      'ALTER TABLE sheet_parts DROP COLUMN IF EXISTS origin_id, DROP COLUMN IF EXISTS detail, MODIFY span_from VARCHAR(8) NULL, MODIFY span_to VARCHAR(8) NULL',
    );
    await db.raw('ALTER TABLE sheets DROP COLUMN IF EXISTS current_revision_id');
    await db.schema.dropTableIfExists('sheet_revisions');
  },
};

async function firstRevision(db: Knex, { id, studio_id, created_at }: OldSheet): Promise<void> {
  const revisionId = newId();
  await db('sheet_revisions').insert({
    id: revisionId,
    studio_id,
    sheet_id: id,
    number: 1,
    note: '',
    extras: JSON.stringify({ choices: [], notes: [], questions: [] }),
    created_at,
  });
  await db('sheets').where({ id }).update({ current_revision_id: revisionId });
  for (const table of ['deadlines', 'sheet_parts', 'programs'])
    await db(table).where({ sheet_id: id }).update({ revision_id: revisionId });
}
