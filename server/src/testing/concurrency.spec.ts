import fc from 'fast-check';
import { v7 as newId } from 'uuid';
import type { PassagePageView, PassageView, ProgramPageView } from '@vivid-cue/contract';
import { rebuildReadiness } from '../jobs/rebuild.js';
import {
  Browser,
  expectStatus,
  FreshWorlds,
  NOON_MS,
  repInput,
  sheetInput,
  startServer,
  type TestServer,
} from './world.js';

describe('writers at one passage', () => {
  const worlds = new FreshWorlds();

  const { call } = worlds;
  const passage = async (): Promise<PassageView> =>
    ((await call('readPassage', { passageId: worlds.world.passageId })).body as PassagePageView).passage;

  /** What a writer wants; all of one case run at the same time. */
  type Wish =
    | { readonly kind: 'rep'; readonly isClean: boolean }
    | { readonly kind: 'back' | 'target'; readonly bpm: number };
  const wishes = fc.array(
    fc.oneof(
      fc.record({ kind: fc.constant('rep' as const), isClean: fc.boolean() }),
      fc.record({
        kind: fc.constantFrom('back' as const, 'target' as const),
        bpm: fc.integer({ min: 80, max: 140 }),
      }),
    ),
    { minLength: 3, maxLength: 9 },
  );

  async function act(wish: Wish, n: number): Promise<void> {
    const { passageId, programPartId } = worlds.world;
    const at = new Date(NOON_MS + (n + 1) * 1000).toISOString();
    if (wish.kind === 'rep')
      await expectStatus(201, call('createRep', { passageId }, repInput({ at, isClean: wish.isClean })));
    else if (wish.kind === 'target')
      await expectStatus(
        200,
        call('changeTarget', { programPartId }, { bpm: wish.bpm, beatUnit: 'quarter' }),
      );
    else {
      const id = newId();
      await expectStatus(201, call('createRep', { passageId }, repInput({ id, at })));
      await expectStatus(200, call('retractRep', { repId: id }));
    }
  }

  it('lose nothing: the snapshot is what a count from all reps gives, however they interleave', async () => {
    const holds = fc.asyncProperty(wishes, async (list) => {
      worlds.server.clock.nowMs = NOON_MS + 60_000;
      await Promise.all(list.map((wish, n) => act(wish, n)));
      const { record, ladder } = await passage();
      await rebuildReadiness(worlds.server.db);
      const again = await passage();
      return (
        JSON.stringify([again.record, again.ladder]) === JSON.stringify([record, ladder]) &&
        record.reps === (await standing())
      );
    });
    // Each case goes on with the passage of the one before: more reps, more to lose.
    await expectAsync(fc.assert(holds, { numRuns: 12, endOnFailure: true })).toBeResolved();
  });

  async function standing(): Promise<number> {
    const [row] = (await worlds.server
      .db('reps as x')
      .leftJoin('rep_retractions as t', 't.rep_id', 'x.id')
      .where('x.passage_id', worlds.world.passageId)
      .whereNull('t.id')
      .count({ n: '*' })) as { n: number }[];
    return Number(row?.n);
  }

  it('follow what is asked: a part left out, a program or sheet removed, and all of it taken back', async () => {
    const parts = worlds.world.sheet.parts.map((part) => ({
      ...part,
      id: newId(),
      tempo: { ...part.tempo, bpmMin: 132, bpmMax: 132 },
    }));
    const faster = sheetInput({ body: 'Northwater Youth Philharmonic', parts });
    await expectStatus(201, call('createSheet', {}, faster));
    const programId = newId();
    const target = async (): Promise<number> => (await passage()).target.bpm;
    await expectStatus(
      201,
      call('createProgram', {}, { id: programId, studentId: worlds.world.studentId, sheetId: faster.id }),
    );
    const page = (await call('readProgram', { programId })).body as ProgramPageView;
    const [part] = page.parts;
    const choose = (change: object): ReturnType<Browser['call']> =>
      call(
        'changePartChoice',
        { programPartId: part?.id ?? '' },
        { ...part?.choice, scoreId: null, ...change },
      );
    await expectStatus(200, choose({}));
    expect(await target())
      .withContext('the faster of two programs')
      .toBe(132);
    await expectStatus(200, choose({ isTaken: false }));
    expect(await target())
      .withContext('the part is left out')
      .toBe(116);
    await expectStatus(200, choose({ isTaken: true }));
    expect(await target()).toBe(132);
    await expectStatus(204, call('removeProgram', { programId }));
    expect(await target())
      .withContext('the program is removed')
      .toBe(116);
    await expectStatus(204, call('restoreProgram', { programId }));
    expect(await target()).toBe(132);
    await expectStatus(200, call('removeSheet', { sheetId: faster.id }));
    expect(await target())
      .withContext('the sheet is removed')
      .toBe(116);
    await expectStatus(204, call('restoreSheet', { sheetId: faster.id }));
    expect(await target()).toBe(132);
    await expectStatus(204, call('removeProgram', { programId }));
    await expectStatus(204, call('removeProgram', { programId: worlds.world.programId }));
    expect([await target(), (await passage()).isAsked])
      .withContext('nobody asks any more: the tempo stays, as nobody’s')
      .toEqual([116, false]);
  });

  it('come back to the sheet’s number with the policy to keep it', async () => {
    const { programPartId, programId } = worlds.world;
    await expectStatus(200, call('changeTarget', { programPartId }, { bpm: 100, beatUnit: 'quarter' }));
    expect([(await passage()).target.bpm, (await passage()).isAsked]).toEqual([100, false]);
    const page = (await call('readProgram', { programId })).body as ProgramPageView;
    const choice = { ...page.parts[0]?.choice, policy: 'keep', scoreId: null };
    await expectStatus(200, call('changePartChoice', { programPartId }, choice));
    expect([(await passage()).target.bpm, (await passage()).isAsked]).toEqual([116, true]);
  });

  it('refuse a ladder step that nobody hears with a sentence, not with a fault', async () => {
    const change = {
      name: 'slow',
      from: '9',
      to: '12',
      target: { bpm: 20, beatUnit: 'quarter' },
      step: { kind: 'percent', size: 4 },
      rule: 'three-in-a-row',
    };
    const refused = await call('changePassage', { passageId: worlds.world.passageId }, change, {
      'If-Match': '"1"',
    });
    expect([refused.status, (refused.body as { detail: string }).detail]).toEqual([
      422,
      jasmine.stringContaining('at least 1 beat a minute apart; this step is 0.8'),
    ]);
    const usual = await call(
      'changePassage',
      { passageId: worlds.world.passageId },
      { ...change, step: { kind: 'usual', size: null } },
      { 'If-Match': '"1"' },
    );
    expect(usual.status).toBe(200);
  });
});

