import type { Knex } from 'knex';
import { connect } from '../db/connect.js';
import { migrate } from '../db/migrate.js';
import { expectStatus, run, sheetInput, startServer, walkPath, type TestServer } from './world.js';

/** How many of the newest migrations are interrupted; the others are as they were when those ran. */
const NEWEST = 12;

type Query = (this: unknown, connection: unknown, wish: { readonly sql?: string }) => Promise<unknown>;

describe('a server that is killed while it prepares the database', () => {
  let server: TestServer;

  beforeAll(async () => {
    server = await startServer();
  });
  afterAll(async () => {
    await migrate(server.db);
    await server.db.destroy();
  });

  async function form(db: Knex): Promise<string> {
    const [tables] = (await db.raw('SHOW TABLES')) as [Record<string, string>[]];
    const texts: string[] = [];
    for (const name of tables.map((row) => Object.values(row)[0] ?? '').sort()) {
      if (name.startsWith('migration')) continue;
      const [[row]] = (await db.raw(`SHOW CREATE TABLE \`${name}\``)) as [Record<string, string>[]];
      // Keys may stand in any order, and the next number of a table is no part of its form.
      texts.push(
        (row?.['Create Table'] ?? '')
          .replace(/ AUTO_INCREMENT=\d+/u, '')
          .split(/,?\n/u)
          .sort()
          .join('\n'),
      );
    }
    return texts.join('\n\n');
  }

  /** Runs the migrations until so many of their statements went through, then breaks off as a kill would. */
  async function interrupt(statements: number): Promise<boolean> {
    const db = connect(process.env['DATABASE_URL'] ?? '');
    let left = statements;
    // Transactions have clients of their own: what all of them run through is the prototype.
    const prototype = Object.getPrototypeOf(db.client) as { _query: Query };
    const query = prototype._query;
    prototype._query = function counted(connection, wish) {
      if (/^\s*(?:ALTER|CREATE TABLE `|UPDATE|INSERT|DELETE)/iu.test(wish.sql ?? '') && (left -= 1) < 0)
        return Promise.reject(new Error('killed'));
      return query.call(this, connection, wish);
    };
    try {
      await migrate(db);
      return false;
    } catch (error) {
      if (!(error as Error).message.includes('killed')) throw error;
      prototype._query = query;
      // Who is killed gives no lock back.
      await server.db('migrations_lock').update({ is_locked: 1 });
      return true;
    } finally {
      prototype._query = query;
      await db.destroy();
    }
  }

  async function back(): Promise<void> {
    for (let n = 0; n < NEWEST; n += 1) await server.db.migrate.down();
  }

  it('starts again from wherever it was, in the form it would have had, with all that was there', async () => {
    const { browser } = await walkPath(server);
    const sheet = sheetInput();
    const [etude] = sheet.parts;
    if (etude) sheet.parts = [{ ...etude, measures: [run(29, 'end'), run(1, '22A')] }];
    await expectStatus(201, browser.call('createSheet', {}, sheet));
    const before = await expectStatus(200, browser.call('readSheet', { sheetId: sheet.id }));
    const expected = await form(server.db);
    for (const statements of [1, 3, 5, 8, 13, 21]) {
      await back();
      expect(await interrupt(statements))
        .withContext(`${statements} statements`)
        .toBeTrue();
      await migrate(server.db);
      expect(await form(server.db))
        .withContext(`after ${statements} statements`)
        .toBe(expected);
    }
    // Sessions of before the last migration are gone.
    await browser.signInAgain();
    const after = await expectStatus(200, browser.call('readSheet', { sheetId: sheet.id }));
    expect(after.body).toEqual(before.body);
  });

  it('lets one of several that start at once do it', async () => {
    await back();
    const others = [1, 2, 3].map(() => connect(process.env['DATABASE_URL'] ?? ''));
    const applied = await Promise.all(others.map((db) => migrate(db)));
    expect(applied.map(({ length }) => length).sort()).toEqual([0, 0, NEWEST]);
    await Promise.all(others.map((db) => db.destroy()));
  });
});
