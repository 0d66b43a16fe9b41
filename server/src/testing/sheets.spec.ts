import ICAL from 'ical.js';
import { v7 as newId } from 'uuid';
import type {
  Book,
  BookView,
  ProblemDetails,
  ProgramPageView,
  RevisionsView,
  ScoreRoomView,
  SheetView,
  SeasonView,
  StudentPageView,
  TimelineView,
} from '@vivid-cue/contract';
import {
  Browser,
  expectStatus,
  repInput,
  run,
  sheetInput,
  startServer,
  study,
  walkPath,
  type TestServer,
  type World,
} from './world.js';

describe('sheets, revisions and programs', () => {
  let server: TestServer;
  let world: World;

  beforeAll(async () => {
    server = await startServer();
  });
  beforeEach(async () => {
    world = await walkPath(server);
  });
  afterAll(() => server.db.destroy());

  const call = (...args: Parameters<Browser['call']>): ReturnType<Browser['call']> =>
    world.browser.call(...args);
  const sheetNow = async (): Promise<SheetView> =>
    (await expectStatus(200, call('readSheet', { sheetId: world.sheet.id }))).body as SheetView;

  /** The world's sheet with a longer span and a faster etude, as an erratum would leave it. */
  async function revise(change: object = {}): Promise<SheetView> {
    const { id: _id, version, revision: _revision, ...sheet } = await sheetNow();
    const input = {
      ...sheet,
      revisionId: newId(),
      issuedOn: '2027-03-08',
      note: 'Erratum 1',
      deadlines: sheet.deadlines.map((deadline) => ({ ...deadline, id: newId() })),
      parts: sheet.parts.map((part) => ({
        ...part,
        measures: [run(1, 32)],
        tempo: { ...part.tempo, bpmMin: 120, bpmMax: 120 },
        ...change,
      })),
    };
    const made = await expectStatus(
      201,
      call('createRevision', { sheetId: world.sheet.id }, input, { 'If-Match': `"${version}"` }),
    );
    return made.body as SheetView;
  }

  it('leave programs on their revision until they are moved, and say what breaks', async () => {
    expect((await revise()).revision.number).toBe(2);
    const view = (await call('listRevisions', { sheetId: world.sheet.id })).body as RevisionsView;
    expect(view.difference?.changes.map(({ field }) => field)).toEqual(['measures', 'tempo']);
    expect(view.behind.map(({ studentName, breaks }) => [studentName, breaks[0]?.sentences])).toEqual([
      [
        'Ilse Vantongeren',
        [
          'mm. 29–32 are new: no passage covers them.',
          'The tempo moves from ♩=116 to ♩=120; the target moves along.',
        ],
      ],
    ]);
    const page = (await call('readStudent', { studentId: world.studentId })).body as StudentPageView;
    expect([page.programs[0]?.parts[0]?.tempoText, page.programs[0]?.isBehind]).toEqual(['♩=116', true]);
    // What the student sent comes first; once it was looked at, the revision is what is left to do.
    await expectStatus(204, call('clearSurprise', { surpriseId: world.surpriseId }));
    await expectStatus(204, call('seeNote', { noteId: world.noteId }));
    const season = (await call('readSeason')).body as SeasonView;
    expect(season.rows[0]?.need).toBe('sheet revised');
  });

  it('move a program over with its passages, reps and score, and its targets along', async () => {
    await revise();
    const moved = (
      await expectStatus(200, call('movePrograms', { sheetId: world.sheet.id }, { programIds: null }))
    ).body as RevisionsView;
    expect(moved.behind).toEqual([]);
    const page = (await call('readStudent', { studentId: world.studentId })).body as StudentPageView;
    const [part] = page.programs[0]?.parts ?? [];
    expect([part?.tempoText, part?.spanText, part?.hasScore]).toEqual(['♩=120', 'mm. 1–32', true]);
    expect(page.programs[0]?.isBehind).toBeFalse();
    const passage = (await call('readPassage', { passageId: world.passageId })).body as {
      passage: { target: { bpm: number }; record: { reps: number } };
    };
    expect([passage.passage.target.bpm, passage.passage.record.reps]).toEqual([120, 1]);
  });

  it('refuse a revision made on an older version and give back the current sheet', async () => {
    const before = await sheetNow();
    await revise();
    const { id: _id, version: _version, revision: _revision, ...sheet } = before;
    const late = await call(
      'createRevision',
      { sheetId: world.sheet.id },
      {
        ...sheet,
        revisionId: newId(),
        issuedOn: null,
        note: '',
        parts: sheet.parts.map((part) => ({ ...part, id: newId() })),
        deadlines: [],
      },
      { 'If-Match': `"${before.version}"` },
    );
    expect([late.status, (late.body as ProblemDetails).code]).toEqual([409, 'version-stale']);
    expect(((late.body as ProblemDetails).current as SheetView).revision.number).toBe(2);
  });

  it('come back with Undo after a removal that says whose programs go along', async () => {
    const removed = await expectStatus(200, call('removeSheet', { sheetId: world.sheet.id }));
    expect(removed.body).toEqual({ programs: [{ studentName: 'Ilse Vantongeren' }] });
    const gone = (await call('readStudent', { studentId: world.studentId })).body as StudentPageView;
    expect(gone.programs).toEqual([]);
    await expectStatus(204, call('restoreSheet', { sheetId: world.sheet.id }));
    const back = (await call('readStudent', { studentId: world.studentId })).body as StudentPageView;
    expect(back.programs[0]?.parts[0]?.hasScore).toBeTrue();
  });

  it('count one practice in two programs, each with its own target', async () => {
    const slower = sheetInput({
      parts: (await sheetNow()).parts.map((part) => ({
        ...part,
        id: newId(),
        tempo: { ...part.tempo, bpmMin: 58, bpmMax: 58 },
      })),
    });
    await expectStatus(201, call('createSheet', {}, slower));
    const programId = newId();
    await expectStatus(
      201,
      call('createProgram', {}, { id: programId, studentId: world.studentId, sheetId: slower.id }),
    );
    for (let n = 0; n < 6; n += 1)
      await expectStatus(
        201,
        call(
          'createRep',
          { passageId: world.passageId },
          repInput({ at: new Date(server.clock.nowMs).toISOString() }),
        ),
      );
    const page = (await call('readStudent', { studentId: world.studentId })).body as StudentPageView;
    const chance = (id: string): number =>
      page.programs.find((program) => program.id === id)?.parts[0]?.chance ?? -1;
    const states = (id: string): string[] =>
      page.programs
        .find((program) => program.id === id)
        ?.parts[0]?.ribbon.slice(8, 12)
        .map(([, state]) => state) ?? [];
    // Six clean reps at 58 say little of 116 and much of 58.
    expect(chance(programId)).toBeGreaterThan(chance(world.programId));
    expect(states(programId)).not.toContain('unopened');
    const detail = (await call('readProgram', { programId })).body as ProgramPageView;
    expect(detail.parts[0]?.alsoIn.length).toBe(1);
    const passage = (await call('readPassage', { passageId: world.passageId })).body as {
      passage: { target: { bpm: number } };
    };
    expect(passage.passage.target.bpm).withContext('the faster target is practised').toBe(116);
  });

  it('judge a program: its length with and without repeats, its tempo, its choices', async () => {
    const [partA, partB] = [newId(), newId()];
    const sheet = sheetInput({
      parts: [
        {
          ...(sheetInput().parts[0] as SheetView['parts'][number]),
          label: 'A',
          id: partA,
          measures: [],
          maxSeconds: 60,
          tempo: { beatUnit: 'dotted-quarter', bpmMin: 66, bpmMax: 66, bound: 'exact', words: null },
        },
        { ...(sheetInput().parts[0] as SheetView['parts'][number]), id: partB, label: 'B' },
      ],
      choices: [{ rule: 'oneOf', n: 1, of: [partA, partB] }],
    });
    await expectStatus(201, call('createSheet', {}, sheet));
    const programId = newId();
    await expectStatus(
      201,
      call('createProgram', {}, { id: programId, studentId: world.studentId, sheetId: sheet.id }),
    );
    const open = (await call('readProgram', { programId })).body as ProgramPageView;
    expect([open.verdict.status, open.choices[0]?.verdict.reasons[0]]).toEqual([
      'undecided',
      'None of A, B is chosen yet.',
    ]);
    const partId = open.parts[0]?.id ?? '';
    await expectStatus(200, world.browser.upload(partId, study('slack-water')));
    const choice = { ...open.parts[0]?.choice, isTaken: true, scoreId: null };
    const taken = (await expectStatus(200, call('changePartChoice', { programPartId: partId }, choice)))
      .body as ProgramPageView;
    // Slack Water lasts (84.5 + 21) × 60 / 99 = 63.9 s with its repeat; without it measure 8, the first ending, goes
    // too: (84.5 − 3) × 60 / 99 = 49.4 s (counted on paper).
    expect(taken.parts[0]?.verdict.reasons.at(-1)).toBe(
      'It lasts 1:04 with repeats, the limit is 1:00; without the repeat of mm. 1–8 it lasts 0:49.',
    );
    const without = (
      await expectStatus(
        200,
        call('changePartChoice', { programPartId: partId }, { ...choice, repeats: 'omit' }),
      )
    ).body as ProgramPageView;
    expect([without.parts[0]?.verdict.status, without.verdict.status]).toEqual(['satisfied', 'satisfied']);
  });

  it('write a scale out for the student’s instrument, or say how many octaves fit', async () => {
    const scale = {
      ...(sheetInput().parts[0] as SheetView['parts'][number]),
      id: newId(),
      kind: 'scale' as const,
      label: 'Scale',
      measures: [],
    };
    const sheet = sheetInput({ parts: [scale] });
    await expectStatus(201, call('createSheet', {}, sheet));
    const programId = newId();
    await expectStatus(
      201,
      call('createProgram', {}, { id: programId, studentId: world.studentId, sheetId: sheet.id }),
    );
    const partId = ((await call('readProgram', { programId })).body as ProgramPageView).parts[0]?.id ?? '';
    const wish = {
      scoreId: newId(),
      key: 'concert Bb major',
      isArpeggio: false,
      octaves: 2,
      noteValue: 'eighth',
      articulation: 'slurred',
    };
    const written = (await expectStatus(200, call('writeScale', { programPartId: partId }, wish)))
      .body as ProgramPageView;
    expect(written.parts[0]?.score?.title).toBe('concert B♭ major');
    const refused = await call(
      'writeScale',
      { programPartId: partId },
      { ...wish, scoreId: newId(), key: 'D major', octaves: 4 },
    );
    expect([refused.status, (refused.body as ProblemDetails).detail]).toEqual([
      422,
      jasmine.stringContaining('2 octaves do'),
    ]);
  });
});

