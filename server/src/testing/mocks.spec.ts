import { v7 as newId } from 'uuid';
import type { DeskView, ListeningView, MockView, ProblemDetails, UnitsView } from '@vivid-cue/contract';
import { planInputOf } from '@vivid-cue/contract/plan-input';
import { scoreInput, TOLD } from './requests.js';
import {
  Browser,
  expectStatus,
  FreshWorlds,
  rehearsed,
  NOON_MS,
  sendChunk,
  takeInput,
  type World,
} from './world.js';

describe('a mock day', () => {
  const worlds = new FreshWorlds(rehearsed);
  const codeOf = ({ body }: { body: unknown }): string => (body as ProblemDetails).code;
  const view = async (): Promise<MockView> =>
    (await expectStatus(200, worlds.call('readMock', { mockId: worlds.world.mockId }))).body as MockView;

  /** Another listener of the same day. */
  async function anotherListener(name: string): Promise<Browser> {
    const { mockId } = worlds.world;
    const listenerId = newId();
    const made = await expectStatus(201, worlds.call('createListener', { mockId }, { id: listenerId, name }));
    const code = (made.body as MockView).listeners.find(({ id }) => id === listenerId)?.code ?? '';
    const browser = new Browser(worlds.server.app);
    await browser.refresh();
    await expectStatus(200, browser.call('enterListening', {}, { listenerId, code }));
    await browser.refresh();
    return browser;
  }

  const give = (browser: Browser, world: World, change: object): Promise<unknown> =>
    expectStatus(200, browser.call('keepListenerScore', {}, scoreInput(world, change)));

  const passage = async (): Promise<{ reps: { context: string; isClean: boolean; bpm: number }[] }> => {
    const { passageId } = worlds.world;
    return (await expectStatus(200, worlds.call('readPassage', { passageId }))).body as never;
  };

  it('is made of the sheet: its order, its points, its words', async () => {
    const { players, listeners } = await view();
    expect(players.map(({ items }) => items.map(({ title, call }) => [title, call]))).toEqual([
      [['Ferry Lines', 'as-asked']],
    ]);
    const [item] = players[0]?.items ?? [];
    expect(item?.words).toContain('Ferry Lines');
    expect(item?.measures.map(({ number }) => number).slice(0, 3)).toEqual(['1', '2', '3']);
    expect(item?.criteria.reduce((sum, { points }) => sum + points, 0)).toBe(20);
    expect(listeners.map(({ name, code }) => [name, code])).toEqual([['Listener 1', null]]);
  });

  it('sends back to the passages what two listeners tapped, once, and takes it back', async () => {
    const { world } = worlds;
    const { mockId, passageId, studentId } = world;
    await give(world.listener, world, { taps: [9, 20] });
    const second = await anotherListener('Listener 2');
    await give(second, world, { taps: [9, 3] });
    await give(second, world, { taps: [9, 4], points: [5, 5, 5, 5] });
    expect((await view()).scores.length).toBe(2);
    await expectStatus(200, worlds.call('closeMock', { mockId }));
    await expectStatus(200, worlds.call('closeMock', { mockId }));
    // Of 9 to 12 (indexes 8 to 11) measure 10 was tapped by both; one tap alone is none.
    const mocked = (await passage()).reps.filter(({ context }) => context === 'mock');
    expect(mocked.map(({ isClean, bpm }) => [isClean, bpm])).toEqual([[false, 116]]);
    const page = await expectStatus(200, worlds.call('readStudent', { studentId }));
    const sent = page.body as {
      fromStudent: { surprises: { passageId: string; measureIndex: number; text: string }[] };
    };
    const tapped = sent.fromStudent.surprises.filter(({ text }) => text.includes('mock'));
    expect(tapped.map((one) => [one.passageId, one.measureIndex])).toEqual([[passageId, 9]]);
    expect(codeOf(await second.call('keepListenerScore', {}, scoreInput(world)))).toBe('input-invalid');
    await expectStatus(200, worlds.call('reopenMock', { mockId }));
    const after = (await passage()).reps.filter(({ context }) => context === 'mock');
    expect(after).toEqual([]);
    await give(second, world, { taps: [] });
  });

  it('counts a run at the tempo of its take where that was read', async () => {
    const { world } = worlds;
    await expectStatus(204, worlds.call('keepTakeReading', { takeId: world.takeId }, { told: TOLD }));
    await give(world.listener, world, { taps: [] });
    await give(await anotherListener('Listener 2'), world, { taps: [] });
    await expectStatus(200, worlds.call('closeMock', { mockId: world.mockId }));
    const mocked = (await passage()).reps.filter(({ context }) => context === 'mock');
    expect(mocked.map(({ isClean, bpm }) => [isClean, bpm])).toEqual([[true, 96]]);
  });

  it('is ended by nobody’s scores only with a sentence, and one listener sends nothing back', async () => {
    const { world } = worlds;
    const empty = await worlds.call('closeMock', { mockId: world.mockId });
    expect([empty.status, codeOf(empty)]).toEqual([422, 'input-invalid']);
    await give(world.listener, world, { taps: [9] });
    await expectStatus(200, worlds.call('closeMock', { mockId: world.mockId }));
    expect((await passage()).reps.some(({ context }) => context === 'mock')).toBeFalse();
  });

  it('shows a blind listener no name, and opens only the takes given to the day', async () => {
    const { world } = worlds;
    const { listener, takeId, studentId, programPartId, browser, mockId } = world;
    const open = (await expectStatus(200, listener.call('readListening'))).body as ListeningView;
    expect(open.players.map(({ label }) => label)).toEqual(['Ilse Vantongeren']);
    const { players } = await view();
    const change = { date: '2027-04-01', isBlind: true, isRecorded: false };
    const items = players.map(({ id, items: own }) => ({
      id,
      items: own.map(({ drawn: _drawn, measures: _measures, takeId: _take, ...item }) => item),
    }));
    await expectStatus(
      200,
      worlds.call('changeMock', { mockId }, { ...change, players: items }, { 'If-Match': '"1"' }),
    );
    const blind = await expectStatus(200, listener.call('readListening'));
    expect(JSON.stringify(blind.body)).not.toContain('Ilse');
    expect((blind.body as ListeningView).players[0]?.label).toBe('Player 1');
    await expectStatus(200, listener.call('readListenedSound', { takeId }));
    const input = takeInput(programPartId);
    await expectStatus(201, worlds.call('createTake', { studentId }, input));
    await expectStatus(200, sendChunk(browser, { takeId: String(input['id']), n: 0 }));
    await expectStatus(404, listener.call('readListenedSound', { takeId: String(input['id']) }));
  });

  it('lets nobody in by a wrong code or a link that was taken back, and takes no more points than there are', async () => {
    const { world } = worlds;
    const { listenerId, listener, listenerCode } = world;
    const stranger = new Browser(worlds.server.app);
    await stranger.refresh();
    const wrong = await stranger.call('enterListening', {}, { listenerId, code: 'abcd-efgh' });
    expect([wrong.status, codeOf(wrong)]).toEqual([401, 'link-wrong']);
    const over = await listener.call('keepListenerScore', {}, scoreInput(world, { points: [6, 1, 1, 1] }));
    expect((over.body as ProblemDetails).detail).toBe('Tone has at most 5 points; 6 came.');
    await expectStatus(204, worlds.call('revokeListener', { listenerId }));
    const gone = await listener.call('readListening');
    expect([gone.status, codeOf(gone)]).toEqual([401, 'link-gone']);
    const again = await stranger.call('enterListening', {}, { listenerId, code: listenerCode });
    expect(codeOf(again)).toBe('link-gone');
  });

  it('stands in the plan on its day', async () => {
    const desk = (await expectStatus(200, worlds.world.desk.call('readDesk'))).body as DeskView;
    expect(desk.plan.mocks).toEqual(['2027-04-01']);
    expect(planInputOf(desk, NOON_MS).mocks).toEqual([22]);
  });
});

describe('units of practice', () => {
  const worlds = new FreshWorlds();

  it('are kept once and told kind by kind, by the last ten', async () => {
    const { desk, studentId } = worlds.world;
    const unit = { kind: 'interval', level: 2, seed: 7, at: '2027-03-10T10:00:00.000Z', right: 4, of: 5 };
    const first = { id: newId(), ...unit };
    await expectStatus(201, desk.call('createDeskUnit', {}, first));
    await expectStatus(201, desk.call('createDeskUnit', {}, first));
    await expectStatus(201, desk.call('createDeskUnit', {}, { ...unit, id: newId(), right: 2 }));
    const { lines } = (await expectStatus(200, worlds.call('listUnits', { studentId }))).body as UnitsView;
    expect(lines.map(({ kind, level, done, share }) => [kind, level, done, share])).toEqual([
      ['interval', 2, 2, 0.6],
    ]);
  });
});
