import { v7 as newId } from 'uuid';
import type {
  PassagePageView,
  PassageView,
  ProblemDetails,
  ScoreRoomView,
  SeasonView,
  StudentPageView,
} from '@vivid-cue/contract';
import {
  Browser,
  expectStatus,
  NOON_MS,
  repInput,
  sheetInput,
  startServer,
  study,
  walkPath,
  type TestServer,
} from './world.js';

describe('passages and programs', () => {
  let server: TestServer;

  beforeAll(async () => {
    server = await startServer();
  });
  beforeEach(() => {
    server.clock.nowMs = NOON_MS;
  });
  afterAll(() => server.db.destroy());

  const change = {
    name: 'middle',
    from: '9',
    to: '12',
    target: null,
    step: { kind: 'percent', size: 4 },
    rule: 'three-in-a-row',
  };

  it('count the record anew from all reps when target, ladder or rule change', async () => {
    const { browser, passageId } = await walkPath(server);
    for (const n of [1, 2, 3])
      await expectStatus(
        201,
        browser.call(
          'createRep',
          { passageId },
          repInput({ at: new Date(NOON_MS + n * 1000).toISOString() }),
        ),
      );
    const wish = {
      ...change,
      target: { bpm: 96, beatUnit: 'quarter' },
      step: { kind: 'dial', size: null },
      rule: 'five-in-a-row',
    };
    const changed = (
      await expectStatus(200, browser.call('changePassage', { passageId }, wish, { 'If-Match': '"1"' }))
    ).body as PassageView;
    expect([changed.hasOwnTarget, changed.target.bpm, changed.version]).toEqual([true, 96, 2]);
    // Half of 96, then the dial's own numbers: 48, 50, 52, …; ♩=58 is its fifth step above, four clean there.
    expect(changed.rungs.slice(0, 7).map(({ bpm }) => bpm)).toEqual([48, 50, 52, 54, 56, 58, 60]);
    expect([changed.place.rungIndex, changed.place.streak, changed.place.needed]).toEqual([5, 4, 5]);
    expect(changed.readiness.reps).toBe(4);
    const back = (
      await expectStatus(200, browser.call('changePassage', { passageId }, change, { 'If-Match': '"2"' }))
    ).body as PassageView;
    expect([back.hasOwnTarget, back.target.bpm, back.place.rungIndex]).toEqual([false, 116, 0]);
    // A slower target is nearer: the same reps say more of 96 than of 116.
    expect(changed.readiness.chance ?? 0).toBeGreaterThan(back.readiness.chance ?? 1);
  });

  it('sink with the days, without anything having to run', async () => {
    const { browser, passageId } = await walkPath(server);
    const chance = async (): Promise<number> =>
      ((await browser.call('readPassage', { passageId })).body as PassagePageView).passage.readiness.chance ??
      -1;
    const today = await chance();
    server.clock.nowMs = NOON_MS + 30 * 86_400_000;
    await browser.signInAgain();
    expect(await chance()).toBeLessThan(today);
  });

  it('take their reps in another unit for what they are', async () => {
    const { browser, passageId } = await walkPath(server);
    const page = (await browser.call('readPassage', { passageId })).body as PassagePageView;
    const other = await walkPath(server);
    await expectStatus(200, other.browser.call('retractRep', { repId: other.repId }));
    await expectStatus(
      201,
      other.browser.call(
        'createRep',
        { passageId: other.passageId },
        repInput({ bpm: 116, beatUnit: 'eighth' }),
      ),
    );
    const same = (await other.browser.call('readPassage', { passageId: other.passageId }))
      .body as PassagePageView;
    expect(same.passage.record).toEqual(page.passage.record);
    expect(same.passage.ladder).toEqual(page.passage.ladder);
  });

  it('follow the part’s target when it is set for the student', async () => {
    const { browser, programPartId, passageId } = await walkPath(server);
    const room = (
      await expectStatus(200, browser.call('changeTarget', { programPartId }, { bpm: 58, beatUnit: 'half' }))
    ).body as ScoreRoomView;
    expect(room.target).toEqual({ bpm: 58, beatUnit: 'half' });
    expect(room.passages.find(({ id }) => id === passageId)?.target).toEqual({ bpm: 58, beatUnit: 'half' });
  });

  it('need a score and a target first, and say which is missing', async () => {
    const browser = await new Browser(server.app).openStudio();
    const studentId = newId();
    const none = { beatUnit: null, bpmMin: null, bpmMax: null, bound: 'words', words: 'Allegro' } as const;
    const sheet = sheetInput();
    const parts = sheet.parts.map((part) => ({ ...part, measures: [], tempo: none }));
    await expectStatus(
      201,
      browser.call('createStudent', {}, { id: studentId, name: 'Signe Amundarain', instrument: 'clarinet' }),
    );
    await expectStatus(201, browser.call('createSheet', {}, { ...sheet, parts }));
    await expectStatus(201, browser.call('createProgram', {}, { id: newId(), studentId, sheetId: sheet.id }));
    const programPartId =
      ((await browser.call('readStudent', { studentId })).body as StudentPageView).programs[0]?.parts[0]
        ?.id ?? '';
    const passage = { id: newId(), name: '', from: '1', to: '4', target: null };
    const code = async (): Promise<string> =>
      ((await browser.call('createPassage', { programPartId }, passage)).body as ProblemDetails).code;
    expect(await code()).toBe('score-missing');
    await expectStatus(200, browser.upload(programPartId, study('ferry-lines')));
    expect(await code()).toBe('target-missing');
    await expectStatus(
      200,
      browser.call('changeTarget', { programPartId }, { bpm: 100, beatUnit: 'quarter' }),
    );
    expect((await browser.call('createPassage', { programPartId }, passage)).status).toBe(201);
  });

  it('say plainly that the score does not hold what the sheet asks', async () => {
    const { browser, programPartId } = await walkPath(server);
    // Harbor Bell has 24 measures; the sheet asks 1–28, and the passage 9–12 is in both.
    const room = (await expectStatus(200, browser.upload(programPartId, study('harbor-bell'))))
      .body as ScoreRoomView;
    expect(room.runs).toEqual([]);
    expect(room.spanIssue).toContain(
      'The sheet asks for 1–28. This piece has measures 1 to 24; 28 is not one of them.',
    );
    expect(room.passages.length).toBe(1);
  });

  it('come back with their program, and the season shows the program whose date is next', async () => {
    const { browser, programId, studentId } = await walkPath(server);
    const later = sheetInput({
      body: 'Northwater Youth Philharmonic',
      deadlines: [
        { id: newId(), kind: 'audition', date: '2027-06-01', time: null, zone: 'Pacific/Auckland' },
      ],
    });
    await expectStatus(201, browser.call('createSheet', {}, later));
    await expectStatus(201, browser.call('createProgram', {}, { id: newId(), studentId, sheetId: later.id }));
    const shown = async (): Promise<unknown> => {
      const [row] = ((await browser.call('readSeason')).body as SeasonView).rows;
      return [row?.program?.sheetTitle, row?.morePrograms];
    };
    expect(await shown()).toEqual(['Archipelago All-Region Winds, Senior 2027', 1]);
    await expectStatus(204, browser.call('removeProgram', { programId }));
    expect(await shown()).toEqual(['Northwater Youth Philharmonic, Senior 2027', 0]);
    await expectStatus(204, browser.call('restoreProgram', { programId }));
    expect(await shown()).toEqual(['Archipelago All-Region Winds, Senior 2027', 1]);
    // On the day after the audition the next date is the other program's.
    server.clock.nowMs = Date.UTC(2027, 3, 11, 12);
    await browser.signInAgain();
    expect(await shown()).toEqual(['Northwater Youth Philharmonic, Senior 2027', 1]);
  });
});
