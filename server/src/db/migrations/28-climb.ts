import type { Knex } from 'knex';

/**
 * How a passage climbs, by whom its reps were heard, and how rosy a student's reports are. What was logged before was
 * logged by the instructor, and what was cut before stays on its rung after slips, so that every number stays.
 */
export const climb: Knex.Migration = {
  async up(db) {
    await db.raw(`ALTER TABLE passages
      ADD COLUMN IF NOT EXISTS climb_school VARCHAR(8) NULL,
      ADD COLUMN IF NOT EXISTS slip_rule VARCHAR(8) NOT NULL DEFAULT 'stay'`);
    await db.raw('ALTER TABLE readiness_snapshots ADD COLUMN IF NOT EXISTS slips INT UNSIGNED NULL');
    await db.raw(`ALTER TABLE reps
      ADD COLUMN IF NOT EXISTS witness VARCHAR(10) NOT NULL DEFAULT 'instructor',
      ADD COLUMN IF NOT EXISTS optimism DOUBLE NOT NULL DEFAULT 0`);
    await db.raw(`ALTER TABLE students
      ADD COLUMN IF NOT EXISTS schools TEXT NOT NULL DEFAULT '{}',
      ADD COLUMN IF NOT EXISTS reports TEXT NULL`);
  },
  async down(db) {
    await db.raw(
      'ALTER TABLE students DROP COLUMN IF EXISTS reports, DROP COLUMN IF EXISTS schools, ALGORITHM=COPY',
    );
    await db.raw(
      'ALTER TABLE reps DROP COLUMN IF EXISTS optimism, DROP COLUMN IF EXISTS witness, ALGORITHM=COPY',
    );
    await db.raw('ALTER TABLE readiness_snapshots DROP COLUMN IF EXISTS slips, ALGORITHM=COPY');
    await db.raw(
      'ALTER TABLE passages DROP COLUMN IF EXISTS slip_rule, DROP COLUMN IF EXISTS climb_school, ALGORITHM=COPY',
    );
  },
};
