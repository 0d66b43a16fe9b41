import { v7 as newId } from 'uuid';
import { expectStatus, FreshWorlds, NOON_MS, repInput } from './world.js';

describe('reps that come together', () => {
  const fresh = new FreshWorlds();

  const at = (seconds: number): string => new Date(NOON_MS + seconds * 1000).toISOString();
  type Rep = Readonly<Record<string, unknown>>;
  const reps = (count: number): Rep[] =>
    Array.from({ length: count }, (_, n) =>
      repInput({ id: newId(), at: at(n + 1), isClean: n % 3 > 0, bpm: 60 + n }),
    );
  const passage = async (name: string): Promise<string> => {
    const id = newId();
    const { programPartId } = fresh.world;
    const input = { id, name, from: '1', to: '4', target: null };
    await expectStatus(201, fresh.call('createPassage', { programPartId }, input));
    return id;
  };
  const send = (passageId: string, list: readonly Rep[]) =>
    fresh.call('createReps', { passageId }, { reps: list });
  const stored = async (passageId: string): Promise<number> =>
    (await fresh.server.db('reps').where({ passage_id: passageId })).length;
  /** Everything that is reckoned of a passage. */
  const reckoned = (view: unknown): object => ({
    ...(view as object),
    id: '',
    name: '',
    // How often it was written, which one request does once.
    writes: 0,
  });

  beforeEach(() => {
    fresh.server.clock.nowMs = NOON_MS + 3_600_000;
  });

  it('count as they do one by one, in their order or late', async () => {
    const [one, other] = [await passage('one'), await passage('other')];
    const list = reps(7);
    let last: unknown = null;
    for (const rep of list)
      last = (await expectStatus(201, fresh.call('createRep', { passageId: one }, rep))).body;
    const copies = list.map((rep) => ({ ...rep, id: newId() }));
    await expectStatus(201, send(other, copies.slice(2)));
    // The first two come late, and the whole counts anew.
    const together = await expectStatus(201, send(other, copies.slice(0, 2)));
    expect(reckoned(together.body)).toEqual(reckoned(last));
  });

  it('are there once, however often and however many at once they are sent', async () => {
    const id = await passage('once');
    const list = reps(5);
    const answers = await Promise.all([send(id, list), send(id, list), send(id, list.slice(1))]);
    expect(answers.map(({ status }) => status)).toEqual([201, 201, 201]);
    expect(await stored(id)).toBe(5);
  });

  it('are taken all or none: one of a day to come, or known elsewhere, refuses them all', async () => {
    const [id, other] = [await passage('all'), await passage('none')];
    const list = reps(4);
    const ahead = { ...repInput({ id: newId() }), at: new Date(NOON_MS + 9 * 86_400_000).toISOString() };
    await expectStatus(422, send(id, [...list, ahead]));
    const elsewhere = repInput({ id: newId(), at: at(30) });
    await expectStatus(201, fresh.call('createRep', { passageId: other }, elsewhere));
    await expectStatus(409, send(id, [...list, elsewhere]));
    expect(await stored(id)).toBe(0);
    await expectStatus(422, send(id, []));
    await expectStatus(
      422,
      send(
        id,
        Array.from({ length: 51 }, () => repInput({ id: newId() })),
      ),
    );
  });
});
