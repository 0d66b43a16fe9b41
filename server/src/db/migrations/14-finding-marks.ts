import type { Knex } from 'knex';
import { childOf, studioRow } from './columns.js';

/**
 * What an instructor decided about findings. Findings themselves are read from the score each time; a decision names one
 * by what was found and in which music, so that it outlives a corrected file.
 */
export const findingMarks: Knex.Migration = {
  async up(db) {
    await db.schema.createTable('finding_marks', (table) => {
      studioRow(table);
      childOf(table, 'student_id', 'students');
      childOf(table, 'score_id', 'scores');
      table.specificType('finding_key', 'VARCHAR(40) CHARACTER SET ascii').notNullable();
      table.string('measure', 8).notNullable();
      table.string('mark', 10).notNullable();
      table.specificType('created_at', 'DATETIME(3)').notNullable();
      table.unique(['student_id', 'score_id', 'finding_key', 'measure'], {
        indexName: 'finding_marks_place',
      });
    });
  },
  async down(db) {
    await db.schema.dropTableIfExists('finding_marks');
  },
};
