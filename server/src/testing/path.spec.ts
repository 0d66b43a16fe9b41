import { v7 as newId } from 'uuid';
import type {
  PassagePageView,
  PassageView,
  ProblemDetails,
  ScoreRoomView,
  SeasonView,
  SheetView,
  StudentPageView,
} from '@vivid-cue/contract';
import { purgeRemoved } from '../jobs/purge.js';
import { migrate } from '../db/migrate.js';
import { rebuildReadiness } from '../jobs/rebuild.js';
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

describe('the path on a real MariaDB', () => {
  let server: TestServer;

  beforeAll(async () => {
    server = await startServer();
  });
  beforeEach(() => {
    server.clock.nowMs = NOON_MS;
  });
  afterAll(() => server.db.destroy());

  const problem = (response: { readonly body: unknown }): ProblemDetails => response.body as ProblemDetails;

  it('leads from a sheet and a score to a readiness number', async () => {
    const { browser, passageId, programPartId, studentId } = await walkPath(server);
    for (const second of [1, 2])
      await expectStatus(
        201,
        browser.call(
          'createRep',
          { passageId },
          repInput({ at: new Date(NOON_MS + second * 1000).toISOString() }),
        ),
      );
    const { passage, reps } = (await expectStatus(200, browser.call('readPassage', { passageId })))
      .body as PassagePageView;
    expect(passage.name).toBe('mm. 9–12');
    expect([passage.fromIndex, passage.endIndex, passage.target]).toEqual([
      8,
      12,
      { bpm: 116, beatUnit: 'quarter' },
    ]);
    expect(passage.rungs.length).toBe(8);
    // Three in a row at first sight: two rungs up.
    expect([passage.place.rungIndex, passage.place.streak]).toEqual([2, 0]);
    expect(passage.playedCleanBpm).toBe(58);
    expect(passage.readiness.state).toBe('grounded');
    expect(passage.sentence).toContain('the sheet asks ♩=116');
    expect(reps.length).toBe(3);
    const room = (await expectStatus(200, browser.call('readScoreRoom', { programPartId })))
      .body as ScoreRoomView;
    expect([room.runs, room.score?.digest.measures.length, room.daysLeft]).toEqual([
      [{ fromIndex: 0, endIndex: 28 }],
      32,
      31,
    ]);
    const season = (await expectStatus(200, browser.call('readSeason'))).body as SeasonView;
    expect(season.rows[0]?.program?.nextDate?.daysLeft).toBe(31);
    expect(season.rows[0]?.program?.parts[0]?.ribbon.filter(([, state]) => state === 'grounded').length).toBe(
      4,
    );
    const page = (await expectStatus(200, browser.call('readStudent', { studentId })))
      .body as StudentPageView;
    expect(page.programs[0]?.parts[0]?.sentence).toContain('Next, “mm. 9–12”: played clean at ♩=58');
  });

  it('logs a rep sent five times at once only once', async () => {
    const { browser, passageId } = await walkPath(server);
    const rep = repInput({ at: new Date(NOON_MS + 1000).toISOString() });
    const answers = await Promise.all(
      Array.from({ length: 5 }, () => browser.call('createRep', { passageId }, rep)),
    );
    expect(answers.map(({ status }) => status)).toEqual([201, 201, 201, 201, 201]);
    const { reps } = (await browser.call('readPassage', { passageId })).body as PassagePageView;
    expect(reps.length).toBe(2);
  });

  it('stores what a rebuild counts from the facts: in order, late, and taken back', async () => {
    const { browser, passageId, repId } = await walkPath(server);
    const at = (seconds: number): string => new Date(NOON_MS + seconds * 1000).toISOString();
    server.clock.nowMs = NOON_MS + 120_000;
    for (const [seconds, isClean] of [
      [60, true],
      [20, false],
      [90, true],
      [40, true],
    ] as const) {
      await expectStatus(
        201,
        browser.call('createRep', { passageId }, repInput({ at: at(seconds), isClean, bpm: 63 })),
      );
    }
    await expectStatus(200, browser.call('retractRep', { repId }));
    await expectStatus(200, browser.call('retractRep', { repId }));
    // All but how often it was written.
    const snapshot = async (): Promise<object> => {
      const row = (await server.db('readiness_snapshots').where({ id: passageId }).first()) as object;
      return { ...row, writes: null };
    };
    const stored = await snapshot();
    expect(await rebuildReadiness(server.db)).toBeGreaterThan(0);
    expect(await snapshot()).toEqual(stored);
    const { reps } = (await browser.call('readPassage', { passageId })).body as PassagePageView;
    expect(reps.map((rep) => rep.at)).toEqual([at(90), at(60), at(40), at(20)]);
  });

  it('creates the same student and sheet once, however often it is sent', async () => {
    const browser = await new Browser(server.app).openStudio();
    const student = { id: newId(), name: 'Jory Penhallick', instrument: 'violin' };
    const sheet = sheetInput();
    for (let n = 0; n < 3; n += 1) {
      await expectStatus(201, browser.call('createStudent', {}, student));
      await expectStatus(201, browser.call('createSheet', {}, sheet));
    }
    const season = (await browser.call('readSeason')).body as SeasonView;
    expect([season.rows.length, season.sheets]).toEqual([1, 1]);
  });

  it('answers a stale edit with 409 and the row as it stands', async () => {
    const { browser, studentId } = await walkPath(server);
    const change = { name: 'Ilse V.', instrument: 'clarinet' };
    await expectStatus(200, browser.call('changeStudent', { studentId }, change, { 'If-Match': '"1"' }));
    const stale = await browser.call(
      'changeStudent',
      { studentId },
      { ...change, name: 'Somebody else' },
      { 'If-Match': '"1"' },
    );
    expect([stale.status, problem(stale).code]).toEqual([409, 'version-stale']);
    expect(problem(stale).current).toEqual(jasmine.objectContaining({ name: 'Ilse V.', version: 2 }));
  });

  it('moves passages that follow the sheet when its tempo changes, and not those with a target of their own', async () => {
    const { browser, sheet, passageId, programPartId } = await walkPath(server);
    const ownId = newId();
    await expectStatus(
      201,
      browser.call(
        'createPassage',
        { programPartId },
        { id: ownId, name: 'own', from: '1', to: '2', target: { bpm: 100, beatUnit: 'quarter' } },
      ),
    );
    const [part] = sheet.parts;
    const parts = part ? [{ ...part, tempo: { ...part.tempo, bpmMin: 124, bpmMax: 124 } }] : [];
    const { id: sheetId, ...rest } = sheet;
    const changed = (
      await expectStatus(
        200,
        browser.call('changeSheet', { sheetId }, { ...rest, parts }, { 'If-Match': '"1"' }),
      )
    ).body as SheetView;
    expect(changed.version).toBe(2);
    const room = (await browser.call('readScoreRoom', { programPartId })).body as ScoreRoomView;
    const bpmOf = (id: string): number | undefined =>
      room.passages.find((passage: PassageView) => passage.id === id)?.target.bpm;
    expect([bpmOf(passageId), bpmOf(ownId)]).toEqual([124, 100]);
    expect(room.passages.find(({ id }) => id === passageId)?.readiness.reps).toBe(1);
  });

  it('shares a score with the next student on the same sheet', async () => {
    const { browser, sheet } = await walkPath(server);
    const studentId = newId();
    await expectStatus(
      201,
      browser.call('createStudent', {}, { id: studentId, name: 'Second', instrument: 'clarinet' }),
    );
    await expectStatus(201, browser.call('createProgram', {}, { id: newId(), studentId, sheetId: sheet.id }));
    const page = (await browser.call('readStudent', { studentId })).body as StudentPageView;
    expect(page.programs[0]?.parts[0]?.hasScore).toBeTrue();
  });

  it('takes back a removed passage with its reps', async () => {
    const { browser, passageId } = await walkPath(server);
    await expectStatus(204, browser.call('removePassage', { passageId }));
    expect((await browser.call('readPassage', { passageId })).status).toBe(404);
    await expectStatus(204, browser.call('restorePassage', { passageId }));
    expect(((await browser.call('readPassage', { passageId })).body as PassagePageView).reps.length).toBe(1);
  });

  it('keeps what was removed for 30 days and then purges it with all that hangs on it', async () => {
    const { browser, passageId } = await walkPath(server);
    await expectStatus(204, browser.call('removePassage', { passageId }));
    const kept = async (): Promise<number> =>
      (await server.db('passages').where({ id: passageId }).select('id')).length;
    await purgeRemoved(server.db, NOON_MS + 29 * 86_400_000);
    expect(await kept()).toBe(1);
    await purgeRemoved(server.db, NOON_MS + 31 * 86_400_000);
    expect(await kept()).toBe(0);
    expect(await server.db('reps').where({ passage_id: passageId })).toEqual([]);
  });

  it('counts a rep of a device whose clock runs ahead as of now', async () => {
    const { browser, passageId } = await walkPath(server);
    await expectStatus(
      201,
      browser.call(
        'createRep',
        { passageId },
        repInput({ at: new Date(server.clock.nowMs + 3_600_000).toISOString() }),
      ),
    );
    const { reps } = (await browser.call('readPassage', { passageId })).body as PassagePageView;
    expect(reps.map(({ at }) => at)).toEqual([
      new Date(NOON_MS).toISOString(),
      new Date(NOON_MS).toISOString(),
    ]);
  });

  it('exports a student’s data and erases all of it, reps included', async () => {
    const { browser, studentId, passageId } = await walkPath(server);
    const exported = (await expectStatus(200, browser.call('exportStudent', { studentId }))).body as {
      reps: unknown[];
    };
    expect(exported.reps.length).toBe(1);
    await expectStatus(204, browser.call('eraseStudent', { studentId }));
    expect((await browser.call('readStudent', { studentId })).status).toBe(404);
    expect(await server.db('reps').where({ passage_id: passageId })).toEqual([]);
    expect(await server.db('readiness_snapshots').where({ id: passageId })).toEqual([]);
  });

  it('serves the file as it was uploaded', async () => {
    const { browser, scoreId } = await walkPath(server);
    const file = await browser
      .call('readScoreFile', { scoreId })
      .buffer(true)
      .parse((response, done) => {
        const chunks: Buffer[] = [];
        response
          .on('data', (chunk: Buffer) => chunks.push(chunk))
          .on('end', () => done(null, Buffer.concat(chunks)));
      });
    expect(Buffer.compare(file.body as Buffer, Buffer.from(study('ferry-lines')))).toBe(0);
  });

  describe('with bad input', () => {
    it('refuses a broken score with one sentence and stores nothing', async () => {
      const { browser, programPartId } = await walkPath(server);
      const before = await server.db('scores').count({ n: '*' });
      for (const bytes of [new Uint8Array(), Buffer.from('no music'), study('ferry-lines').slice(0, 3000)]) {
        const refused = await browser.upload(programPartId, bytes);
        expect([refused.status, problem(refused).code]).toEqual([422, 'score-refused']);
        expect(problem(refused).detail.length).toBeGreaterThan(20);
      }
      expect(await server.db('scores').count({ n: '*' })).toEqual(before);
    });

    it('refuses a file over 10 MB with the limit', async () => {
      const { browser, programPartId } = await walkPath(server);
      const refused = await browser.upload(programPartId, new Uint8Array(10 * 1024 * 1024 + 1));
      expect([refused.status, problem(refused).detail]).toEqual([
        413,
        jasmine.stringContaining('10 MB') as unknown as string,
      ]);
    });

    it('refuses another file that lacks measures of a passage, and keeps the old one', async () => {
      const { browser, programPartId } = await walkPath(server);
      await expectStatus(
        201,
        browser.call(
          'createPassage',
          { programPartId },
          { id: newId(), name: 'end', from: '29', to: '32', target: null },
        ),
      );
      const refused = await browser.upload(programPartId, study('harbor-bell'));
      expect([refused.status, problem(refused).detail]).toEqual([
        422,
        jasmine.stringContaining('end (29–32)') as unknown as string,
      ]);
      expect(
        ((await browser.call('readScoreRoom', { programPartId })).body as ScoreRoomView).score?.digest.title,
      ).toBe('Ferry Lines');
    });

    it('refuses a span outside the piece with the numbers that exist', async () => {
      const { browser, programPartId } = await walkPath(server);
      const refused = await browser.call(
        'createPassage',
        { programPartId },
        { id: newId(), name: '', from: '30', to: '40', target: null },
      );
      expect([refused.status, problem(refused).detail]).toEqual([
        422,
        'This piece has measures 1 to 32; 40 is not one of them.',
      ]);
    });

    for (const bpm of [0, 900, '116', null]) {
      it(`refuses a rep at tempo ${JSON.stringify(bpm)}`, async () => {
        const { browser, passageId } = await walkPath(server);
        const refused = await browser.call('createRep', { passageId }, repInput({ bpm }));
        expect([refused.status, problem(refused).issues?.[0]?.where]).toEqual([422, 'bpm']);
      });
    }

    it('refuses a day that does not exist and a zone that is none, naming the field, and takes a date that passed', async () => {
      const browser = await new Browser(server.app).openStudio();
      const withDate = (change: object): object =>
        sheetInput({
          deadlines: [
            {
              id: newId(),
              kind: 'audition',
              date: '2027-04-10',
              time: null,
              zone: 'UTC',
              ...change,
            } as never,
          ],
        });
      const wrong = [
        [{ date: '2027-04-31' }, 'deadlines[0].date'],
        [{ zone: 'Atlantis/Deep' }, 'deadlines[0].zone'],
      ] as const;
      for (const [change, where] of wrong) {
        const refused = await browser.call('createSheet', {}, withDate(change));
        expect([refused.status, problem(refused).issues?.[0]?.where]).toEqual([422, where]);
      }
      const passed = await browser.call('createSheet', {}, withDate({ date: '2027-03-09' }));
      expect([passed.status, (passed.body as SheetView).deadlines[0]?.date]).toEqual([201, '2027-03-09']);
    });

    it('leaves no half-written sheet when one of its rows cannot be written', async () => {
      const { browser, sheet } = await walkPath(server);
      const clash = sheetInput({ deadlines: sheet.deadlines });
      expect((await browser.call('createSheet', {}, clash)).status).toBe(409);
      expect(await server.db('sheets').where({ id: clash.id })).toEqual([]);
      expect(await server.db('sheet_parts').where({ sheet_id: clash.id })).toEqual([]);
    });

    it('refuses unknown fields and broken JSON without a stack trace', async () => {
      const browser = await new Browser(server.app).openStudio();
      const unknown = await browser.call(
        'createStudent',
        {},
        { id: newId(), name: 'A', instrument: 'oboe', born: '2010-01-01' },
      );
      expect(unknown.status).toBe(422);
      const broken = await browser
        .call('createStudent')
        .set('Content-Type', 'application/json')
        .send('{"name": ');
      expect([broken.status, problem(broken).code]).toEqual([400, 'json-broken']);
      expect(JSON.stringify(broken.body)).not.toContain('at ');
    });

    it('limits tries to sign in and says how long to wait', async () => {
      const browser = new Browser(server.app);
      await browser.refresh();
      let last = 0;
      for (let n = 0; n < 25; n += 1)
        last = (await browser.call('signIn', {}, { email: 'nobody@studio.example', password: 'wrong' }))
          .status;
      expect(last).toBe(429);
      await server.db('rate_hits').delete();
    });
  });

  it('logs nothing personal when it fails', async () => {
    const { browser, studentId } = await walkPath(server);
    await server.db.schema.renameTable('programs', 'programs_away');
    const failed = await browser.call('readStudent', { studentId });
    await server.db.schema.renameTable('programs_away', 'programs');
    expect([failed.status, problem(failed).code]).toEqual([500, 'server-fault']);
    expect(server.log.join('')).toContain('fault');
    expect(server.log.join('')).not.toContain('Ilse');
  });

  it('undoes and redoes every migration', async () => {
    await server.db.migrate.rollback(undefined, true);
    const left = (await server.db.raw('SHOW TABLES')) as unknown as [object[]];
    expect(left[0].map((row) => Object.values(row)[0] as string).sort()).toEqual([
      'migration_running',
      'migrations',
      'migrations_lock',
    ]);
    await migrate(server.db);
    await walkPath(server);
  });
});
