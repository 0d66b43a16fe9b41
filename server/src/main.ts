import type { Server } from 'node:http';
import type { Knex } from 'knex';
import pino from 'pino';
import { createApp } from './app.js';
import { readConfig, type Config } from './config.js';
import { connect } from './db/connect.js';
import { checkSettings, migrate } from './db/migrate.js';
import { databaseTrouble } from './db/trouble.js';
import { purgeRemoved } from './jobs/purge.js';
import { rebuildReadiness } from './jobs/rebuild.js';

// A log that cannot be written must not end what it tells of: a full disk is said in answers instead.
const destination = pino.destination({ dest: 1, sync: false, maxLength: 1_000_000 });
destination.on('error', () => undefined);
process.stdout.on('error', () => undefined);
process.stderr.on('error', () => undefined);
const logger = pino({ name: 'vivid-cue' }, destination);

/** The migration that leaves snapshots to be counted anew. */
const RECOUNTED_BY = '18-beliefs';
const DAY_MS = 86_400_000;
/** A database that is not there yet is waited for so long, asked so often. Units: milliseconds */
const PATIENCE_MS = 60_000;
const ASK_MS = 1000;
/** Requests that are still open when the server is to end are waited for so long. Units: milliseconds */
const GRACE_MS = 8000;

async function main(): Promise<void> {
  const config = readConfig(process.env);
  const db = connect(config.databaseUrl);
  await prepared(db);
  await purgeRemoved(db, Date.now());
  const daily = setInterval(() => {
    purgeRemoved(db, Date.now()).catch((error: unknown) => logger.error(named(error), 'purge failed'));
  }, DAY_MS);
  daily.unref();
  serve(config, db);
}

/** The database in the form this program needs; one that is just starting is waited for. */
async function prepared(db: Knex): Promise<void> {
  const sinceMs = Date.now();
  for (;;) {
    try {
      await checkSettings(db);
      const applied = await migrate(db);
      if (applied.length > 0) logger.info({ migrations: applied.length }, 'database prepared');
      if (applied.includes(RECOUNTED_BY)) await rebuildReadiness(db);
      return;
    } catch (error) {
      const isAway = databaseTrouble(error) === 'away' || databaseTrouble(error) === 'busy';
      if (!isAway || Date.now() - sinceMs > PATIENCE_MS) throw error;
      logger.warn(named(error), 'the database does not answer yet');
      await new Promise((done) => setTimeout(done, ASK_MS));
    }
  }
}

function serve(config: Config, db: Knex): void {
  const server = createApp({ db, config, logger, now: () => Date.now() }).listen(config.port, config.host);
  server.once('error', (error: NodeJS.ErrnoException) => {
    fail(
      error.code === 'EADDRINUSE'
        ? `port ${config.port} is in use; choose another with PORT=…`
        : error.message,
    );
  });
  server.once('listening', () => logger.info({ address: `http://${config.host}:${config.port}` }, 'serving'));
  let isEnding = false;
  const stop = (): void => {
    if (isEnding) return;
    isEnding = true;
    void ended(server).then(async () => {
      await db.destroy().catch(() => undefined);
      process.exit(0);
    });
  };
  process.once('SIGINT', stop);
  process.once('SIGTERM', stop);
}

/** Takes no more, lets open requests come to their end, and cuts off who is too slow. */
async function ended(server: Server): Promise<void> {
  const cut = setTimeout(() => server.closeAllConnections(), GRACE_MS);
  await new Promise<void>((done) => {
    server.close(() => done());
    server.closeIdleConnections();
  });
  clearTimeout(cut);
}

/** What is logged of an error: its kind, never its text, which may carry what was sent. */
function named(error: unknown): Readonly<Record<string, unknown>> {
  const { name, code } = error as { name?: unknown; code?: unknown };
  return { kind: String(name), ...(typeof code === 'string' && { code }) };
}

function fail(reason: string): never {
  process.stderr.write(`vivid-cue: the server cannot start: ${reason}\n`);
  process.exit(1);
}

// What nobody waited for is told and ends nothing: everybody else's requests go on.
process.on('unhandledRejection', (error) => logger.error(named(error), 'unhandled rejection'));

main().catch((error: unknown) => fail(error instanceof Error ? error.message : String(error)));
