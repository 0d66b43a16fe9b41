import { v7 as newId } from 'uuid';
import { ROUTES, type ProblemDetails, type RouteName } from '@vivid-cue/contract';
import { rightBody, rightCall } from './requests.js';
import { Browser, rehearsed, reported, startServer, walkPath, type TestServer, type World } from './world.js';

describe('authorisation: every route × signed out, other studio, own studio', () => {
  let server: TestServer;
  let own: World;
  let other: World;
  /** Another studio that nothing has been done to is the next test's too. */
  let isOtherUsed = true;
  /** The same of the own, after a route that only reads. */
  let isOwnUsed = true;

  beforeAll(async () => {
    server = await startServer();
  });
  beforeEach(async () => {
    const anew = async (): Promise<World> => rehearsed(server, await walkPath(server));
    [own, other] = await Promise.all([isOwnUsed ? anew().then(reported) : own, isOtherUsed ? anew() : other]);
    [isOwnUsed, isOtherUsed] = [true, false];
  });
  afterAll(() => server.db.destroy());

  async function statusOf(name: RouteName, browser: Browser, world: World): Promise<number> {
    return (await rightCall(name, browser, world)).status;
  }

  const protectedRoutes = (Object.keys(ROUTES) as RouteName[]).filter(
    (name) => ROUTES[name].access === 'instructor',
  );
  const namesNoRow: readonly RouteName[] = [
    'signOut',
    'changePassword',
    'removeStudio',
    'readSeason',
    'readForecasts',
    'createStudent',
    'createStudents',
    'importRecord',
    'listSheets',
    'createSheet',
    'readTimeline',
    'readSettings',
    'changeSettings',
    'readBook',
    'changeBook',
    'listCalendarLinks',
    'listMocks',
  ];

  for (const name of protectedRoutes) {
    it(`${name}: refuses the signed out, hides from another studio, serves its own`, async () => {
      isOwnUsed = ROUTES[name].method !== 'GET';
      const stranger = new Browser(server.app);
      await stranger.refresh();
      expect(await statusOf(name, stranger, own))
        .withContext('signed out')
        .toBe(401);
      const foreign = await statusOf(name, other.browser, own);
      isOtherUsed = namesNoRow.includes(name) && ROUTES[name].method !== 'GET';
      if (namesNoRow.includes(name))
        expect(foreign).withContext('other studio, own rows only').toBeLessThan(300);
      else expect(foreign).withContext('other studio').toBe(404);
      expect(await statusOf(name, own.browser, own))
        .withContext('own studio')
        .toBeLessThan(300);
    });
  }

  const deskRoutes = (Object.keys(ROUTES) as RouteName[]).filter((name) => ROUTES[name].access === 'student');
  const ownOnly: readonly RouteName[] = [
    'leaveDesk',
    'readDesk',
    'createDeskNote',
    'listDeskTakes',
    'listDeskUnits',
    'createDeskUnit',
  ];
  for (const name of deskRoutes) {
    it(`${name}: refuses the signed out and the instructor, hides from another student, serves its own`, async () => {
      await keepOwnPage(own);
      for (const stranger of [await new Browser(server.app).openStudio(), own.browser])
        expect(await statusOf(name, stranger, own))
          .withContext('no student')
          .toBe(401);
      const foreign = await statusOf(name, other.desk, own);
      isOtherUsed = ownOnly.includes(name);
      if (ownOnly.includes(name)) expect(foreign).withContext('other student').toBeLessThan(300);
      else expect(foreign).withContext('other student').toBe(404);
      expect(await statusOf(name, own.desk, own))
        .withContext('own desk')
        .toBeLessThan(300);
    });
  }

  const listenerRoutes = (Object.keys(ROUTES) as RouteName[]).filter(
    (name) => ROUTES[name].access === 'listener',
  );
  for (const name of listenerRoutes) {
    it(`${name}: refuses everybody who did not come to listen, hides from another day, serves its own`, async () => {
      for (const stranger of [await new Browser(server.app).openStudio(), own.browser, own.desk])
        expect(await statusOf(name, stranger, own))
          .withContext('no listener')
          .toBe(401);
      const foreign = await statusOf(name, other.listener, own);
      isOtherUsed = true;
      if (['leaveListening', 'readListening'].includes(name))
        expect(foreign).withContext('other day').toBeLessThan(300);
      else expect(foreign).withContext('other day').toBe(404);
      expect(await statusOf(name, own.listener, own))
        .withContext('own day')
        .toBeLessThan(300);
    });
  }

  /** A page counts as the student's once the score shows it. */
  async function keepOwnPage({ scoreId, pageId, studentId }: World): Promise<void> {
    const { studio_id: studio } = (await server
      .db('students')
      .where({ id: studentId })
      .first('studio_id')) as {
      studio_id: string;
    };
    await server.db('score_pages').insert({ score_id: scoreId, page_id: pageId, studio_id: studio });
  }

  it('refuses a student everything that is the instructor’s', async () => {
    const letIn: string[] = [];
    for (const name of protectedRoutes) if ((await statusOf(name, own.desk, own)) !== 401) letIn.push(name);
    expect(letIn).toEqual([]);
  });

  it('refuses a listener everything that is the instructor’s or the student’s', async () => {
    const letIn: string[] = [];
    for (const name of [...protectedRoutes, ...deskRoutes])
      if ((await statusOf(name, own.listener, own)) !== 401) letIn.push(name);
    expect(letIn).toEqual([]);
  });

  it('shows a studio none of another’s students or sheets', async () => {
    const season = await other.browser.call('readSeason');
    const sheets = await other.browser.call('listSheets');
    expect(JSON.stringify([season.body, sheets.body])).not.toContain(own.studentId);
    expect(JSON.stringify([season.body, sheets.body])).not.toContain(own.sheet.id);
  });

  it('refuses another studio’s student or sheet in a body too', async () => {
    const mixed = await other.browser.call(
      'createProgram',
      {},
      { id: newId(), studentId: other.studentId, sheetId: own.sheet.id },
    );
    expect(mixed.status).toBe(404);
  });

  it('refuses a changing request without the session’s token', async () => {
    const response = await own.browser.call('createStudent', {}, rightBody('createStudent', own), {
      'X-CSRF-Token': 'made-up',
    });
    expect([response.status, (response.body as ProblemDetails).code]).toEqual([403, 'csrf']);
  });

  it('answers a made-up identifier like one that is not there', async () => {
    const response = await own.browser.call('readStudent', { studentId: '../../etc' });
    expect([response.status, response.type]).toEqual([404, 'application/problem+json']);
  });

  // RFC 9457, clauses 3 and 3.1: type, title, status and detail, the status that of the answer; RFC 6585, clause 3: 428.
  it('tells every refusal as a problem with the members of RFC 9457', async () => {
    const { studentId, browser } = own;
    const name = { name: 'Ilse Vantongeren', instrument: 'clarinet' };
    const answers = [
      [404, browser.call('readStudent', { studentId: newId() })],
      [422, browser.call('createStudent', {}, { id: newId(), name: '', instrument: 'clarinet' })],
      [428, browser.call('changeStudent', { studentId }, name)],
      [409, browser.call('changeStudent', { studentId }, name, { 'If-Match': '"99"' })],
      [401, new Browser(server.app).call('readStudent', { studentId })],
    ] as const;
    for (const [status, answer] of answers) {
      const { status: came, type, body: problem } = await answer;
      expect([came, type]).toEqual([status, 'application/problem+json']);
      expect(problem).toEqual(
        jasmine.objectContaining({
          status,
          type: jasmine.any(String),
          title: jasmine.stringMatching(/\S/u),
          detail: jasmine.stringMatching(/[.!]$/u),
        }),
      );
    }
  });
});
