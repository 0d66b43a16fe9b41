import fc from 'fast-check';
import {
  ROUTE_INPUTS,
  ROUTES,
  type ProblemDetails,
  type RouteInput,
  type RouteName,
} from '@vivid-cue/contract';
import { gzipSync } from 'fflate';
import { rightBody } from './requests.js';
import { Browser, rehearsed, startServer, study, walkPath, type TestServer, type World } from './world.js';

/** Values that somebody sends who means no good, or whose program is broken. */
const ODD: fc.Arbitrary<unknown> = fc.oneof(
  fc.constantFrom<unknown>(
    null,
    '',
    '\0',
    '\ud800',
    'x'.repeat(5000),
    '‮Ilse',
    '2027-02-30',
    '9999-99-99T99:99:99Z',
    '1969-12-31T23:59:59Z',
    '123456789012345678901234567890',
    -1,
    0.1,
    1e308,
    -0,
    Number.MAX_SAFE_INTEGER + 2,
    true,
    [],
    {},
    [[[[[]]]]],
    { toString: 1 },
    { length: 1e9 },
    ["'; DROP TABLE students; --"],
    JSON.parse('{"__proto__": {"isAdmin": true}}'),
    JSON.parse(`${'['.repeat(60)}${']'.repeat(60)}`),
  ),
  fc.string({ unit: 'binary', maxLength: 60 }),
  fc.double(),
  fc.jsonValue(),
);

/** All places in a value. */
function placesIn(value: unknown, path: readonly string[] = []): (readonly string[])[] {
  const inner =
    value !== null && typeof value === 'object'
      ? Object.entries(value).flatMap(([key, one]) => placesIn(one, [...path, key]))
      : [];
  return [path, ...inner];
}

function withValue(value: unknown, [step, ...rest]: readonly string[], odd: unknown): unknown {
  if (step === undefined) return odd;
  if (Array.isArray(value))
    return value.map((one, n) => (String(n) === step ? withValue(one, rest, odd) : one));
  const own = value as Readonly<Record<string, unknown>>;
  return { ...own, [step]: withValue(own[step], rest, odd) };
}

/** Routes that would end what the others are tried in. */
const ENDING: readonly RouteName[] = ['signOut', 'removeStudio', 'changePassword', 'eraseStudent'];
const RUNS = 90;

