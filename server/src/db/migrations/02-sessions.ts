import type { Knex } from 'knex';

/** Sessions and rate limits live in the database, so that several processes share them. */
export const sessions: Knex.Migration = {
  async up(db) {
    await db.schema.createTable('sessions', (table) => {
      table.engine('InnoDB');
      table.string('sid', 255).primary();
      table.json('sess').notNullable();
      table.specificType('expired', 'DATETIME').notNullable().index();
    });
    await db.schema.createTable('rate_hits', (table) => {
      table.engine('InnoDB');
      table.specificType('id', 'CHAR(64) CHARACTER SET ascii').primary();
      table.integer('hits').unsigned().notNullable();
      table.bigInteger('resets_at_ms').notNullable();
    });
  },
  async down(db) {
    await db.schema.dropTableIfExists('rate_hits');
    await db.schema.dropTableIfExists('sessions');
  },
};
