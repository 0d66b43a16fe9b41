import { v7 as newId } from 'uuid';
import { rebuildReadiness } from '../jobs/rebuild.js';
import { logRep, takeRepBack } from '../passages/reps.js';
import type { RepInput } from '@vivid-cue/contract';
import { repInput, startServer, studioOf, walkPath, type TestServer, type World } from './world.js';

describe('a record with checkpoints', () => {
  let server: TestServer;
  let world: World;

  beforeAll(async () => {
    server = await startServer();
    world = await walkPath(server);
  });
  afterAll(() => server.db.destroy());

  const snapshot = async (): Promise<unknown> => {
    const row = (await server.db('readiness_snapshots').where({ id: world.passageId }).first()) as Record<
      string,
      unknown
    >;
    return { ...row, writes: null };
  };

  it('is what counting from the first rep gives, however late reps come and whichever are taken back', async () => {
    const studio = await studioOf(server, world);
    const beginMs = server.clock.nowMs;
    const nowMs = beginMs + 40 * 86_400_000;
    const ids: string[] = [];
    const play = async (n: number): Promise<void> => {
      const id = newId();
      ids.push(id);
      const at = new Date(beginMs + 60_000 + n * 7_000_000).toISOString();
      const rep = repInput({ id, at, isClean: n % 5 > 0, bpm: 50 + (n % 40) }) as unknown as RepInput;
      await logRep(studio, world.passageId, { rep, nowMs });
    };
    for (let n = 0; n < 330; n += 1) await play(n);
    const [kept] = (await server
      .db('readiness_checkpoints')
      .where({ passage_id: world.passageId })
      .count({ n: '*' })) as {
      n: number;
    }[];
    expect(Number(kept?.n)).toBe(3);
    for (const late of [325.5, 120.5, 0.5, 299.5]) await play(late);
    for (const at of [250, 20, 333]) await takeRepBack(studio, ids[at] ?? '', nowMs);
    for (let n = 330; n < 350; n += 1) await play(n);
    const carried = await snapshot();
    await rebuildReadiness(server.db);
    expect(await snapshot()).toEqual(carried);
    expect((carried as { reps: number }).reps).toBe(1 + 330 + 4 - 3 + 20);
  });
});
