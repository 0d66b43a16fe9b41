import { createHash } from 'node:crypto';
import { v7 as newId } from 'uuid';
import type { Response } from 'supertest';
import type { SchemaDescription } from 'yup';
import { ROUTE_INPUTS, type RouteInput, type RouteName } from '@vivid-cue/contract';
import { rightBody, rightCall } from './requests.js';
import {
  Browser,
  cueInput,
  expectStatus,
  FINDING_KEY,
  pagePicture,
  rehearsed,
  repInput,
  startServer,
  studioOf,
  studioTables,
  study,
  walkPath,
  type TestServer,
  type World,
} from './world.js';

/** A call of a route that takes an identifier in its query. */
async function queried(name: RouteName, { browser, programPartId }: World, id: string): Promise<Response> {
  if (name === 'keepPage') return browser.keepPage(programPartId, await pagePicture(), id);
  return browser.upload(programPartId, study('ferry-lines'), id);
}

/** Where identifiers stand in an input. Shape: a step "*" is every place of a list */
function idPaths(description: unknown, path: readonly string[] = []): string[][] {
  const { type, fields, innerType, meta } = description as SchemaDescription & {
    readonly fields?: Readonly<Record<string, unknown>>;
    readonly innerType?: unknown;
  };
  if ((meta as { isId?: boolean } | undefined)?.isId === true) return [[...path]];
  if (type === 'array' && innerType !== undefined) return idPaths(innerType, [...path, '*']);
  return Object.entries(fields ?? {}).flatMap(([name, field]) => idPaths(field, [...path, name]));
}

/** An input with another identifier in one place; null where it has no such place. */
function withId(input: unknown, [step, ...rest]: readonly string[], id: string): unknown {
  if (step === undefined) return id;
  if (step === '*') {
    if (!Array.isArray(input)) return [withId(null, rest, id)];
    return input.length === 0 ? null : input.map((one, n) => (n === 0 ? withId(one, rest, id) : one));
  }
  const own = input as Readonly<Record<string, unknown>> | null;
  return own && step in own ? { ...own, [step]: withId(own[step], rest, id) } : null;
}

describe('identifiers of another studio in bodies and queries', () => {
  let server: TestServer;
  let own: World;
  let other: World;
  let foreign: readonly string[];

  beforeAll(async () => {
    server = await startServer();
    own = await rehearsed(server, await walkPath(server));
    other = await rehearsed(server, await walkPath(server));
    const { browser, programPartId } = other;
    const mark = { id: newId(), key: FINDING_KEY, measure: '9', mark: 'confirmed' };
    await expectStatus(200, browser.call('markFinding', { programPartId }, mark));
    const { id: studioId } = await studioOf(server, other);
    for (const [table, column] of [
      ['students', 'name'],
      ['sheets', 'body'],
      ['sheet_parts', 'work_title'],
      ['works', 'title'],
      ['scores', 'title'],
      ['scores', 'file_name'],
      ['passages', 'name'],
      ['cues', 'text'],
    ] as const)
      await server
        .db(table)
        .where({ studio_id: studioId })
        .update({ [column]: 'UNSEEN' });
    const ids = await Promise.all(
      (await studioTables(server, 'id')).map((table) =>
        server.db(table).where({ studio_id: studioId }).select('id'),
      ),
    );
    foreign = (ids.flat() as { id: string }[]).map(({ id }) => id);
    expect(foreign.length).toBeGreaterThan(12);
  });
  afterAll(() => server.db.destroy());

  /** Everything that the other studio has, as one mark. */
  async function otherRows(): Promise<string> {
    const mark = createHash('sha256');
    const { id: studioId } = await studioOf(server, other);
    for (const table of await studioTables(server)) {
      const rows = (await server.db(table).where({ studio_id: studioId }).select()) as unknown[];
      mark.update(
        rows
          .map((row) => JSON.stringify(row))
          .sort()
          .join(),
      );
    }
    return mark.digest('hex');
  }

  const places = (Object.entries(ROUTE_INPUTS) as [RouteName, RouteInput][]).flatMap(
    ([name, { body, query }]) =>
      body || query
        ? idPaths((body ?? query)?.describe()).map((path) => ({ name, path, isQuery: query !== undefined }))
        : [],
  );

  it('stand in the table of inputs: what takes one is walked', () => {
    const routes = new Set(places.map(({ name }) => name));
    for (const name of [
      'createProgram',
      'changePartChoice',
      'uploadScore',
      'markFinding',
      'createRevision',
    ] as const)
      expect(routes).toContain(name);
  });

  for (const { name, path, isQuery } of places)
    it(`${name}, ${path.join('.')}: changes nothing of theirs and shows nothing of theirs`, async () => {
      const before = await otherRows();
      // Opening a studio leaves the one that is open.
      const browser = name === 'createAccount' ? new Browser(server.app) : own.browser;
      await browser.refresh();
      const attempt = async (id: string): Promise<void> => {
        const input = isQuery ? null : withId(rightBody(name, own), path, id);
        if (!isQuery && input === null) return;
        const answer = isQuery
          ? await queried(name, own, id)
          : await rightCall(name, browser, own, input as object);
        expect(answer.status).withContext(id).toBeLessThan(500);
        expect(JSON.stringify(answer.body)).not.toContain('UNSEEN');
      };
      // A few at a time: the database and the server take turns anyway.
      for (let n = 0; n < foreign.length; n += 4) await Promise.all(foreign.slice(n, n + 4).map(attempt));
      expect(await otherRows()).toBe(before);
      const room = await own.browser.call('readScoreRoom', { programPartId: own.programPartId });
      expect(JSON.stringify(room.body)).not.toContain('UNSEEN');
    });

  it('are refused by the database itself: every reference names the studio', async () => {
    const rows = (await server
      .db('information_schema.KEY_COLUMN_USAGE')
      .whereRaw('TABLE_SCHEMA = DATABASE() AND REFERENCED_TABLE_NAME IS NOT NULL')
      .whereNot({ REFERENCED_TABLE_NAME: 'studios' })
      .select({ name: 'CONSTRAINT_NAME', column: 'COLUMN_NAME' })) as { name: string; column: string }[];
    const names = new Set(rows.map(({ name }) => name));
    const withStudio = new Set(rows.filter(({ column }) => column === 'studio_id').map(({ name }) => name));
    expect(names.size).toBeGreaterThan(20);
    expect([...names].filter((one) => !withStudio.has(one))).toEqual([]);
    const { id: studioId } = await studioOf(server, own);
    await expectAsync(
      server.db('passages').where({ id: own.passageId }).update({ score_id: other.scoreId }),
    ).toBeRejectedWith(jasmine.objectContaining({ code: 'ER_NO_REFERENCED_ROW_2' }));
    await expectAsync(
      server.db('reps').where({ id: other.repId }).update({ studio_id: studioId }),
    ).toBeRejected();
  });
});

