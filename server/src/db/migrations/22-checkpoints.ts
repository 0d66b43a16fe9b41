import type { Knex } from 'knex';
import { idColumn } from './columns.js';

/** Where a passage stood after so many reps, so that a rep which arrives late is counted from there and not from the first. */
export const checkpoints: Knex.Migration = {
  async up(db) {
    await db.schema.createTable('readiness_checkpoints', (table) => {
      table.engine('InnoDB');
      table.charset('utf8mb4');
      idColumn(table, 'passage_id');
      idColumn(table, 'studio_id');
      table.specificType('at', 'DATETIME(3)').notNullable();
      idColumn(table, 'rep_id');
      table.text('progress').notNullable();
      table.primary(['passage_id', 'at', 'rep_id']);
    });
    await db.raw(`ALTER TABLE readiness_checkpoints ADD INDEX readiness_checkpoints_own (passage_id, studio_id),
      ADD CONSTRAINT readiness_checkpoints_own FOREIGN KEY (passage_id, studio_id)
      REFERENCES passages (id, studio_id) ON DELETE CASCADE`);
  },
  async down(db) {
    await db.schema.dropTableIfExists('readiness_checkpoints');
  },
};
