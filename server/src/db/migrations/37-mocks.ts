import type { Knex } from 'knex';
import { idColumn, studioRow } from './columns.js';

/** A reference that names the studio beside the row. */
function own(table: Knex.CreateTableBuilder, column: string, parent: string): void {
  idColumn(table, column);
  table.foreign([column, 'studio_id']).references(['id', 'studio_id']).inTable(parent).onDelete('CASCADE');
}

/** Mock days with their players, listeners and scores, and units of practice beside the program. */
export const mocks: Knex.Migration = {
  async up(db) {
    await db.schema.createTable('mocks', (table) => {
      studioRow(table);
      table.date('date').notNullable();
      table.boolean('is_blind').notNullable();
      table.boolean('is_recorded').notNullable();
      table.integer('seed').unsigned().notNullable();
      table.string('now', 200).nullable();
      table.text('closing', 'mediumtext').nullable();
      table.integer('version').unsigned().notNullable().defaultTo(1);
      table.specificType('created_at', 'DATETIME(3)').notNullable();
      table.specificType('deleted_at', 'DATETIME(3)').nullable();
      table.unique(['id', 'studio_id'], { indexName: 'mocks_own' });
    });
    await db.schema.createTable('mock_players', (table) => {
      studioRow(table);
      own(table, 'mock_id', 'mocks');
      own(table, 'program_id', 'programs');
      own(table, 'student_id', 'students');
      table.integer('position').unsigned().notNullable();
      table.text('items', 'mediumtext').notNullable();
      table.unique(['id', 'studio_id'], { indexName: 'mock_players_own' });
    });
    await listenerTables(db);
    await db.schema.createTable('practice_units', (table) => {
      studioRow(table);
      own(table, 'student_id', 'students');
      table.string('kind', 12).notNullable();
      table.smallint('level').unsigned().notNullable();
      table.integer('seed').unsigned().notNullable();
      table.specificType('at', 'DATETIME(3)').notNullable();
      table.double('right_count').notNullable();
      table.double('of_count').notNullable();
    });
  },
  async down(db) {
    for (const name of [
      'practice_units',
      'mock_takes',
      'mock_scores',
      'mock_listeners',
      'mock_players',
      'mocks',
    ])
      await db.schema.dropTableIfExists(name);
  },
};

async function listenerTables(db: Knex): Promise<void> {
  await db.schema.createTable('mock_listeners', (table) => {
    studioRow(table);
    own(table, 'mock_id', 'mocks');
    table.string('name', 60).notNullable();
    table.specificType('code_hash', 'CHAR(64) CHARACTER SET ascii').notNullable();
    table.specificType('created_at', 'DATETIME(3)').notNullable();
    table.specificType('expires_at', 'DATETIME(3)').notNullable();
    table.specificType('last_used_at', 'DATETIME(3)').nullable();
    table.specificType('revoked_at', 'DATETIME(3)').nullable();
    table.unique(['id', 'studio_id'], { indexName: 'mock_listeners_own' });
  });
  await db.schema.createTable('mock_scores', (table) => {
    studioRow(table);
    own(table, 'listener_id', 'mock_listeners');
    own(table, 'player_id', 'mock_players');
    idColumn(table, 'item_id');
    table.text('points').notNullable();
    table.text('taps').notNullable();
    table.text('remark').notNullable();
    table.specificType('at', 'DATETIME(3)').notNullable();
    table.unique(['listener_id', 'player_id', 'item_id'], { indexName: 'mock_scores_once' });
  });
  await db.schema.createTable('mock_takes', (table) => {
    table.engine('InnoDB');
    idColumn(table, 'studio_id').index();
    own(table, 'player_id', 'mock_players');
    idColumn(table, 'item_id');
    own(table, 'take_id', 'takes');
    table.primary(['player_id', 'item_id']);
  });
}