describe('one identifier', () => {
  let server: TestServer;
  let world: World;

  beforeAll(async () => {
    server = await startServer();
    world = await walkPath(server);
  });
  afterAll(() => server.db.destroy());

  const bodies: readonly (readonly [RouteName, () => object])[] = [
    ['createStudent', () => ({ id: newId(), name: 'Mara Thistledown', instrument: 'flute' })],
    ['createSheet', () => rightBody('createSheet', world) ?? {}],
    ['createPassage', () => ({ id: newId(), name: 'opening', from: '1', to: '4', target: null })],
    ['createCue', () => cueInput()],
    ['createRep', () => repInput()],
    ['createCalendarLink', () => ({ id: newId(), studentId: world.studentId })],
    ['createProgram', () => rightBody('createProgram', world) ?? {}],
    ['markFinding', () => ({ id: newId(), key: FINDING_KEY, measure: '9', mark: 'confirmed' })],
  ];
  for (const [name, make] of bodies)
    it(`sent ten times at once to ${name} is done once and answered ten times alike`, async () => {
      const sent = make();
      const answers = await Promise.all(
        Array.from({ length: 10 }, () => rightCall(name, world.browser, world, sent)),
      );
      expect(answers.map(({ status }) => status).filter((status) => status >= 300)).toEqual([]);
      expect(new Set(answers.map(({ body }) => JSON.stringify((body as { id?: string }).id))).size).toBe(1);
    });

  it('of a score stands for its music: the same again is taken, other music is not', async () => {
    const { browser, programPartId, scoreId } = world;
    const again = await browser.upload(programPartId, study('ferry-lines'), scoreId);
    const others = await browser.upload(programPartId, study('slack-water'), scoreId);
    expect([again.status, others.status]).toEqual([200, 409]);
    const file = await browser.call('readScoreFile', { scoreId }).buffer(true);
    expect(file.status).toBe(200);
  });

  it('used for something else is refused', async () => {
    const other = await walkPath(server);
    const again = { id: other.passageId, name: '', from: '1', to: '4', target: null };
    expect((await rightCall('createPassage', world.browser, world, again)).status).toBe(409);
    const cue = { ...cueInput(), id: other.cueId };
    expect((await rightCall('createCue', world.browser, world, cue)).status).toBe(409);
    const rep = repInput({ id: other.repId });
    expect((await rightCall('createRep', world.browser, world, rep)).status).toBe(409);
    const link = { id: other.linkId, studentId: world.studentId };
    expect((await rightCall('createCalendarLink', world.browser, world, link)).status).toBe(409);
  });
});
