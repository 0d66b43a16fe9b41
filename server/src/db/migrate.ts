import { ExternalError } from '@vivid-cue/core/base';
import { SCORE_LIMITS } from '@vivid-cue/core/score';
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
  let isHeld = false;
  try {
    // A lock that its holder's death releases: the one of the migrations' own table would stay.
    const lock = await scalar(
      db,
      connection,
      `SELECT GET_LOCK(CONCAT(DATABASE(), '.migrations'), ${WAIT_SECONDS})`,
    );
    isHeld = lock === 1;
    if (!isHeld)
      throw new ExternalError(
        'Another server is preparing the database and does not come to an end; stop it and start again.',
      );
    await db.migrate.forceFreeMigrationsLock();
    const [, applied] = (await db.migrate.latest()) as [number, readonly string[]];
    if (applied.length > 0) await db(RUNNING).delete();
    return applied;
  } finally {
    // The connection goes back to the pool, and whoever tries again may get another one.
    if (isHeld)
      await scalar(db, connection, "SELECT RELEASE_LOCK(CONCAT(DATABASE(), '.migrations'))").catch(
        () => null,
      );
    await db.client.releaseConnection(connection);
  }
}

/** Room that a statement with the largest file needs, which goes over the wire as twice as many digits. */
const PACKET_BYTES = 2 * SCORE_LIMITS.fileBytes + 1_000_000;

/**
 * Looks whether the database takes what this program sends.
 * Errors: ExternalError naming the setting that is too small
 */
export async function checkSettings(db: Knex): Promise<void> {
  const [[row]] = (await db.raw('SELECT @@max_allowed_packet AS bytes')) as [{ readonly bytes: number }[]];
  if (Number(row?.bytes) < PACKET_BYTES)
    throw new ExternalError(
      `The database takes statements of at most ${row?.bytes} bytes, and a score needs up to ${PACKET_BYTES}; set max_allowed_packet=64M in its configuration and start it again.`,
    );
}

async function scalar(db: Knex, connection: unknown, sql: string): Promise<unknown> {
  const [rows] = (await db.raw(sql).connection(connection)) as [Record<string, unknown>[]];
  return Object.values(rows[0] ?? {})[0];
}
