import { zipSync } from 'fflate';
import { v7 as newId } from 'uuid';
import type { ProblemDetails } from '@vivid-cue/contract';
import { Browser, startServer, walkPath, type TestServer, type World } from './world.js';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

/** A file of so many measures with something in each. */
function longScore(count: number, inside: (n: number) => string): Uint8Array {
  const measures = Array.from(
    { length: count },
    (_, n) =>
      `<measure number="${n + 1}">${n === 0 ? '<attributes><divisions>1</divisions><time><beats>1</beats><beat-type>4</beat-type></time></attributes>' : ''}${inside(n)}</measure>`,
  );
  return bytes(
    `<score-partwise version="4.0"><part-list><score-part id="P1"><part-name>Clarinet</part-name></score-part></part-list><part id="P1">${measures.join('')}</part></score-partwise>`,
  );
}

const note = (step: string): string =>
  `<note><pitch><step>${step}</step><octave>4</octave></pitch><duration>1</duration></note>`;
const ending = (n: number): string =>
  `<barline location="left"><ending number="${(n % 9) + 1}" type="start"/></barline>${note('C')}<barline location="right"><ending number="${(n % 9) + 1}" type="stop"/><repeat direction="backward"/></barline>`;

/** A score as archives carry it. Source: MusicXML 4.0, compressed files */
function archived(file: Uint8Array): Uint8Array {
  const container = '<container><rootfiles><rootfile full-path="score.xml"/></rootfiles></container>';
  return zipSync({ 'META-INF/container.xml': bytes(container), 'score.xml': file });
}

describe('files made to hold the server up', () => {
  let server: TestServer;
  let world: World;
  let other: Browser;

  beforeAll(async () => {
    server = await startServer();
    world = await walkPath(server);
    other = await new Browser(server.app).openStudio();
  });
  afterAll(() => server.db.destroy());

  /** Sends a file and counts how often somebody else is served while it is read. */
  async function whileReading(file: Uint8Array): Promise<{ status: number; detail: string; served: number }> {
    let isOpen = true;
    let served = 0;
    const upload = world.browser.upload(world.programPartId, file, newId()).then((answer) => {
      isOpen = false;
      return answer;
    });
    while (isOpen) {
      const answer = await other.call('readSeason');
      if (answer.status === 200) served += 1;
    }
    const { status, body } = await upload;
    return { status, detail: (body as ProblemDetails).detail, served };
  }

  const files: readonly (readonly [name: string, file: () => Uint8Array])[] = [
    ['9,900 measures under endings, in 34 kB', () => archived(longScore(9900, ending))],
    [
      '9,900 measures in the place of other music',
      () => longScore(9900, (n) => note('CDEFGAB'[n % 7] ?? 'C')),
    ],
    ['ABC of nothing but braces', () => bytes(`X:1\nK:C\n${'{'.repeat(190_000)}`)],
    ['ABC of voices over voices', () => bytes(`X:1\nK:C\n${'&'.repeat(30_000)}\nCDEF|`)],
    ['ABC of slurs that never close', () => bytes(`X:1\nK:C\n${`${'(c'.repeat(600)}\n`.repeat(100)}`)],
    [
      'jumps to signs that are not there',
      () =>
        longScore(
          5000,
          () =>
            `<sound dalsegno="x"/>${note('D')}<barline location="right"><repeat direction="backward"/></barline>`,
        ),
    ],
  ];
  for (const [name, file] of files)
    it(`${name}: others are served meanwhile`, async () => {
      const { status, detail, served } = await whileReading(file());
      expect([200, 422]).toContain(status);
      if (status === 422) expect(detail).toMatch(/[.!]$/u);
      expect(served).toBeGreaterThan(0);
      expect((await other.call('readSeason')).status).toBe(200);
    });

  it('wait their turn: one of a studio is read at a time, and too many are refused in a sentence', async () => {
    const answers = await Promise.all(
      Array.from({ length: 9 }, () =>
        world.browser.upload(
          world.programPartId,
          longScore(700, () => note('E')),
          newId(),
        ),
      ),
    );
    const statuses = answers.map(({ status }) => status);
    expect(statuses).toContain(200);
    expect(statuses).toContain(503);
    const refused = answers.find(({ status }) => status === 503);
    expect((refused?.body as ProblemDetails).detail).toContain('still being read');
    expect(refused?.headers['retry-after']).toBe('5');
  });
});
