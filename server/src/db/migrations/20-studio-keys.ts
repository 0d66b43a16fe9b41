import type { Knex } from 'knex';

/** What refers to what. Shape: `rule` is what a gone row does to those that refer to it */
interface Reference {
  readonly table: string;
  readonly column: string;
  readonly parent: string;
  readonly rule: 'CASCADE' | 'RESTRICT';
  /** Names of the constraint and the index on the column alone, as they were. */
  readonly before: readonly [constraint: string | null, index: string | null];
}

function reference(table: string, column: string, parent: string): Reference {
  const before = [`${table}_${column}_foreign`, `${table}_${column}_index`] as const;
  return { table, column, parent, rule: 'CASCADE', before };
}

const REFERENCES: readonly Reference[] = [
  {
    ...reference('calendar_links', 'student_id', 'students'),
    before: ['calendar_links_student_id_foreign', 'calendar_links_student_id_foreign'],
  },
  reference('cues', 'score_id', 'scores'),
  reference('cues', 'student_id', 'students'),
  {
    ...reference('deadlines', 'revision_id', 'sheet_revisions'),
    before: ['deadlines_revision', 'deadlines_revision'],
  },
  reference('deadlines', 'sheet_id', 'sheets'),
  reference('finding_marks', 'score_id', 'scores'),
  reference('finding_marks', 'student_id', 'students'),
  { ...reference('passages', 'score_id', 'scores'), before: ['passages_score', 'passages_score'] },
  { ...reference('passages', 'student_id', 'students'), before: ['passages_student', null] },
  {
    ...reference('programs', 'revision_id', 'sheet_revisions'),
    before: ['programs_revision', 'programs_revision'],
  },
  reference('programs', 'sheet_id', 'sheets'),
  reference('programs', 'student_id', 'students'),
  reference('program_parts', 'program_id', 'programs'),
  // A composite key cannot be emptied by half: whoever deletes a score takes it out of its parts first.
  { ...reference('program_parts', 'score_id', 'scores'), rule: 'RESTRICT' },
  reference('program_parts', 'sheet_part_id', 'sheet_parts'),
  { ...reference('readiness_snapshots', 'id', 'passages'), before: ['readiness_snapshots_id_foreign', null] },
  reference('reps', 'passage_id', 'passages'),
  reference('rep_retractions', 'rep_id', 'reps'),
  reference('scores', 'work_id', 'works'),
  {
    ...reference('sheet_parts', 'revision_id', 'sheet_revisions'),
    before: ['sheet_parts_revision', 'sheet_parts_revision'],
  },
  reference('sheet_parts', 'sheet_id', 'sheets'),
  reference('sheet_revisions', 'sheet_id', 'sheets'),
];

const PARENTS: readonly string[] = [...new Set(REFERENCES.map(({ parent }) => parent))];

/** Rows that are written with every rep: that their passage is the studio's says that they are. */
const LIGHT: readonly string[] = ['reps', 'rep_retractions', 'readiness_snapshots'];

/**
 * Every reference names the studio beside the row, so that the database itself refuses a row of another studio. The
 * indexes on the columns alone go: those of the references begin with the same column.
 */
export const studioKeys: Knex.Migration = {
  async up(db) {
    for (const parent of PARENTS)
      await db.raw(`ALTER TABLE ${parent} ADD UNIQUE KEY IF NOT EXISTS ${parent}_own (id, studio_id)`);
    for (const { table, column, parent, rule, before } of REFERENCES) {
      const [constraint, index] = before;
      const name = `${table}_${column}_own`;
      await db.raw(`ALTER TABLE ${table} ADD INDEX IF NOT EXISTS ${name} (${column}, studio_id)`);
      if (constraint !== null) await db.raw(`ALTER TABLE ${table} DROP FOREIGN KEY IF EXISTS ${constraint}`);
      await db.raw(`ALTER TABLE ${table} ADD CONSTRAINT ${name} FOREIGN KEY (${column}, studio_id)
        REFERENCES ${parent} (id, studio_id) ON DELETE ${rule}`);
      if (index !== null) await db.raw(`ALTER TABLE ${table} DROP INDEX IF EXISTS ${index}`);
    }
    for (const table of LIGHT) {
      await db.raw(`ALTER TABLE ${table} DROP FOREIGN KEY IF EXISTS ${table}_studio_id_foreign`);
      await db.raw(`ALTER TABLE ${table} DROP INDEX IF EXISTS ${table}_studio_id_index`);
    }
  },
  async down(db) {
    for (const table of LIGHT) {
      await db.raw(`ALTER TABLE ${table} ADD INDEX IF NOT EXISTS ${table}_studio_id_index (studio_id)`);
      await db.raw(`ALTER TABLE ${table} DROP FOREIGN KEY IF EXISTS ${table}_studio_id_foreign`);
      await db.raw(`ALTER TABLE ${table} ADD CONSTRAINT ${table}_studio_id_foreign FOREIGN KEY (studio_id)
        REFERENCES studios (id) ON DELETE CASCADE`);
    }
    for (const { table, column, parent, rule, before } of REFERENCES) {
      const [constraint, index] = before;
      const name = `${table}_${column}_own`;
      await db.raw(`ALTER TABLE ${table} DROP FOREIGN KEY IF EXISTS ${name}`);
      if (constraint !== null) {
        await db.raw(`ALTER TABLE ${table} DROP FOREIGN KEY IF EXISTS ${constraint}`);
        if (index !== null) await db.raw(`ALTER TABLE ${table} ADD INDEX IF NOT EXISTS ${index} (${column})`);
        await db.raw(`ALTER TABLE ${table} ADD CONSTRAINT ${constraint} FOREIGN KEY (${column})
          REFERENCES ${parent} (id) ON DELETE ${rule === 'CASCADE' ? 'CASCADE' : 'SET NULL'}`);
      }
      await db.raw(`ALTER TABLE ${table} DROP INDEX IF EXISTS ${name}`);
    }
    for (const parent of PARENTS) await db.raw(`ALTER TABLE ${parent} DROP INDEX IF EXISTS ${parent}_own`);
  },
};
