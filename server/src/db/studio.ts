import type { Knex } from 'knex';

/**
 * A door to one studio's rows: every repository function takes it first, so that no query can leave the studio.
 * Shape:  `db` is the pool or a transaction
 * Source: docs/architecture.md
 */
export interface Studio {
  readonly db: Knex;
  readonly id: string;
}

/**
 * The rows of one table that belong to the studio; the table may be aliased ("passages as p").
 * Shape:  a query builder, narrowed to the studio
 */
export function rowsOf<Row extends object>(studio: Studio, table: string): Knex.QueryBuilder<Row, Row[]> {
  const alias = /\sas\s(\w+)$/u.exec(table)?.[1] ?? table;
  return studio.db(table).where({ [`${alias}.studio_id`]: studio.id }) as unknown as Knex.QueryBuilder<
    Row,
    Row[]
  >;
}

/**
 * Runs writes that belong together as one transaction, still inside the studio. Lock what is to be changed before
 * reading what it depends on.
 * Shape:  the work's own result
 * Errors: whatever the work throws, after rolling back; work may run several times, so it only writes to the database
 */
export async function together<T>(studio: Studio, work: (inside: Studio) => Promise<T>): Promise<T> {
  for (let tries = 1; ; tries += 1) {
    try {
      return await studio.db.transaction((trx) => work({ db: trx, id: studio.id }));
    } catch (error) {
      // Of two that wait for each other the database ends one: nothing of it was done, so it is done again.
      const isEnded = (error as { code?: string }).code === 'ER_LOCK_DEADLOCK';
      if (!isEnded || tries === DEADLOCK_TRIES || studio.db.isTransaction === true) throw error;
    }
  }
}

/** So often work that the database ended is begun. */
const DEADLOCK_TRIES = 5;

/**
 * Inserts a row of the studio; a repeated request with the same identifier changes nothing.
 * Shape:  true when the row is new
 * Errors: the driver's, for anything but a repeated key
 */
export async function insertOnce(
  studio: Studio,
  table: string,
  row: Readonly<Record<string, unknown>>,
): Promise<boolean> {
  try {
    await studio.db(table).insert({ ...row, studio_id: studio.id });
    return true;
  } catch (error) {
    if ((error as { code?: string }).code === 'ER_DUP_ENTRY') return false;
    throw error;
  }
}
