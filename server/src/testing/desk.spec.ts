import { v7 as newId } from 'uuid';
import type {
  DeskView,
  LessonView,
  PassageView,
  PlanView,
  ProblemDetails,
  StudentPageView,
  StudentRecord,
} from '@vivid-cue/contract';
import {
  Browser,
  lessonInput,
  expectStatus,
  NOON_MS,
  noteInput,
  planInput,
  repInput,
  reported,
  startServer,
  surpriseInput,
  walkPath,
  type TestServer,
  type World,
} from './world.js';

const DAY_MS = 86_400_000;

describe('the desk', () => {
  let server: TestServer;
  let world: World;

  beforeAll(async () => {
    server = await startServer();
  });
  beforeEach(async () => {
    server.clock.nowMs = NOON_MS;
    world = await reported(await walkPath(server));
  });
  afterAll(() => server.db.destroy());

  const visitor = async (): Promise<Browser> => {
    const browser = new Browser(server.app);
    await browser.refresh();
    return browser;
  };
  const code = async (call: Promise<{ status: number; body: unknown }>): Promise<[number, string]> => {
    const { status, body } = await call;
    return [status, (body as ProblemDetails).code];
  };

  it('shows the student’s own parts, passages, cues and minutes, and nothing of others', async () => {
    const view = (await expectStatus(200, world.desk.call('readDesk'))).body as DeskView;
    expect(view.student).toEqual({ id: world.studentId, name: 'Ilse Vantongeren', instrument: 'clarinet' });
    expect(view.parts.map(({ workTitle, weight }) => [workTitle, weight])).toEqual([['Ferry Lines', 1]]);
    expect(view.passages.map(({ id, climbSchool }) => [id, climbSchool])).toEqual([
      [world.passageId, 'steady'],
    ]);
    expect(view.scores.map(({ id, cues }) => [id, cues.length])).toEqual([[world.scoreId, 1]]);
    expect(view.day).toEqual({ minutes: 40, cap: 60, restDays: [0] });
    expect(view.surprises.map(({ measure, text }) => [measure, text])).toEqual([['10', 'the C natural']]);
  });

  it('opens by the code however it is typed, and tells a wrong code and a link that is not there alike', async () => {
    const { studentLinkId: linkId } = world;
    const typed = world.code.toUpperCase().replace('-', ' ');
    const browser = await visitor();
    expect((await browser.call('enterDesk', {}, { linkId, code: typed })).status).toBe(200);
    const wrong = await code((await visitor()).call('enterDesk', {}, { linkId, code: 'abcd-efgh' }));
    const none = await code((await visitor()).call('enterDesk', {}, { linkId: newId(), code: world.code }));
    expect([wrong, none]).toEqual([
      [401, 'link-wrong'],
      [401, 'link-wrong'],
    ]);
  });

  it('lets nobody guess: after five wrong codes one has to wait, even with the right one', async () => {
    const browser = await visitor();
    const enter = (typed: string): Promise<[number, string]> =>
      code(browser.call('enterDesk', {}, { linkId: world.studentLinkId, code: typed }));
    for (let n = 0; n < 5; n += 1) expect(await enter('abcd-efgh')).toEqual([401, 'link-wrong']);
    expect(await enter('abcd-efgh')).toEqual([429, 'too-many']);
    expect(await enter(world.code)).toEqual([429, 'too-many']);
    server.clock.nowMs += 30 * 60_000;
    expect((await enter(world.code))[0]).toBe(200);
  });

  it('ends at once where the link is taken back or its time is over, and says so in a sentence', async () => {
    const { browser, desk, studentId, studentLinkId } = world;
    server.clock.nowMs += 201 * DAY_MS;
    await browser.signInAgain();
    expect(
      await code((await visitor()).call('enterDesk', {}, { linkId: studentLinkId, code: world.code })),
    ).toEqual([401, 'link-gone']);
    server.clock.nowMs = NOON_MS;
    await browser.signInAgain();
    await expectStatus(204, browser.call('revokeStudentLink', { studentLinkId }));
    const refused = await desk.call('readDesk');
    expect([refused.status, (refused.body as ProblemDetails).code]).toEqual([401, 'link-gone']);
    expect((refused.body as ProblemDetails).detail).toContain('Ask your teacher for a new one');
    expect((await browser.call('listStudentLinks', { studentId })).body).toEqual([]);
  });

  it('tells a code once: a repeated request and the list tell none, and the database keeps none', async () => {
    const { browser, studentId } = world;
    const id = newId();
    const first = (await browser.call('createStudentLink', { studentId }, { id })).body as { code: string };
    const again = (await browser.call('createStudentLink', { studentId }, { id })).body as { code: null };
    expect([first.code.length, again.code]).toEqual([9, null]);
    const row: unknown = await server.db('student_links').where({ id }).first();
    expect(JSON.stringify(row)).not.toContain(first.code.replace('-', ''));
  });

  it('keeps an instructor signed in who opens a student’s desk', async () => {
    const { browser } = world;
    await expectStatus(200, browser.call('enterDesk', {}, { linkId: world.studentLinkId, code: world.code }));
    await browser.refresh();
    await expectStatus(200, browser.call('readSeason'));
    await expectStatus(200, browser.call('readDesk'));
    await expectStatus(204, browser.call('leaveDesk'));
    expect((await browser.call('readDesk')).status).toBe(401);
    await expectStatus(200, browser.call('readSeason'));
  });

  it('counts what a student reports once, and for less than what was heard', async () => {
    const { browser, desk, passageId } = world;
    const other = await reported(await walkPath(server));
    const reps = Array.from({ length: 6 }, (_, n) =>
      repInput({ at: new Date(NOON_MS - 60_000 * (6 - n)).toISOString(), bpm: 110 }),
    );
    await expectStatus(201, desk.call('createDeskReps', { passageId }, { reps }));
    const told = (await expectStatus(201, desk.call('createDeskReps', { passageId }, { reps })))
      .body as PassageView;
    const heard = (
      await expectStatus(
        201,
        other.browser.call(
          'createReps',
          { passageId: other.passageId },
          { reps: reps.map((rep) => ({ ...rep, id: newId() })) },
        ),
      )
    ).body as PassageView;
    expect([told.readiness.reps, heard.readiness.reps]).toEqual([8, 8]);
    expect(told.readiness.chance ?? 1).toBeLessThan(heard.readiness.chance ?? 0);
    const page = (await browser.call('readPassage', { passageId })).body as { reps: { witness: string }[] };
    expect(page.reps.filter(({ witness }) => witness === 'student').length).toBe(7);
  });

  it('lets a student take back what the student reported, and not what the instructor heard', async () => {
    const { desk, reportId, repId } = world;
    const after = (await expectStatus(200, desk.call('retractDeskRep', { repId: reportId })))
      .body as PassageView;
    expect(after.readiness.reps).toBe(1);
    expect((await desk.call('retractDeskRep', { repId })).status).toBe(404);
  });

  it('brings surprises and notes to the instructor once, until they were looked at', async () => {
    const { browser, desk, studentId, passageId, surpriseId, noteId } = world;
    const sent = async (): Promise<StudentPageView['fromStudent']> =>
      ((await browser.call('readStudent', { studentId })).body as StudentPageView).fromStudent;
    await expectStatus(201, desk.call('createSurprise', { passageId }, surpriseInput({ id: surpriseId })));
    await expectStatus(201, desk.call('createDeskNote', {}, noteInput({ id: noteId })));
    expect(await sent()).toEqual({
      surprises: [jasmine.objectContaining({ id: surpriseId, measure: '10', passageId })],
      notes: [jasmine.objectContaining({ id: noteId, text: 'Can we look at 11?' })],
    });
    await expectStatus(204, browser.call('clearSurprise', { surpriseId }));
    await expectStatus(204, browser.call('seeNote', { noteId }));
    expect(await sent()).toEqual({ surprises: [], notes: [] });
  });

  it('plans a lesson from what was flagged, promised and reported, and brings what is asked to the desk', async () => {
    const { browser, desk, studentId, passageId } = world;
    const lessonOf = async (): Promise<LessonView> =>
      (
        await expectStatus(
          200,
          browser.raw('readLesson', '', { ids: { studentId }, headers: {}, query: { minutes: '30' } }),
        )
      ).body as LessonView;
    const first = await lessonOf();
    expect(first.items.map(({ id, reason }) => [id, reason])).toEqual([
      [passageId, jasmine.stringMatching(/^flagged: 10/u)],
    ]);
    expect([first.week, first.lessons]).toEqual([{ days: 1, reps: 2 }, []]);
    const lesson = lessonInput(passageId);
    await expectStatus(201, browser.call('keepLesson', { studentId }, lesson));
    // While it is held a lesson is written again and again.
    await expectStatus(
      201,
      browser.call('keepLesson', { studentId }, { ...lesson, notes: 'Sound, then speed.' }),
    );
    const next = await lessonOf();
    expect(next.lessons.map(({ notes }) => notes)).toEqual(['Sound, then speed.']);
    expect(next.items[0]?.reason).toContain('promised last time');
    const asks = ((await desk.call('readDesk')).body as DeskView).asks;
    expect(asks.map(({ passageId: id, text }) => [id, text])).toEqual([
      [passageId, 'with the click on the offbeat'],
    ]);
    // The third clean at first sight is two rungs up: the lesson after one that asked for nothing says what moved.
    const at = new Date(NOON_MS).toISOString();
    await expectStatus(
      201,
      browser.call('keepLesson', { studentId }, lessonInput(passageId, { at, asks: [] })),
    );
    await expectStatus(204, browser.call('clearSurprise', { surpriseId: world.surpriseId }));
    const reps = [repInput({ at: new Date(NOON_MS + 60_000).toISOString() })];
    server.clock.nowMs += 10 * 60_000;
    await expectStatus(201, desk.call('createDeskReps', { passageId }, { reps }));
    expect((await lessonOf()).items[0]?.reason).toContain('rungs up');
  });

  it('keeps a plan with what was settled, brings it to the desk while it is fresh, and never over a newer one', async () => {
    const { browser, desk, studentId, passageId } = world;
    const first = (await expectStatus(200, browser.call('readPlan', { studentId }))).body as PlanView;
    expect([
      first.kept.version,
      first.kept.madeAt,
      first.desk.plan.dates.map(({ what, date }) => [what, date]),
    ]).toEqual([0, null, [['audition', '2027-04-10']]]);
    expect(first.played.map(({ date, passageId: id, reps }) => [date, id, reps])).toEqual([
      ['2027-03-10', passageId, 2],
    ]);
    const plan = planInput(passageId);
    const kept = (await expectStatus(200, browser.call('keepPlan', { studentId }, plan))).body as PlanView;
    expect([kept.kept.version, kept.kept.days.length]).toEqual([1, 2]);
    const late = await browser.call('keepPlan', { studentId }, plan);
    expect([late.status, (late.body as ProblemDetails).code]).toEqual([409, 'version-stale']);
    const told = async (): Promise<DeskView['plan']> =>
      ((await expectStatus(200, desk.call('readDesk'))).body as DeskView).plan;
    const fresh = await told();
    expect(fresh.days.map(({ date }) => date)).toEqual(['2027-03-10', '2027-03-11']);
    expect(fresh.wishes.skipped).toEqual(['2027-03-13']);
    // A day later what is past stays as it was planned; from then on the new plan holds.
    server.clock.nowMs += DAY_MS;
    const again = planInput(passageId, { version: 1, from: '2027-03-11', days: [] });
    const after = (await expectStatus(200, browser.call('keepPlan', { studentId }, again))).body as PlanView;
    expect(after.kept.days.map(({ date }) => date)).toEqual(['2027-03-10']);
    server.clock.nowMs += 8 * DAY_MS;
    expect((await told()).days).toEqual([]);
  });

  it('has tasks that either of the two ticks off, the studio’s own too, and none of another student', async () => {
    const { browser, desk, studentId, programId, passageId } = world;
    const plan = planInput(passageId);
    const [own] = plan['ownTasks'] as { readonly id: string }[];
    await expectStatus(200, browser.call('keepPlan', { studentId }, plan));
    const tick = { subjectId: programId, kind: 'listen', doneOn: '2027-03-10' };
    for (const _ of [1, 2]) await expectStatus(200, desk.call('tickDeskTask', {}, tick));
    await expectStatus(
      200,
      browser.call('tickTask', { studentId }, { ...tick, subjectId: own?.id, kind: 'own' }),
    );
    const tasks = async (): Promise<readonly (readonly [string, string | null])[]> =>
      ((await browser.call('readPlan', { studentId })).body as PlanView).desk.plan.tasks.map(
        ({ kind, doneOn }) => [kind, doneOn] as const,
      );
    expect(
      (await tasks())
        .filter(([, doneOn]) => doneOn !== null)
        .map(([kind]) => kind)
        .sort(),
    ).toEqual(['listen', 'own']);
    const shown = (await browser.call('readPlan', { studentId })).body as PlanView;
    const equipment = shown.desk.plan.tasks.find(({ kind }) => kind === 'equipment');
    // The student plays the clarinet.
    expect(equipment?.text).toContain('reeds');
    await expectStatus(200, desk.call('tickDeskTask', {}, { ...tick, doneOn: null }));
    expect((await tasks()).filter(([, doneOn]) => doneOn !== null).length).toBe(1);
    expect((await desk.call('tickDeskTask', {}, { ...tick, subjectId: newId() })).status).toBe(404);
  });

  it('keeps all of it in the record, which is read in again', async () => {
    const { browser, studentId, passageId } = world;
    await expectStatus(200, browser.call('keepPlan', { studentId }, planInput(passageId)));
    const record = (await expectStatus(200, browser.call('exportStudent', { studentId })))
      .body as StudentRecord;
    expect([record.surprises?.length, record.notes?.length, record.studentLinks?.length]).toEqual([1, 1, 1]);
    expect(record.lessons?.length).toBe(0);
    expect(record.reps.map(({ witness }) => witness).sort()).toEqual(['instructor', 'student']);
    const elsewhere = await new Browser(server.app).openStudio();
    const id = newId();
    const read = await expectStatus(
      201,
      elsewhere.raw('importRecord', JSON.stringify(record), {
        headers: { 'Content-Type': 'application/octet-stream' },
        query: { studentId: id },
      }),
    );
    expect(read.body).toEqual(jasmine.objectContaining({ passages: 1, reps: 2, differing: [] }));
    const page = (await elsewhere.call('readStudent', { studentId: id })).body as StudentPageView;
    expect(page.fromStudent.surprises.map(({ text }) => text)).toEqual(['the C natural']);
    const { kept, desk } = (await elsewhere.call('readPlan', { studentId: id })).body as PlanView;
    expect(kept.wishes.pinned.map(({ passageId: own }) => own)).toEqual([desk.passages[0]?.id ?? '']);
    expect(kept.days.map(({ date }) => date)).toEqual(['2027-03-10', '2027-03-11']);
  });
});
