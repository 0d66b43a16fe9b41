import { readFileSync } from 'node:fs';
import type { Express } from 'express';
import type { Knex } from 'knex';
import pino from 'pino';
import request, { type Agent, type Response, type Test } from 'supertest';
import sharp from 'sharp';
import { v7 as newId } from 'uuid';
import { blankPart, type SheetSpan } from '@vivid-cue/core/sheet';
import {
  pathOf,
  ROUTES,
  type AccountInput,
  type CueInput,
  type MockView,
  type RouteName,
  type SheetInput,
} from '@vivid-cue/contract';
import { createApp } from '../app.js';
import type { Config } from '../config.js';
import { connect } from '../db/connect.js';
import { migrate } from '../db/migrate.js';
import { sha256 } from '../db/sha256.js';
import type { Studio } from '../db/studio.js';
import { flacOf } from './flac.js';

/** A noon in spring: specs hold the clock still here and move it themselves. */
export const NOON_MS = Date.UTC(2027, 2, 10, 12, 0, 0);

/** A server on the test database with a clock that a spec turns. */
export interface TestServer {
  readonly app: Express;
  readonly db: Knex;
  readonly clock: { nowMs: number };
  readonly log: string[];
}

/** Starts the application on the real MariaDB named by DATABASE_URL, migrated. */
export async function startServer(): Promise<TestServer> {
  const databaseUrl = process.env['DATABASE_URL'];
  if (databaseUrl === undefined) throw new Error('Set DATABASE_URL; "npm run test:server" does.');
  const db = connect(databaseUrl);
  await migrate(db);
  await db('rate_hits').delete();
  const clock = { nowMs: NOON_MS };
  const log: string[] = [];
  const logger = pino({ level: 'info' }, { write: (line) => log.push(line) });
  const config = testConfig(databaseUrl);
  return { app: createApp({ db, config, logger, now: () => clock.nowMs }), db, clock, log };
}

/** How a server of the specs is set up. */
export function testConfig(databaseUrl: string): Config {
  return {
    databaseUrl,
    host: '127.0.0.1',
    port: 0,
    sessionSecret: 'a secret for tests only, long enough to be one',
    isBehindTls: false,
    proxyHops: 0,
    signUpsAnHour: 100_000,
    studioBytes: 512 * 1024 * 1024,
    takeBytes: 64 * 1024 * 1024,
    webFolder: null,
    demo: null,
  };
}

/** A studio to open. */
export function accountInput(email = `${newId()}@studio.example`): AccountInput {
  return {
    id: newId(),
    studioId: newId(),
    email,
    password: 'long enough to guess',
    name: 'Odalys Brandvold',
    studioName: 'A studio',
    zone: 'Atlantic/Reykjavik',
  };
}

/** One browser: keeps its cookie and sends its session's token. */
export class Browser {
  private csrf = '';
  private agent: Agent;
  private cookie = '';
  private email = '';

  constructor(app: Express) {
    this.agent = request.agent(app);
  }

  /** Asks for a studio. */
  async signUp(change: Partial<AccountInput> = {}): Promise<Response> {
    await this.refresh();
    return this.call('createAccount', {}, { ...accountInput(), ...change });
  }

  /** Opens a studio of its own and stays signed in. */
  async openStudio(email = `${newId()}@studio.example`): Promise<this> {
    await this.refresh();
    this.email = email;
    const response = await this.call('createAccount', {}, accountInput(email));
    this.cookie = String(
      (response.headers['set-cookie'] as unknown as string[] | undefined)?.[0]?.split(';')[0] ?? '',
    );
    if (response.status !== 201) throw new Error(JSON.stringify(response.body));
    await this.refresh();
    return this;
  }

  /** Signs in again: a session ends after a fortnight. */
  async signInAgain(): Promise<void> {
    await this.refresh();
    const response = await this.call('signIn', {}, { email: this.email, password: accountInput().password });
    if (response.status !== 200) throw new Error(JSON.stringify(response.body));
    await this.refresh();
  }

  /** Goes on with the same cookie at another server process. */
  moveTo(app: Express): void {
    this.agent = request.agent(app).set('Cookie', this.cookie);
  }

