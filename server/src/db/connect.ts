import knex, { type Knex } from 'knex';
import { migrations } from './migrations/index.js';

function nothing(): void {
  // Says nothing.
}

/**
 * Opens a pool on a MariaDB in strict mode, with instants in UTC. What a transaction reads after it waited for a lock is
 * what the other one left behind (read committed).
 * Shape:  the caller destroys it
 * Errors: the driver's, when the database does not answer
 */
export function connect(databaseUrl: string, poolSize = 8): Knex {
  const url = new URL(databaseUrl);
  const socketPath = url.searchParams.get('socket');
  return knex({
    client: 'mysql2',
    connection: {
      ...(socketPath === null ? { host: url.hostname, port: Number(url.port || '3306') } : { socketPath }),
      user: decodeURIComponent(url.username),
      password: decodeURIComponent(url.password),
      database: url.pathname.slice(1),
      charset: 'utf8mb4',
      timezone: 'Z',
      // Calendar days stay text; mysql2 takes a list of types here, which the types of Knex do not know.
      dateStrings: ['DATE'] as unknown as boolean,
      decimalNumbers: true,
    },
    pool: {
      min: 0,
      max: poolSize,
      afterCreate: (
        connection: { query(sql: string, done: (error: unknown) => void): void },
        done: (error: unknown, connection: unknown) => void,
      ) => {
        connection.query(
          `SET SESSION sql_mode = 'STRICT_ALL_TABLES,NO_ZERO_DATE,NO_ZERO_IN_DATE,ERROR_FOR_DIVISION_BY_ZERO,NO_ENGINE_SUBSTITUTION', time_zone = '+00:00',
            tx_isolation = 'READ-COMMITTED'`,
          (error) => {
            done(error, connection);
          },
        );
      },
    },
    // What failed is thrown; a line of its own would carry what was in the statement.
    log: { warn: nothing, error: nothing, deprecate: nothing, debug: nothing },
    migrations: { migrationSource: migrations, tableName: 'migrations' },
  });
}