describe('the number of queries', () => {
  let server: TestServer;
  let browser: Browser;
  beforeAll(async () => {
    server = await startServer();
  });
  afterAll(() => server.db.destroy());

  const STUDENTS = 6;

  /** Counts what a request asks of the database. */
  async function queriesOf(request: () => PromiseLike<unknown>): Promise<number> {
    let count = 0;
    const listen = (): void => {
      count += 1;
    };
    server.db.on('query', listen);
    await request();
    server.db.off('query', listen);
    return count;
  }

  /** A studio in which several students prepare one sheet of several parts. */
  async function studio(
    students: number,
  ): Promise<{ sheetId: string; programId: string; studentId: string }> {
    browser = await new Browser(server.app).openStudio();
    const base = sheetInput();
    const parts = ['A', 'B', 'C', 'D'].map((label) => ({ ...base.parts[0], id: newId(), label }));
    const sheet = { ...base, parts };
    await expectStatus(201, browser.call('createSheet', {}, sheet));
    let last = { programId: '', studentId: '' };
    for (let n = 0; n < students; n += 1) {
      last = { programId: newId(), studentId: newId() };
      await expectStatus(
        201,
        browser.call(
          'createStudent',
          {},
          { id: last.studentId, name: `Student ${n}`, instrument: 'clarinet' },
        ),
      );
      await expectStatus(
        201,
        browser.call(
          'createProgram',
          {},
          { id: last.programId, studentId: last.studentId, sheetId: sheet.id },
        ),
      );
    }
    return { sheetId: sheet.id, ...last };
  }

  it('does not grow with the students: season, sheets, revisions, program, and a typo in a sheet', async () => {
    const counts: Record<string, number[]> = {};
    for (const students of [1, STUDENTS]) {
      const { sheetId, programId, studentId } = await studio(students);
      const {
        id: _id,
        version,
        revision: _revision,
        ...sheet
      } = (await browser.call('readSheet', { sheetId })).body as Record<string, unknown> & {
        parts: { label: string; id: string }[];
      };
      const typo = {
        ...sheet,
        parts: sheet.parts.map((part, n) => ({ ...part, label: n === 0 ? 'Aa' : part.label })),
      };
      const revision = { ...sheet, revisionId: newId(), issuedOn: null, note: '', deadlines: [] };
      const pages: Record<string, () => PromiseLike<unknown>> = {
        season: () => browser.call('readSeason'),
        student: () => browser.call('readStudent', { studentId }),
        program: () => browser.call('readProgram', { programId }),
        sheets: () => browser.call('listSheets'),
        typo: () =>
          expectStatus(
            200,
            browser.call('changeSheet', { sheetId }, typo, { 'If-Match': `"${String(version)}"` }),
          ),
        revision: () =>
          expectStatus(
            201,
            browser.call('createRevision', { sheetId }, revision, { 'If-Match': `"${Number(version) + 1}"` }),
          ),
        revisions: () => browser.call('listRevisions', { sheetId }),
        move: () => expectStatus(200, browser.call('movePrograms', { sheetId }, { programIds: null })),
      };
      for (const [name, page] of Object.entries(pages)) (counts[name] ??= []).push(await queriesOf(page));
    }
    for (const [name, [one, many]] of Object.entries(counts))
      expect(many).withContext(`${name}: ${one} queries for one student`).toBe(one);
  });
});