describe('whatever is sent', () => {
  let server: TestServer;
  let world: World;

  beforeAll(async () => {
    server = await startServer();
    world = await rehearsed(server, await walkPath(server));
  });
  afterAll(() => server.db.destroy());

  const isCalm = ({ status, body }: { status: number; body: unknown }, what: string): void => {
    const detail = (body as Partial<ProblemDetails> | null)?.detail ?? '';
    expect(status).withContext(`${what} ${detail}`).toBeLessThan(500);
    if (status >= 400) expect(detail).withContext(what).toMatch(/\S/u);
  };

  const withBody = (Object.entries(ROUTE_INPUTS) as [RouteName, RouteInput][]).filter(
    ([name, { body }]) => body !== undefined && !ENDING.includes(name),
  );
  for (const [name] of withBody)
    it(`${name} answers in a sentence: one odd value anywhere in what is right`, async () => {
      // Signing in and opening studios leave the session that the others are tried in, and cost a hash each.
      const isOpen = ROUTES[name].access === 'open';
      const browser = isOpen ? new Browser(server.app) : world.browser;
      if (isOpen) await browser.refresh();
      await fc.assert(
        fc.asyncProperty(fc.nat(), ODD, async (at, odd) => {
          const right = rightBody(name, world) ?? { email: 'a@studio.example', password: 'x' };
          const places = placesIn(right);
          const sent = withValue(right, places[at % places.length] ?? [], odd);
          const text = JSON.stringify(sent) ?? '';
          const ids = { ...world, sheetId: world.sheet.id } as unknown as Readonly<Record<string, string>>;
          const headers = { 'Content-Type': 'application/json', 'If-Match': '"1"' };
          isCalm(await browser.raw(name, text, { ids, headers }), `${name} ${text.slice(0, 300)}`);
        }),
        { numRuns: isOpen ? 40 : RUNS },
      );
      expect(name).not.toBe('');
    });

  it('in a query or a header is answered in a sentence', async () => {
    const queries = [
      'id=x&fileName=a.xml',
      'id=1&id=2&fileName=a',
      '__proto__[x]=1&fileName=a',
      'fileName=%00',
      'fileName=%E0%A4%A',
      `id=${'9'.repeat(4000)}`,
      `partId=${'P'.repeat(200)}&fileName=a&id=01900000-0000-7000-8000-000000000000`,
      '',
    ];
    for (const query of queries)
      isCalm(await world.browser.uploadAt(world.programPartId, study('ferry-lines'), query), query);
    for (const version of ['"x"', '1e99', '99999999999999999999', '', '\u00e9'])
      isCalm(
        await world.browser.call(
          'changeStudent',
          { studentId: world.studentId },
          { name: 'A', instrument: 'b' },
          { 'If-Match': version },
        ),
        version,
      );
  });

  it('as a broken or packed body is answered in a sentence', async () => {
    const send = (body: Uint8Array | string, headers: Readonly<Record<string, string>>) =>
      world.browser.raw('createStudent', body, { headers });
    const json = { 'Content-Type': 'application/json' };
    isCalm(await send('{"id":', json), 'half');
    isCalm(await send('[1,2', json), 'half a list');
    isCalm(await send('"text"', json), 'a text');
    isCalm(
      await send(new Uint8Array([0x1f, 0x8b, 8, 0, 1, 2, 3]), { ...json, 'Content-Encoding': 'gzip' }),
      'broken gzip',
    );
    isCalm(
      await send(gzipSync(new TextEncoder().encode('{"a":1}')).subarray(0, 12), {
        ...json,
        'Content-Encoding': 'gzip',
      }),
      'cut gzip',
    );
    isCalm(await send('{}', { ...json, 'Content-Encoding': 'made-up' }), 'unknown packing');
    isCalm(await send('{}', { 'Content-Type': 'application/json; charset=made-up' }), 'unknown letters');
    isCalm(await send('x'.repeat(1_200_000), json), 'too long');
    isCalm(await send(`${'{"a":'.repeat(5000)}1${'}'.repeat(5000)}`, json), 'nested deep');
    const long = await send(JSON.stringify({ text: 'x'.repeat(1_200_000) }), json);
    expect([long.status, (long.body as ProblemDetails).detail]).toEqual([
      413,
      jasmine.stringMatching(/at most 1 MB/u),
    ]);
  });

  it('in a score is refused or taken in a sentence', async () => {
    const text = new TextDecoder().decode(study('ferry-lines'));
    const odd = [
      text.replaceAll('number="9"', 'number="123456789012345678901234567890"'),
      text.replaceAll('P1', 'P'.repeat(90)),
      text.replace(
        '</measure>',
        `<barline><ending number="${Array.from({ length: 20_000 }, (_, n) => n + 1).join(',')}" type="start"/></barline></measure>`,
      ),
      text.replace(/<work-title>[^<]*/u, `<work-title>${'t'.repeat(3000)}`),
      text.replaceAll('<duration>', '<duration>99999999999999999999'),
    ];
    for (const file of odd)
      isCalm(
        await world.browser.upload(world.programPartId, new TextEncoder().encode(file)),
        file.slice(0, 60),
      );
  });

  // Names that nobody can read, and days that no rep was played on.
  it('as a name without letters, with line breaks, or a rep of the future is refused beside its field', async () => {
    const { browser, passageId } = world;
    for (const name of ['\u200b\u200b', '…', 'Ilse\nVantongeren', 'Ilse\0', '🎷']) {
      const input = { ...(rightBody('createStudent', world) ?? {}), name };
      expect((await browser.call('createStudent', {}, input)).status)
        .withContext(JSON.stringify(name))
        .toBe(422);
    }
    for (const at of ['1969-12-31T23:59:59.000Z', '2027-02-30T10:00:00.000Z', '2031-01-01T10:00:00.000Z']) {
      const refused = await browser.call(
        'createRep',
        { passageId },
        { ...rightBody('createRep', world), at },
      );
      expect([refused.status, (refused.body as ProblemDetails).issues?.[0]?.where])
        .withContext(at)
        .toEqual([422, 'at']);
    }
    const ahead = {
      ...rightBody('createRep', world),
      at: new Date(server.clock.nowMs + 3_600_000).toISOString(),
    };
    expect((await browser.call('createRep', { passageId }, ahead)).status).toBe(201);
  });
});
