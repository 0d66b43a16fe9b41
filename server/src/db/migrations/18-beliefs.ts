import type { Knex } from 'knex';

/**
 * A snapshot holds the belief over skill and steepness together (twelve floats), how many reps were joined or in runs,
 * and what of the ladder was met. Old snapshots go: the server counts them anew from the reps at its start.
 */
export const beliefs: Knex.Migration = {
  async up(db) {
    await db('readiness_snapshots').delete();
    await db.raw(`ALTER TABLE readiness_snapshots DROP COLUMN mean, DROP COLUMN sd,
      ADD COLUMN belief BINARY(96) NOT NULL AFTER studio_id,
      ADD COLUMN joined_reps INT UNSIGNED NOT NULL AFTER reps, ADD COLUMN run_reps INT UNSIGNED NOT NULL AFTER joined_reps,
      ADD COLUMN streak_bpm DOUBLE NULL AFTER streak_days, ADD COLUMN top_rung INT NOT NULL AFTER rung_day,
      ADD COLUMN is_first_sight TINYINT(1) NOT NULL AFTER top_rung, ADD COLUMN clean_bpm DOUBLE NULL AFTER is_first_sight,
      ADD COLUMN writes INT UNSIGNED NOT NULL DEFAULT 1`);
    // Steps below one beat a minute made rungs that nobody hears apart.
    await db('passages')
      .where((query) =>
        query
          .where({ step_kind: 'percent' })
          .whereRaw('target_bpm * step_size < 100')
          .orWhere((bpm) => bpm.where({ step_kind: 'bpm' }).where('step_size', '<', 1)),
      )
      .update({ step_kind: 'usual', step_size: null });
  },
  async down(db) {
    await db('readiness_snapshots').delete();
    if (!(await db.schema.hasColumn('readiness_snapshots', 'belief'))) return;
    await db('passages').where({ step_kind: 'usual' }).update({ step_kind: 'percent', step_size: 4 });
    await db.raw(`ALTER TABLE readiness_snapshots ADD COLUMN mean DOUBLE NOT NULL, ADD COLUMN sd DOUBLE NOT NULL,
      DROP COLUMN belief, DROP COLUMN joined_reps, DROP COLUMN run_reps, DROP COLUMN streak_bpm, DROP COLUMN top_rung,
      DROP COLUMN is_first_sight, DROP COLUMN clean_bpm, DROP COLUMN writes`);
  },
};
