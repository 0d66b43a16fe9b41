import { ExternalError } from '@vivid-cue/core/base';
import type { Knex } from 'knex';
import { RUNNING } from './migrations/index.js';

/** One server prepares the database while the others wait so long. Units: seconds */
const WAIT_SECONDS = 120;

/**
 * Brings the database to the form that this program needs; of several servers that start at once one does it.
 * Shape:  the names of the migrations that ran
 * Errors: ExternalError when another server does not come to an end with it; the driver's
 */
export async function migrate(db: Knex): Promise<readonly string[]> {
  const connection: unknown = await db.client.acquireConnection();
  try {
    // A lock that its holder's death releases: the one of the migrations' own table would stay.
    const lock = await scalar(
      db,
      connection,
      `SELECT GET_LOCK(CONCAT(DATABASE(), '.migrations'), ${WAIT_SECONDS})`,
    );
    if (lock !== 1)
      throw new ExternalError(
        'Another server is preparing the database and does not come to an end; stop it and start again.',
      );
    await db.migrate.forceFreeMigrationsLock();
    const [, applied] = (await db.migrate.latest()) as [number, readonly string[]];
    if (applied.length > 0) await db(RUNNING).delete();
    await scalar(db, connection, "SELECT RELEASE_LOCK(CONCAT(DATABASE(), '.migrations'))");
    return applied;
  } finally {
    await db.client.releaseConnection(connection);
  }
}

async function scalar(db: Knex, connection: unknown, sql: string): Promise<unknown> {
  const [rows] = (await db.raw(sql).connection(connection)) as [Record<string, unknown>[]];
  return Object.values(rows[0] ?? {})[0];
}