  /** Fetches the session's token. */
  async refresh(): Promise<Response> {
    const response = await this.agent.get(pathOf('readSession'));
    this.csrf = (response.body as { csrfToken: string }).csrfToken;
    this.cookie = String(
      (response.headers['set-cookie'] as unknown as string[] | undefined)?.[0]?.split(';')[0] ?? this.cookie,
    );
    return response;
  }

  /** Calls a route by its name. */
  call(
    name: RouteName,
    ids: Readonly<Record<string, string>> = {},
    body?: object,
    headers: Readonly<Record<string, string>> = {},
  ): Test {
    const { method } = ROUTES[name];
    const verb = method.toLowerCase() as 'get' | 'post' | 'put' | 'delete';
    const call = this.agent[verb](pathOf(name, ids)).set('X-CSRF-Token', this.csrf);
    for (const [key, value] of Object.entries(headers)) call.set(key, value);
    return body === undefined ? call : call.send(body);
  }

  /** Sends bytes of any kind to a route. */
  raw(
    name: RouteName,
    body: Uint8Array | string,
    {
      ids = {},
      headers,
      query = {},
    }: {
      readonly ids?: Readonly<Record<string, string>>;
      readonly headers: Readonly<Record<string, string>>;
      readonly query?: Readonly<Record<string, string>>;
    },
  ): Test {
    const { method } = ROUTES[name];
    const verb = method.toLowerCase() as 'get' | 'post' | 'put' | 'delete';
    const call = this.agent[verb](pathOf(name, ids)).query(query).set('X-CSRF-Token', this.csrf);
    for (const [key, value] of Object.entries(headers)) call.set(key, value);
    // Written as it is: nothing is to be put right on the way.
    call.serialize((sent: unknown) => sent as string);
    return call.send(typeof body === 'string' ? body : (Buffer.from(body) as unknown as object));
  }

  /** Sends a score file with a query of any kind. */
  uploadAt(programPartId: string, bytes: Uint8Array, query: string): Test {
    return this.agent
      .put(`${pathOf('uploadScore', { programPartId })}?${query}`)
      .set('X-CSRF-Token', this.csrf)
      .set('Content-Type', 'application/octet-stream')
      .send(Buffer.from(bytes));
  }

  /** Sends the picture of a page. */
  keepPage(programPartId: string, bytes: Uint8Array, id = newId()): Test {
    return this.raw('keepPage', bytes, {
      ids: { programPartId },
      headers: { 'Content-Type': 'application/octet-stream' },
      query: { id },
    });
  }

  /** Sends a score file. */
  upload(programPartId: string, bytes: Uint8Array, id = newId(), fileName = 'study.musicxml'): Test {
    return this.agent
      .put(`${pathOf('uploadScore', { programPartId })}?id=${id}&fileName=${encodeURIComponent(fileName)}`)
      .set('X-CSRF-Token', this.csrf)
      .set('Content-Type', 'application/octet-stream')
      .send(Buffer.from(bytes));
  }
}

/** A picture that might be a page. */
export function pagePicture(
  { width, height }: { readonly width: number; readonly height: number } = { width: 60, height: 80 },
): Promise<Buffer> {
  return sharp({ create: { width, height, channels: 3, background: '#eeeeee' } })
    .png()
    .toBuffer();
}

/** A run of measures as a sheet names it. */
export function run(from: number | string, to: number | string): SheetSpan {
  return { from, to, anchorText: null };
}

/** A sheet with one etude, as a person would enter it. */
export function sheetInput(change: Partial<SheetInput> = {}): SheetInput {
  return {
    id: newId(),
    body: 'Archipelago All-Region Winds',
    year: '2027',
    division: 'Senior',
    instrument: 'clarinet',
    deadlines: [
      { id: newId(), kind: 'audition', date: '2027-04-10', time: '09:30', zone: 'Atlantic/Reykjavik' },
    ],
    parts: [
      {
        ...blankPart('Etude', 'etude', newId()),
        title: 'Ferry Lines',
        measures: [run(1, 28)],
        tempo: { beatUnit: 'quarter', bpmMin: 116, bpmMax: 116, bound: 'exact', words: null },
      },
    ],
    ...change,
  };
}

/** One of the studies composed for the demo. */
export function study(name: string): Uint8Array {
  return readFileSync(new URL(`../../../demo/studies/${name}.musicxml`, import.meta.url));
}

