import pino from 'pino';
import { createApp } from './app.js';
import { readConfig } from './config.js';
import { connect } from './db/connect.js';
import { migrate } from './db/migrate.js';
import { purgeRemoved } from './jobs/purge.js';
import { rebuildReadiness } from './jobs/rebuild.js';

const logger = pino({ name: 'vivid-cue' });

/** The migration that leaves snapshots to be counted anew. */
const RECOUNTED_BY = '18-beliefs';

async function main(): Promise<void> {
  const config = readConfig(process.env);
  const db = connect(config.databaseUrl);
  const applied = await migrate(db);
  if (applied.includes(RECOUNTED_BY)) await rebuildReadiness(db);
  await purgeRemoved(db, Date.now());
  const daily = setInterval(
    () => void purgeRemoved(db, Date.now()).catch(() => logger.error('purge failed')),
    86_400_000,
  );
  daily.unref();
  const server = createApp({ db, config, logger, now: () => Date.now() }).listen(config.port, config.host);
  server.once('error', (error: NodeJS.ErrnoException) => {
    const reason =
      error.code === 'EADDRINUSE'
        ? `port ${config.port} is in use; choose another with PORT=…`
        : error.message;
    process.stderr.write(`vivid-cue: the server cannot start: ${reason}\n`);
    process.exit(1);
  });
  server.once('listening', () => logger.info({ address: `http://${config.host}:${config.port}` }, 'serving'));
  const stop = (): void => {
    server.close(() => void db.destroy().then(() => process.exit(0)));
    server.closeIdleConnections();
  };
  process.once('SIGINT', stop);
  process.once('SIGTERM', stop);
}

main().catch((error: unknown) => {
  process.stderr.write(
    `vivid-cue: the server cannot start: ${error instanceof Error ? error.message : String(error)}\n`,
  );
  process.exit(1);
});
