import type { Knex } from 'knex';

/**
 * A passage knows whether the target it follows is a sheet's own number, so that a rep need not ask every program. Empty
 * until the target is looked at again.
 */
export const askedTargets: Knex.Migration = {
  async up(db) {
    await db.raw('ALTER TABLE passages ADD COLUMN IF NOT EXISTS is_asked TINYINT(1) NULL');
  },
  async down(db) {
    await db.raw('ALTER TABLE passages DROP COLUMN IF EXISTS is_asked');
  },
};