/** What a studio holds after one walk through the path. */
export interface World {
  readonly browser: Browser;
  readonly studentId: string;
  readonly sheet: SheetInput;
  readonly programId: string;
  readonly programPartId: string;
  readonly scoreId: string;
  readonly passageId: string;
  readonly repId: string;
  readonly linkId: string;
  readonly cueId: string;
  readonly pageId: string;
  /** The student's own browser, which came by the link. */
  readonly desk: Browser;
  readonly studentLinkId: string;
  readonly code: string;
  readonly reportId: string;
  readonly surpriseId: string;
  readonly noteId: string;
  /** A take of a second that the student recorded. */
  readonly takeId: string;
  readonly mockId: string;
  readonly playerId: string;
  readonly itemId: string;
  readonly listenerId: string;
  readonly listenerCode: string;
  /** The browser of somebody who came to listen. */
  readonly listener: Browser;
}

/** Walks the path once: student, sheet, program, score, passage, rep. */
export async function walkPath(server: TestServer): Promise<World> {
  const browser = await new Browser(server.app).openStudio();
  const [studentId, programId, scoreId, passageId, repId] = [newId(), newId(), newId(), newId(), newId()];
  const sheet = sheetInput();
  await expectStatus(
    201,
    browser.call('createStudent', {}, { id: studentId, name: 'Ilse Vantongeren', instrument: 'clarinet' }),
  );
  await expectStatus(201, browser.call('createSheet', {}, sheet));
  await expectStatus(201, browser.call('createProgram', {}, { id: programId, studentId, sheetId: sheet.id }));
  const page = await expectStatus(200, browser.call('readStudent', { studentId }));
  const programPartId =
    (page.body as { programs: { parts: { id: string }[] }[] }).programs[0]?.parts[0]?.id ?? '';
  await expectStatus(200, browser.upload(programPartId, study('ferry-lines'), scoreId));
  await expectStatus(
    201,
    browser.call(
      'createPassage',
      { programPartId },
      { id: passageId, name: '', from: '9', to: '12', target: null },
    ),
  );
  await expectStatus(201, browser.call('createRep', { passageId }, repInput({ id: repId })));
  const linkId = newId();
  await expectStatus(201, browser.call('createCalendarLink', {}, { id: linkId, studentId }));
  const cue = cueInput();
  await expectStatus(201, browser.call('createCue', { programPartId }, cue));
  const pageId = newId();
  await expectStatus(200, browser.keepPage(programPartId, await pagePicture(), pageId));
  const atDesk = await openDesk(server, { browser, studentId, passageId });
  const ids = {
    ...atDesk,
    ...NOTHING_REHEARSED,
    listener: browser,
    pageId,
    studentId,
    programId,
    programPartId,
    scoreId,
    passageId,
    repId,
    linkId,
    cueId: cue.id,
  };
  return { browser, sheet, ...ids };
}

const SECOND = await flacOf(
  Float32Array.from({ length: 8000 }, (_, n) => 0.5 * Math.sin((2 * Math.PI * 440 * n) / 8000)),
  8000,
);

/** A second of an a as a take. */
export function takeInput(programPartId: string, change: object = {}): Readonly<Record<string, unknown>> {
  return {
    ...{
      id: newId(),
      programPartId,
      sittingId: null,
      at: '2027-03-10T11:00:00.000Z',
      seconds: 1,
      level: 'good',
    },
    ...{ withRepeats: true, asked: { bpm: 96, beatUnit: 'quarter' }, original: null },
    sound: { bytes: SECOND.length, sha256: sha256(SECOND) },
    ...change,
  };
}

/** The sound of that take. */
export const TAKE_SOUND = SECOND;

/** Sends a piece of a take. */
export function sendChunk(
  browser: Browser,
  { takeId, n, bytes = SECOND, form = 'sound' }: { takeId: string; n: number; bytes?: Buffer; form?: string },
  name: 'keepTakeChunk' | 'keepDeskTakeChunk' = 'keepTakeChunk',
): Test {
  return browser.raw(name, bytes, {
    ids: { takeId },
    headers: { 'Content-Type': 'application/octet-stream' },
    query: { form, n: String(n) },
  });
}