describe('the line of time and its calendars', () => {
  let server: TestServer;
  let world: World;

  beforeAll(async () => {
    server = await startServer();
    world = await walkPath(server);
  });
  afterAll(() => server.db.destroy());

  it('counts days in the studio’s zone and names the body’s, across a change of summer time', async () => {
    // New York leaves winter time on 14 March 2027: 23:59 there is 03:59 in Reykjavik the next day (UTC−4, not −5).
    const sheet = sheetInput({
      deadlines: [
        { id: newId(), kind: 'recording', date: '2027-03-20', time: '23:59', zone: 'America/New_York' },
      ],
    });
    await expectStatus(201, world.browser.call('createSheet', {}, sheet));
    await expectStatus(
      201,
      world.browser.call('createProgram', {}, { id: newId(), studentId: world.studentId, sheetId: sheet.id }),
    );
    const { entries } = (await world.browser.call('readTimeline')).body as TimelineView;
    const entry = entries.find(({ sheetId }) => sheetId === sheet.id);
    expect([entry?.localDate, entry?.localTime, entry?.daysLeft, entry?.zone]).toEqual([
      '2027-03-21',
      '03:59',
      11,
      'America/New_York',
    ]);
  });

  it('is read back by ical.js with its instants, and is gone once revoked', async () => {
    const made = await expectStatus(
      201,
      world.browser.call('createCalendarLink', {}, { id: newId(), studentId: world.studentId }),
    );
    const { id, path } = made.body as { id: string; path: string };
    const token = path.replace('/api/calendar/', '');
    const stranger = new Browser(server.app);
    const file = await stranger.call('readCalendar', { token });
    expect(file.type).toBe('text/calendar');
    // ical.js 2.2.1 reads RFC 5545; the audition stands at 09:30 in Reykjavik, which is 09:30 UTC.
    const events = new ICAL.Component(ICAL.parse(file.text) as never)
      .getAllSubcomponents('vevent')
      .map((one) => new ICAL.Event(one));
    const audition = events.find(({ summary }) => summary.startsWith('Audition day'));
    expect(audition?.startDate.toJSDate().toISOString()).toBe('2027-04-10T09:30:00.000Z');
    const assembly = events.find(({ summary }) => summary.startsWith('Assembly'));
    expect([assembly?.startDate.isDate, assembly?.startDate.toString()]).toEqual([true, '2027-03-20']);
    // RFC 5545, 3.8.2.2: the end of a whole-day event is the day after, which is not part of it.
    expect([assembly?.endDate.isDate, assembly?.endDate.toString()]).toEqual([true, '2027-03-21']);
    expect(file.text).withContext('a student’s file names nobody').not.toContain('Vantongeren');
    await expectStatus(204, world.browser.call('revokeCalendarLink', { linkId: id }));
    expect((await stranger.call('readCalendar', { token })).status).toBe(404);
  });

  it('keeps how the studio writes, shows it in the room and at the desk, and refuses a rule without notes', async () => {
    const first = (await world.browser.call('readBook')).body as BookView;
    expect(first).toEqual({ looks: [], rules: [], silenced: [], version: 1 });
    const { version, ...plain } = first;
    const looks: Book['looks'] = [{ kind: 'breath', ink: 'plum', shape: 'ring' }];
    const book: Book = { ...plain, looks, silenced: ['sax-break'] };
    const change = (body: object, on: number): ReturnType<Browser['call']> =>
      world.browser.call('changeBook', {}, body, { 'If-Match': `"${on}"` });
    expect((await change(book, version)).body).toEqual({ ...book, version: 2 });
    expect((await change(plain, version)).status).toBe(409);
    const { programs } = (await world.browser.call('readStudent', { studentId: world.studentId }))
      .body as StudentPageView;
    const programPartId = programs[0]?.parts[0]?.id ?? '';
    const room = await world.browser.call('readScoreRoom', { programPartId });
    expect((room.body as ScoreRoomView).book.looks).toEqual(looks);
    const rule = { id: newId(), instrument: 'oboe', kind: 'fingering', advice: 'Left F.' };
    for (const pattern of [{}, { pairs: ['A4'] }, { notes: ['H9'] }, { notes: ['A4'], pairs: ['A4 B4'] }])
      expect((await change({ ...book, rules: [{ ...rule, pattern }] }, 2)).status)
        .withContext(JSON.stringify(pattern))
        .toBe(422);
  });

  it('keeps settings once for two windows, and every text follows the words chosen', async () => {
    const settings = (await world.browser.call('readSettings')).body as { version: number } & Record<
      string,
      unknown
    >;
    const { version, ...wish } = settings;
    const change = (words: object): ReturnType<Browser['call']> =>
      world.browser.call('changeSettings', {}, { ...wish, ...words }, { 'If-Match': `"${version}"` });
    expect((await change({ vocabulary: 'uk' })).status).toBe(200);
    expect((await change({ vocabulary: 'us' })).status).toBe(409);
    const page = (await world.browser.call('readStudent', { studentId: world.studentId }))
      .body as StudentPageView;
    expect(page.programs.flatMap(({ parts }) => parts.map(({ spanText }) => spanText))).toContain(
      'bars 1–28',
    );
  });
});
