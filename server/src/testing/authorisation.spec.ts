import { v7 as newId } from 'uuid';
import { ROUTES, type ProblemDetails, type RouteName } from '@vivid-cue/contract';
import {
  Browser,
  cueInput,
  FINDING_KEY,
  repInput,
  sheetInput,
  startServer,
  study,
  walkPath,
  type TestServer,
  type World,
} from './world.js';

const CHOICE = {
  isTaken: true,
  workTitle: '',
  edition: '',
  page: '',
  repeats: null,
  policy: 'keep',
  pickupCounts: false,
  scoreId: null,
};
const SETTINGS = {
  studioName: 'A studio',
  zone: 'Atlantic/Reykjavik',
  vocabulary: 'uk',
  rungRule: 'three-in-a-row',
  tempoPolicy: 'keep',
};

describe('authorisation: every route × signed out, other studio, own studio', () => {
  let server: TestServer;
  let own: World;
  let other: World;

  beforeAll(async () => {
    server = await startServer();
  });
  beforeEach(async () => {
    own = await walkPath(server);
    other = await walkPath(server);
  });
  afterAll(() => server.db.destroy());

  /** A call that is right in every way but perhaps for who makes it: identifiers are those of `world`. */
  function body(name: RouteName, world: World): object | undefined {
    const bodies: Partial<Record<RouteName, object>> = {
      createStudent: { id: newId(), name: 'Mara Thistledown', instrument: 'flute' },
      changeStudent: { name: 'Ilse V.', instrument: 'clarinet' },
      createSheet: sheetInput(),
      changeSheet: (({ id: _id, ...change }) => change)(world.sheet),
      createRevision: {
        ...sheetInput(),
        id: undefined,
        revisionId: newId(),
        issuedOn: '2027-03-01',
        note: 'Erratum 1',
      },
      movePrograms: { programIds: null },
      changeSettings: SETTINGS,
      createCalendarLink: { id: newId(), studentId: world.studentId },
      changePartChoice: CHOICE,
      writeScale: {
        scoreId: newId(),
        key: 'C major',
        isArpeggio: false,
        octaves: 2,
        noteValue: 'eighth',
        articulation: '',
      },
      createProgram: { id: newId(), studentId: world.studentId, sheetId: world.sheet.id },
      changeTarget: { bpm: 108, beatUnit: 'quarter' },
      chooseScorePart: { partId: 'P1' },
      createPassage: { id: newId(), name: 'opening', from: '1', to: '4', target: null },
      changePassage: {
        name: 'middle',
        from: '9',
        to: '11',
        target: null,
        step: { kind: 'percent', size: 4 },
        rule: 'three-in-a-row',
      },
      createPassages: { passages: [{ id: newId(), name: '', from: '1', to: '4', target: null }] },
      changeNumbering: { restarts: [{ index: 0, number: 5 }] },
      markFinding: { id: newId(), key: FINDING_KEY, measure: '9', mark: 'confirmed' },
      createCue: cueInput(),
      changeProgram: { division: null },
      createStudents: { students: [{ id: newId(), name: 'Piet Okonjo-Lund', instrument: 'trombone' }] },
      createPrograms: { programs: [{ id: newId(), studentId: world.studentId }] },
      changeCue: (({ id: _id, findingKey: _key, ...change }) => change)(cueInput()),
      createRep: repInput(),
    };
    return bodies[name];
  }

  async function statusOf(name: RouteName, browser: Browser, world: World): Promise<number> {
    if (name === 'uploadScore')
      return (await browser.upload(world.programPartId, study('ferry-lines'))).status;
    const { studentId, programId, programPartId, scoreId, passageId, repId, linkId, cueId } = world;
    const ids = {
      studentId,
      sheetId: world.sheet.id,
      programId,
      programPartId,
      scoreId,
      passageId,
      repId,
      linkId,
      cueId,
    };
    return (await browser.call(name, ids, body(name, world), { 'If-Match': '"1"' })).status;
  }

  const protectedRoutes = (Object.keys(ROUTES) as RouteName[]).filter(
    (name) => ROUTES[name].access === 'instructor',
  );
  const namesNoRow: readonly RouteName[] = [
    'signOut',
    'readSeason',
    'createStudent',
    'createStudents',
    'listSheets',
    'createSheet',
    'readTimeline',
    'readSettings',
    'changeSettings',
    'listCalendarLinks',
  ];

  for (const name of protectedRoutes) {
    it(`${name}: refuses the signed out, hides from another studio, serves its own`, async () => {
      const stranger = new Browser(server.app);
      await stranger.refresh();
      expect(await statusOf(name, stranger, own))
        .withContext('signed out')
        .toBe(401);
      const foreign = await statusOf(name, other.browser, own);
      if (namesNoRow.includes(name))
        expect(foreign).withContext('other studio, own rows only').toBeLessThan(300);
      else expect(foreign).withContext('other studio').toBe(404);
      expect(await statusOf(name, own.browser, own))
        .withContext('own studio')
        .toBeLessThan(300);
    });
  }

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
    const response = await own.browser.call('createStudent', {}, body('createStudent', own), {
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