/** What a world has of takes and mock days before it is rehearsed. */
const NOTHING_REHEARSED = {
  ...{ takeId: '', mockId: '', playerId: '', itemId: '', listenerId: '', listenerCode: '' },
};

/** The same world once the student has recorded a take, and a mock day stands with a listener. */
export async function rehearsed(server: TestServer, world: World): Promise<World> {
  const takeId = await keepTake(world.desk, world.programPartId);
  return {
    ...world,
    takeId,
    ...(await openMock(server, world.browser, { programId: world.programId, takeId })),
  };
}

/** The student records a take. */
async function keepTake(desk: Browser, programPartId: string): Promise<string> {
  const input = takeInput(programPartId);
  const takeId = String(input['id']);
  await expectStatus(201, desk.call('createDeskTake', {}, input));
  await expectStatus(200, sendChunk(desk, { takeId, n: 0 }, 'keepDeskTakeChunk'));
  return takeId;
}

/** A mock day with one player and one listener, whose page is open, and to whom the take is given. */
async function openMock(
  server: TestServer,
  browser: Browser,
  { programId, takeId }: Pick<World, 'programId' | 'takeId'>,
): Promise<Pick<World, 'mockId' | 'playerId' | 'itemId' | 'listenerId' | 'listenerCode' | 'listener'>> {
  const [mockId, playerId, listenerId] = [newId(), newId(), newId()];
  const made = await expectStatus(
    201,
    browser.call(
      'createMock',
      {},
      {
        id: mockId,
        date: '2027-04-01',
        isBlind: false,
        isRecorded: false,
        players: [{ id: playerId, programId }],
      },
    ),
  );
  const itemId = (made.body as MockView).players[0]?.items[0]?.id ?? '';
  await expectStatus(200, browser.call('attachMockTake', { mockId }, { playerId, itemId, takeId }));
  const asked = await expectStatus(
    201,
    browser.call('createListener', { mockId }, { id: listenerId, name: 'Listener 1' }),
  );
  const listenerCode = (asked.body as MockView).listeners[0]?.code ?? '';
  const listener = new Browser(server.app);
  await listener.refresh();
  await expectStatus(200, listener.call('enterListening', {}, { listenerId, code: listenerCode }));
  await listener.refresh();
  return { mockId, playerId, itemId, listenerId, listenerCode, listener };
}

/** The student comes by a personal link, flags a measure and writes a line. */
async function openDesk(
  server: TestServer,
  { browser, studentId, passageId }: Pick<World, 'browser' | 'studentId' | 'passageId'>,
): Promise<Pick<World, 'desk' | 'studentLinkId' | 'code' | 'reportId' | 'surpriseId' | 'noteId'>> {
  const studentLinkId = newId();
  const made = await expectStatus(
    201,
    browser.call('createStudentLink', { studentId }, { id: studentLinkId }),
  );
  const { code } = made.body as { code: string };
  const desk = new Browser(server.app);
  await desk.refresh();
  await expectStatus(200, desk.call('enterDesk', {}, { linkId: studentLinkId, code }));
  await desk.refresh();
  const [surprise, note] = [surpriseInput(), noteInput()];
  await expectStatus(201, desk.call('createSurprise', { passageId }, surprise));
  await expectStatus(201, desk.call('createDeskNote', {}, note));
  return {
    ...{ desk, studentLinkId, code },
    reportId: '',
    surpriseId: String(surprise['id']),
    noteId: String(note['id']),
  };
}

/** The same world once the student has logged a rep. */
export async function reported(world: World): Promise<World> {
  const report = repInput();
  const { desk, passageId } = world;
  await expectStatus(201, desk.call('createDeskReps', { passageId }, { reps: [report] }));
  return { ...world, reportId: String(report['id']) };
}

/** A measure that surprised. */
export function surpriseInput(change: object = {}): Readonly<Record<string, unknown>> {
  const at = '2027-03-10T10:00:00.000Z';
  return { id: newId(), measureIndex: 9, bpm: 80, beatUnit: 'quarter', text: 'the C natural', at, ...change };
}

