import type { Knex } from 'knex';

/**
 * A passage belongs to a student and a score, not to one part of one program: the same work in two programs is one body
 * of practice.
 */
export const practisedScores: Knex.Migration = {
  async up(db) {
    const id = 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin';
    await db.raw(`ALTER TABLE passages ADD COLUMN student_id ${id} NULL, ADD COLUMN score_id ${id} NULL`);
    await db.raw(`UPDATE passages p JOIN program_parts pp ON pp.id = p.program_part_id
      JOIN programs pr ON pr.id = pp.program_id SET p.student_id = pr.student_id, p.score_id = pp.score_id`);
    await db('passages').whereNull('score_id').delete();
    await db.raw(`ALTER TABLE passages MODIFY student_id ${id} NOT NULL, MODIFY score_id ${id} NOT NULL,
      ADD CONSTRAINT passages_student FOREIGN KEY (student_id) REFERENCES students (id) ON DELETE CASCADE,
      ADD CONSTRAINT passages_score FOREIGN KEY (score_id) REFERENCES scores (id) ON DELETE CASCADE,
      ADD INDEX passages_practice (student_id, score_id)`);
    await dropParent(db);
  },
  async down(db) {
    const id = 'CHAR(36) CHARACTER SET ascii COLLATE ascii_bin';
    if (!(await db.schema.hasColumn('passages', 'student_id'))) return;
    await db.raw(`ALTER TABLE passages ADD COLUMN IF NOT EXISTS program_part_id ${id} NULL`);
    await db.raw(`UPDATE passages p JOIN programs pr ON pr.student_id = p.student_id
      JOIN program_parts pp ON pp.program_id = pr.id AND pp.score_id = p.score_id SET p.program_part_id = pp.id
      WHERE p.program_part_id IS NULL`);
    await db('passages').whereNull('program_part_id').delete();
    await db.raw(`ALTER TABLE passages MODIFY program_part_id ${id} NOT NULL,
      DROP FOREIGN KEY IF EXISTS passages_program_part_id_foreign,
      DROP FOREIGN KEY IF EXISTS passages_student, DROP FOREIGN KEY IF EXISTS passages_score,
      DROP INDEX IF EXISTS passages_practice`);
    await db.raw(`ALTER TABLE passages ADD CONSTRAINT passages_program_part_id_foreign FOREIGN KEY (program_part_id)
      REFERENCES program_parts (id) ON DELETE CASCADE`);
    await db.raw('ALTER TABLE passages DROP COLUMN student_id, DROP COLUMN score_id');
  },
};

async function dropParent(db: Knex): Promise<void> {
  await db.schema.alterTable('passages', (table) => {
    table.dropForeign('program_part_id');
  });
  await db.schema.alterTable('passages', (table) => {
    table.dropColumn('program_part_id');
  });
}
