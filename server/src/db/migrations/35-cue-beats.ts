import type { Knex } from 'knex';

/** Cues at a beat of their measure, where no note is known or meant. */
export const cueBeats: Knex.Migration = {
  async up(db) {
    await db.raw('ALTER TABLE cues ADD COLUMN IF NOT EXISTS beat DECIMAL(4,2) NULL');
  },
  async down(db) {
    await db.raw('ALTER TABLE cues DROP COLUMN IF EXISTS beat, ALGORITHM=COPY');
  },
};