/** A lesson in which something is asked of a passage. */
export function lessonInput(passageId: string, change: object = {}): Readonly<Record<string, unknown>> {
  const asks = [{ id: newId(), passageId, text: 'with the click on the offbeat' }];
  return { id: newId(), at: '2027-03-10T11:00:00.000Z', minutes: 30, notes: 'Sound first.', asks, ...change };
}

/** A plan of two days from the specs' today on. */
export function planInput(passageId: string, change: object = {}): Readonly<Record<string, unknown>> {
  const wishes = {
    skipped: ['2027-03-13'],
    minutesOf: [{ date: '2027-03-14', minutes: 20 }],
    pinned: [{ passageId, date: '2027-03-11' }],
    barred: [{ passageId, date: '2027-03-10' }],
    assembly: '2027-03-20',
  };
  const day = (date: string): object => ({
    ...{ date, minutes: 12, isRest: false, runs: [] },
    blocks: [{ passageId, minutes: 12, bpm: 66 }],
  });
  return {
    ...{ version: 0, wishes, ownTasks: [{ id: newId(), text: 'Ring the accompanist', date: '2027-03-12' }] },
    ...{ from: '2027-03-10', days: [day('2027-03-10'), day('2027-03-11')] },
    ...change,
  };
}

/** A line to the instructor. */
export function noteInput(change: object = {}): Readonly<Record<string, unknown>> {
  return {
    id: newId(),
    passageId: null,
    text: 'Can we look at 11?',
    at: '2027-03-10T10:00:00.000Z',
    ...change,
  };
}

/** The studio of a world, as services are told of it. */
export async function studioOf({ db }: TestServer, { studentId }: Pick<World, 'studentId'>): Promise<Studio> {
  const row = (await db('students').where({ id: studentId }).first({ id: 'studio_id' })) as { id: string };
  return { db, id: row.id };
}

/** Tables of a studio's rows, of those that have a column. */
export async function studioTables({ db }: TestServer, column = 'studio_id'): Promise<string[]> {
  const rows = (await db('information_schema.COLUMNS')
    .whereRaw('TABLE_SCHEMA = DATABASE()')
    .whereIn('COLUMN_NAME', ['studio_id', column])
    .groupBy('TABLE_NAME')
    .having(db.raw('SUM(COLUMN_NAME = ?) AND SUM(COLUMN_NAME = ?)', ['studio_id', column]))
    .select({ name: 'TABLE_NAME' })) as { name: string }[];
  return rows.map(({ name }) => name).sort();
}

/** A finding as the reading would name it. */
export const FINDING_KEY = 'rare-note:0123456789abcdef';

/** A cue over two measures. */
export function cueInput(change: Partial<CueInput> = {}): CueInput {
  return {
    id: newId(),
    kind: 'trap',
    from: '9',
    to: '10',
    text: 'C natural here',
    findingKey: FINDING_KEY,
    ...change,
  };
}

/** A clean rep at the bottom of the ladder. */
export function repInput(change: object = {}): Readonly<Record<string, unknown>> {
  return {
    id: newId(),
    at: new Date(NOON_MS).toISOString(),
    bpm: 58,
    beatUnit: 'quarter',
    context: 'alone',
    isClean: true,
    ...change,
  };
}

/** Awaits a call and stops the spec when its status is another. */
export async function expectStatus(status: number, call: Test): Promise<Response> {
  const response = await call;
  if (response.status !== status)
    throw new Error(`${call.method} ${call.url}: ${response.status} ${JSON.stringify(response.body)}`);
  return response;
}

/** A server for all specs of a suite, and a studio that walked the path anew for each of them. */
export class FreshWorlds {
  server!: TestServer;
  world!: World;

  /** Calls a route as the studio's instructor. */
  readonly call = (...args: Parameters<Browser['call']>): ReturnType<Browser['call']> =>
    this.world.browser.call(...args);

  /** To be made where a suite begins. Shape: `prepare` what every world has beside the path */
  constructor(
    prepare: (server: TestServer, world: World) => Promise<World> = (_server, world) =>
      Promise.resolve(world),
  ) {
    beforeAll(async () => {
      this.server = await startServer();
    });
    beforeEach(async () => {
      this.server.clock.nowMs = NOON_MS;
      this.world = await prepare(this.server, await walkPath(this.server));
    });
    afterAll(() => this.server.db.destroy());
  }
}
