import type { Knex } from 'knex';

/** Identifiers are UUIDs as 36 ASCII characters. */
export function idColumn(table: Knex.CreateTableBuilder, name: string): Knex.ColumnBuilder {
  return table.specificType(name, 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin').notNullable();
}

/** The first two columns of every table of a studio: its own key and its studio, which takes its rows along when it goes. */
export function studioRow(table: Knex.CreateTableBuilder): void {
  table.engine('InnoDB');
  table.charset('utf8mb4');
  idColumn(table, 'id').primary();
  idColumn(table, 'studio_id').references('id').inTable('studios').onDelete('CASCADE').index();
}

/** A reference to another table, whose row takes this one along when it goes. */
export function childOf(table: Knex.CreateTableBuilder, name: string, parent: string): void {
  idColumn(table, name).references('id').inTable(parent).onDelete('CASCADE').index();
}

/** Version of edits, time of making and soft deletion. */
export function editable(table: Knex.CreateTableBuilder): void {
  table.integer('version').unsigned().notNullable().defaultTo(1);
  table.specificType('created_at', 'DATETIME(3)').notNullable();
  table.specificType('deleted_at', 'DATETIME(3)').nullable();
}
