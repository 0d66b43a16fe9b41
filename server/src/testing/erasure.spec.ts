import { v7 as newId } from 'uuid';
import type { StudentRecord } from '@vivid-cue/contract';
import { purgeRemoved } from '../jobs/purge.js';
import {
  accountInput,
  expectStatus,
  startServer,
  studioTables,
  studioOf,
  study,
  walkPath,
  type TestServer,
  type World,
} from './world.js';

const DAY_MS = 86_400_000;

describe('what is erased', () => {
  let server: TestServer;
  let world: World;
  let studioId: string;

  beforeAll(async () => {
    server = await startServer();
  });
  beforeEach(async () => {
    world = await walkPath(server);
    ({ id: studioId } = await studioOf(server, world));
  });
  afterAll(() => server.db.destroy());

  /** How many rows the studio has in each table. */
  async function rows(): Promise<Readonly<Record<string, number>>> {
    const counts = await Promise.all(
      (await studioTables(server)).map(async (name) => {
        const [row] = (await server.db(name).where({ studio_id: studioId }).count({ n: '*' })) as {
          n: number;
        }[];
        return [name, Number(row?.n)] as const;
      }),
    );
    return Object.fromEntries(counts.filter(([, n]) => n > 0).sort());
  }

  it('is all that only the student caused, the score included; what the sheet says stays', async () => {
    expect(Object.keys(await rows())).toContain('scores');
    await expectStatus(204, world.browser.call('eraseStudent', { studentId: world.studentId }));
    expect(Object.keys(await rows())).toEqual([
      'deadlines',
      'sheet_parts',
      'sheet_revisions',
      'sheets',
      'users',
    ]);
  });

  it('is not what another plays from; only the file’s name, which may be a person’s, goes', async () => {
    const { browser } = world;
    const second = newId();
    await expectStatus(
      201,
      browser.call('createStudent', {}, { id: second, name: 'Tam', instrument: 'clarinet' }),
    );
    await expectStatus(
      201,
      browser.call('createProgram', {}, { id: newId(), studentId: second, sheetId: world.sheet.id }),
    );
    await server.db('scores').where({ id: world.scoreId }).update({ file_name: 'Ilse Vantongeren.mxl' });
    await expectStatus(204, browser.call('eraseStudent', { studentId: world.studentId }));
    const [score] = (await server.db('scores').where({ studio_id: studioId }).select('id', 'file_name')) as {
      id: string;
      file_name: string;
    }[];
    expect([score?.id, score?.file_name]).toEqual([world.scoreId, 'score.mxl']);
    await expectStatus(204, browser.call('eraseStudent', { studentId: second }));
    expect(Object.keys(await rows())).not.toContain('scores');
  });

  it('can be had before: the export holds files, links, readiness and what was taken back', async () => {
    await expectStatus(200, world.browser.call('retractRep', { repId: world.repId }));
    const { body } = await expectStatus(
      200,
      world.browser.call('exportStudent', { studentId: world.studentId }),
    );
    const { reps, calendarLinks, passages, scores } = body as StudentRecord;
    expect(reps.map(({ id, isTakenBack }) => [id, isTakenBack])).toEqual([[world.repId, true]]);
    expect(calendarLinks.map(({ id }) => id)).toEqual([world.linkId]);
    expect(passages.map(({ id }) => id)).toEqual([world.passageId]);
    expect(Buffer.from(scores[0]?.file ?? '', 'base64')).toEqual(Buffer.from(study('ferry-lines')));
  });

  it('after 30 days is what was removed: the student with the score, or the studio with everybody', async () => {
    const { browser, studentId } = world;
    await expectStatus(204, browser.call('removeStudent', { studentId }));
    await purgeRemoved(server.db, server.clock.nowMs + 29 * DAY_MS);
    expect(Object.keys(await rows())).toContain('reps');
    await purgeRemoved(server.db, server.clock.nowMs + 31 * DAY_MS);
    expect(Object.keys(await rows())).not.toContain('scores');
    await browser.signInAgain();
    await expectStatus(204, browser.call('removeStudio', {}, { password: accountInput().password }));
    await purgeRemoved(server.db, server.clock.nowMs + 29 * DAY_MS);
    expect(await server.db('studios').where({ id: studioId }).first('id')).toBeDefined();
    await purgeRemoved(server.db, server.clock.nowMs + 31 * DAY_MS);
    expect(await rows()).toEqual({});
    expect(await server.db('studios').where({ id: studioId }).first('id')).toBeUndefined();
  });

  it('is a score that was replaced, once nothing refers to it for 30 days', async () => {
    await expectStatus(200, world.browser.upload(world.programPartId, study('ferry-lines'), newId()));
    const count = async (): Promise<number | undefined> => (await rows())['scores'];
    expect(await count()).toBe(2);
    await purgeRemoved(server.db, server.clock.nowMs + 31 * DAY_MS);
    expect(await count()).toBe(1);
  });
});
