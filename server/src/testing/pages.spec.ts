import sharp from 'sharp';
import { v7 as newId } from 'uuid';
import { PAGE_LIMITS } from '@vivid-cue/core/page';
import { type PageView, type ProblemDetails, type StudentRecord } from '@vivid-cue/contract';
import { seededRandom } from '@vivid-cue/core/base';
import { readPaper, writePaper, type PaperPage } from '@vivid-cue/core/paper';
import { purgeRemoved } from '../jobs/purge.js';
import { Browser, expectStatus, FreshWorlds, pagePicture, studioOf } from './world.js';

const DAY_MS = 86_400_000;

describe('pages of printed music', () => {
  const worlds = new FreshWorlds();

  const picture = (pageId: string, size = 'whole', browser = worlds.world.browser) =>
    browser.raw('readPagePicture', '', { ids: { pageId }, headers: {}, query: { size } });
  const keep = (bytes: Uint8Array, id = newId()) =>
    worlds.world.browser.keepPage(worlds.world.programPartId, bytes, id);
  const paperOn = (pictures: readonly string[]): Uint8Array => {
    const pages = pictures.map((id): PaperPage => ({
      ...{ picture: id, width: 60, height: 80 },
      lines: [
        {
          ...{ left: 0.1, right: 0.9, top: [0.2, 0.2], bottom: [0.3, 0.3], first: null, isOut: false },
          bars: [0.5, 0.9].map((x) => ({ x, kind: 'single', count: 2, isDoubtful: false, asksCount: false })),
        },
      ],
    }));
    const line = `1–${4 * pictures.length + 20} 4/4; ♩=96`;
    return new TextEncoder().encode(writePaper({ title: null, line, typed: [], pages }));
  };
  const refusal = ({ status, body }: { readonly status: number; readonly body: unknown }) => [
    status,
    (body as ProblemDetails).code,
    (body as ProblemDetails).detail,
  ];

  it('are made anew: upright, in three sizes, with nothing of the camera or the place', async () => {
    // Exif 2.32: orientation 6 is a quarter turn; GPS names the place.
    const photograph = await sharp({ create: { width: 3000, height: 2000, channels: 3, background: '#ddd' } })
      .withExif({ IFD0: { Make: 'A camera' }, IFD3: { GPSLatitude: '1/1 2/1 3/1' } })
      .withMetadata({ orientation: 6 })
      .jpeg()
      .toBuffer();
    expect((await sharp(photograph).metadata()).exif).toBeDefined();
    const id = newId();
    const kept = await expectStatus(200, keep(photograph, id));
    expect(kept.body).toEqual({ id, width: 2000, height: 3000 } satisfies PageView);
    const sides: number[] = [];
    for (const size of ['whole', 'lines', 'view']) {
      const answer = await expectStatus(200, picture(id, size));
      expect(answer.headers).toEqual(
        jasmine.objectContaining({ 'content-type': 'image/jpeg', 'x-content-type-options': 'nosniff' }),
      );
      const { exif, height, format } = await sharp(answer.body as Buffer).metadata();
      expect([exif, format]).toEqual([undefined, 'jpeg']);
      sides.push(height ?? 0);
    }
    expect(sides).toEqual([3000, 2400, 1400]);
    // Sent again, it is the same page; another picture under its name is refused.
    expect((await expectStatus(200, keep(photograph, id))).body).toEqual(kept.body);
    expect(refusal(await keep(await pagePicture(), id)).slice(0, 2)).toEqual([409, 'id-taken']);
  });

  it('are refused by what they contain, in a sentence, and nothing of them is kept', async () => {
    const png = await pagePicture();
    const large = await pagePicture({ width: 8000, height: 5001 });
    const cut = (
      await sharp({ create: { width: 900, height: 900, channels: 3, background: '#123' } })
        .jpeg()
        .toBuffer()
    ).subarray(0, 2000);
    const wrong: readonly (readonly [Uint8Array | string, RegExp])[] = [
      ['%PDF-1.7 …', /A PDF is drawn page by page/u],
      ['<svg xmlns="http://www.w3.org/2000/svg"/>', /no whole picture/u],
      ['', /no whole picture/u],
      [png.subarray(0, 40), /no whole picture/u],
      [cut, /no whole picture/u],
      [large, /at most 40 megapixels; this one has 40/u],
    ];
    const { db } = worlds.server;
    const before = await db('pages').count({ n: '*' });
    for (const [bytes, sentence] of wrong) {
      const [status, code, detail] = refusal(await keep(Buffer.from(bytes as string)));
      expect([status, code]).toEqual([422, 'page-refused']);
      expect(detail).toMatch(sentence);
    }
    expect(refusal(await keep(new Uint8Array(PAGE_LIMITS.fileBytes + 1)))[0]).toBe(413);
    expect(await db('pages').count({ n: '*' })).toEqual(before);
  });

  it('answer in a sentence whatever is done to a picture', async () => {
    const whole = await sharp({ create: { width: 64, height: 64, channels: 3, background: '#abc' } })
      .png()
      .toBuffer();
    const other = await sharp(whole).jpeg().toBuffer();
    const random = seededRandom(20_261_129);
    for (let n = 0; n < 80; n += 1) {
      const bytes = Buffer.from(n % 2 ? whole : other);
      for (let k = 0; k < 1 + (n % 7); k += 1)
        bytes[Math.floor(random() * bytes.length)] = Math.floor(random() * 256);
      const { status, body } = await keep(bytes.subarray(0, n % 5 ? bytes.length : 10 + n));
      expect([200, 413, 422]).withContext(String(n)).toContain(status);
      if (status !== 200) expect((body as ProblemDetails).detail).toMatch(/[.]$/u);
    }
  });

  it('are at most twenty of a part', async () => {
    const png = await pagePicture();
    // One waits already.
    for (let n = 1; n < PAGE_LIMITS.pages; n += 1) await expectStatus(200, keep(png));
    expect(refusal(await keep(png))).toEqual([413, 'too-large', jasmine.stringMatching(/at most 20 pages/u)]);
  });

  it('belong to the score that names them, and a score that names others is refused', async () => {
    const { browser, programPartId, pageId } = worlds.world;
    const stranger = await new Browser(worlds.server.app).openStudio();
    expect((await picture(pageId, 'view', stranger)).status).toBe(404);
    expect(refusal(await browser.upload(programPartId, paperOn([newId()])))).toEqual([
      422,
      'page-refused',
      'A page of this music is not here any more; bring the pages again.',
    ]);
    await expectStatus(200, browser.upload(programPartId, paperOn([pageId])));
    const { server } = worlds;
    const { id: studioId } = await studioOf(server, worlds.world);
    const waiting = newId();
    await expectStatus(200, keep(await pagePicture(), waiting));
    await purgeRemoved(server.db, server.clock.nowMs + 8 * DAY_MS);
    const left = (await server.db('pages').where({ studio_id: studioId }).select('id')) as { id: string }[];
    expect(left.map(({ id }) => id)).toEqual([pageId]);
    await expectStatus(204, browser.call('eraseStudent', { studentId: worlds.world.studentId }));
    expect(await server.db('pages').where({ studio_id: studioId }).select('id')).toEqual([]);
    expect(await server.db('page_chunks').where({ studio_id: studioId }).select('page_id')).toEqual([]);
  });

  it('go along with a student’s record, under names of their own', async () => {
    const { browser, programPartId, pageId, studentId } = worlds.world;
    await expectStatus(200, browser.upload(programPartId, paperOn([pageId])));
    const record = (await expectStatus(200, browser.call('exportStudent', { studentId })))
      .body as StudentRecord;
    expect(record.pages?.map(({ id }) => id)).toEqual([pageId]);
    const stranger = await new Browser(worlds.server.app).openStudio();
    const fresh = newId();
    await expectStatus(
      201,
      stranger.raw('importRecord', JSON.stringify(record), {
        headers: { 'Content-Type': 'application/octet-stream' },
        query: { studentId: fresh },
      }),
    );
    const again = (await expectStatus(200, stranger.call('exportStudent', { studentId: fresh })))
      .body as StudentRecord;
    const [page] = again.pages ?? [];
    const files = again.scores.map(({ file }) => readPaper(Buffer.from(file, 'base64')));
    const named = files.flatMap((one) => (one.ok ? one.value.pages.map((own) => own.picture) : []));
    expect(named).toEqual([page?.id ?? '']);
    expect(page?.id).not.toBe(pageId);
    expect((await picture(page?.id ?? '', 'view', stranger)).status).toBe(200);
  });
});
