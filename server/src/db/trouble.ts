/** Why the database did not do what was asked, where it is no fault of the statement. */
export type DatabaseTrouble = 'away' | 'full' | 'busy';

const TROUBLES: Readonly<Record<string, DatabaseTrouble>> = {
  ECONNREFUSED: 'away',
  ECONNRESET: 'away',
  EPIPE: 'away',
  ENOENT: 'away',
  ETIMEDOUT: 'away',
  EHOSTUNREACH: 'away',
  PROTOCOL_CONNECTION_LOST: 'away',
  PROTOCOL_SEQUENCE_TIMEOUT: 'away',
  PROTOCOL_ENQUEUE_AFTER_FATAL_ERROR: 'away',
  ER_SERVER_SHUTDOWN: 'away',
  ER_NORMAL_SHUTDOWN: 'away',
  ER_CONNECTION_KILLED: 'away',
  ER_QUERY_INTERRUPTED: 'away',
  ER_UNKNOWN_COM_ERROR: 'away',
  ER_DISK_FULL: 'full',
  ER_RECORD_FILE_FULL: 'full',
  ER_ERROR_ON_WRITE: 'full',
  ER_CANT_CREATE_FILE: 'full',
  ER_INNODB_READ_ONLY: 'full',
  ER_CON_COUNT_ERROR: 'busy',
  ER_LOCK_WAIT_TIMEOUT: 'busy',
  ER_LOCK_DEADLOCK: 'busy',
};

/** What an error says of the database; null where it says nothing of it. Source: MariaDB error codes, Node.js system errors */
export function databaseTrouble(error: unknown): DatabaseTrouble | null {
  const { code, name, message } = error as { code?: unknown; name?: unknown; message?: unknown };
  const known = typeof code === 'string' ? TROUBLES[code] : undefined;
  if (known) return known;
  // The pool gave no connection in time, or lost the one it gave.
  if (name === 'KnexTimeoutError') return 'busy';
  return typeof message === 'string' && /connection is in closed state|Connection lost/iu.test(message)
    ? 'away'
    : null;
}
