import { readdirSync, readFileSync } from 'node:fs';
import sharp from 'sharp';
import { readPage, type GrayImage, type PageReading } from './index.js';
import { photograph } from './testing/camera.js';
import { drawnPage, pageEngraver, type EngravedPage } from './testing/engraved-page.js';

/** A bar line is found within so much of the page's width. */
const NEAR = 0.006;

/** What was found of an engraved page. */
interface Counted {
  readonly found: number;
  readonly missed: number;
  readonly invented: number;
  readonly kindsRight: number;
}

const NO_PAGE: PageReading = { width: 0, height: 0, angleDegrees: 0, isUpsideDown: false, systems: [] };
const NOTHING: Counted = { found: 0, missed: 0, invented: 0, kindsRight: 0 };

/** Holds a reading against the engraver's own geometry. */
function counted(
  { systems: truth }: EngravedPage,
  { systems }: PageReading,
  place: (x: number, y: number) => readonly [number, number] = (x, y) => [x, y],
): Counted {
  return truth.reduce((sum, own) => {
    const middle = (own.top + own.bottom) / 2;
    const y = place((own.left + own.right) / 2, middle)[1];
    const read = systems.find(({ top, bottom }) => top - 0.01 < y && y < bottom + 0.01);
    const left = new Set(read?.barlines ?? []);
    let [found, kindsRight] = [0, 0];
    for (const { x, kind } of own.barlines) {
      const at = place(x, middle)[0];
      const bar = [...left].find((one) => Math.abs(one.x - at) <= NEAR);
      if (!bar) continue;
      left.delete(bar);
      found += 1;
      if (bar.kind === kind) kindsRight += 1;
    }
    return {
      found: sum.found + found,
      missed: sum.missed + own.barlines.length - found,
      invented: sum.invented + left.size,
      kindsRight: sum.kindsRight + kindsRight,
    };
  }, NOTHING);
}

function added(a: Counted, b: Counted): Counted {
  return {
    found: a.found + b.found,
    missed: a.missed + b.missed,
    invented: a.invented + b.invented,
    kindsRight: a.kindsRight + b.kindsRight,
  };
}

// Measured against what Verovio draws; how well unseen pages are read is in docs/references.md.
describe('a page of printed music', () => {
  const folder = new URL('../../../demo/studies/', import.meta.url);
  const studies = readdirSync(folder).filter((name) => name.endsWith('.musicxml'));
  const text = (name: string): string => readFileSync(new URL(name, folder), 'utf8');
  let engrave: Awaited<ReturnType<typeof pageEngraver>>;

  beforeAll(async () => {
    engrave = await pageEngraver();
  });

  it('has its systems and bar lines found as the engraver placed them', async () => {
    let all = NOTHING;
    for (const [n, name] of studies.slice(0, 5).entries()) {
      const [page] = engrave(text(name), { font: ['Leipzig', 'Bravura', 'Leland'][n % 3] ?? 'Leipzig' });
      if (!page) throw new Error(name);
      const read = readPage(await drawnPage(page, 1654));
      expect([read.systems.length, read.isUpsideDown])
        .withContext(name)
        .toEqual([page.systems.length, false]);
      all = added(all, counted(page, read));
    }
    expect(all.found + all.missed).toBeGreaterThan(100);
    expect(all.missed / (all.found + all.missed)).toBeLessThan(0.01);
    expect(all.invented / all.found).toBeLessThan(0.01);
    expect(all.kindsRight / all.found).toBeGreaterThan(0.98);
  }, 60_000);

  it('is known to stand on its head', async () => {
    const [page] = engrave(text(studies[0] ?? ''));
    if (!page) throw new Error('no page');
    const { width, height, data } = await drawnPage(page, 1654);
    expect(readPage({ width, height, data: data.slice().reverse() }).isUpsideDown).toBeTrue();
  }, 60_000);

  it('is read from photographs: turned, from the side, bent, in a shadow, blurred and with noise', async () => {
    let all = NOTHING;
    for (const [seed, name] of studies.slice(0, 2).entries()) {
      const [page] = engrave(text(name));
      if (!page) throw new Error(name);
      const taken = photograph(await drawnPage(page, 2400), {
        ...{ seed: seed + 1, longSide: 2700, turn: 3, keystone: 0.08, bend: 0.01 },
        ...{ blur: 1, shadow: 0.35, noise: 6 },
      });
      all = added(all, counted(page, readPage(taken.image), taken.place));
    }
    expect(all.missed / (all.found + all.missed)).toBeLessThan(0.06);
    expect(all.invented / all.found).toBeLessThan(0.02);
  }, 60_000);

  it('takes the two staves of a grand staff for one system', async () => {
    const own = text(studies[0] ?? '');
    const part = /<part id="[^"]*">[\s\S]*<\/part>/u.exec(own)?.[0] ?? '';
    const grand = own
      .replace(
        '<part-list>',
        '<part-list><part-group number="1" type="start"><group-symbol>brace</group-symbol><group-barline>yes</group-barline></part-group>',
      )
      .replace(
        '</part-list>',
        '<score-part id="PX"><part-name>Low</part-name></score-part><part-group number="1" type="stop"/></part-list>',
      )
      .replace(
        '</score-partwise>',
        `${part.replace(/<part id="[^"]*">/u, '<part id="PX">')}</score-partwise>`,
      );
    const [page] = engrave(grand);
    if (!page) throw new Error('no page');
    const { systems } = readPage(await drawnPage(page, 1654));
    expect(systems.map(({ staves }) => staves)).toEqual(page.systems.map(() => 2));
    const { missed, found, invented } = counted(page, { ...NO_PAGE, systems });
    expect([missed <= 0.02 * (found + missed), invented]).toEqual([true, 0]);
  }, 60_000);

  // Verovio takes so many measures for one rest, and draws those of up to four in blocks of four, two and one, longer ones as a thick bar.
  it('has rests of several measures counted where they are drawn in parts, and else asked for', async () => {
    const rest = (count: number): string =>
      `<attributes><measure-style><multiple-rest>${count}</multiple-rest></measure-style></attributes><note><rest measure="yes"/><duration>16</duration></note></measure>`;
    const counts = new Map([
      [3, 4],
      [8, 2],
      [11, 12],
      [24, 6],
    ]);
    let own = 0;
    const xml = text('ferry-lines.musicxml').replace(
      /<measure number="\d+"[^>]*>[\s\S]*?<\/measure>/gu,
      (measure) => {
        own += 1;
        const count = counts.get(own);
        if (count === undefined) return measure;
        const bare = measure.replace(/<note[\s\S]*?<\/note>|<direction[\s\S]*?<\/direction>/gu, '');
        return bare.replace('</measure>', rest(count));
      },
    );
    const [page] = engrave(xml);
    if (!page) throw new Error('no page');
    const { systems } = readPage(await drawnPage(page, 1654));
    const found = systems
      .flatMap(({ measures }) => measures)
      .filter((one) => one.count > 1 || one.isLongRest);
    expect(found.map(({ count, isLongRest }) => (isLongRest ? null : count))).toEqual([4, 2, null, null]);
  }, 60_000);

  it('has no systems where there is no music', async () => {
    const lines = Array.from(
      { length: 44 },
      (_, n) =>
        `<text x="60" y="${90 + 22 * n}">The ferry leaves at ${n % 12} and comes back with the tide, as it did before.</text>`,
    );
    const rules = Array.from(
      { length: 9 },
      (_, n) => `<path d="M60 ${700 + 30 * n} H760 M${60 + 80 * n} 700 V940" stroke="#000"/>`,
    );
    const svg = (inside: string): Buffer =>
      Buffer.from(
        `<svg xmlns="http://www.w3.org/2000/svg" width="827" height="1170" font-size="17"><rect width="827" height="1170" fill="#fff"/>${inside}</svg>`,
      );
    for (const inside of ['', lines.join(''), rules.join(''), '<rect width="827" height="1170"/>']) {
      const { data, info } = await sharp(svg(inside), { density: 144 })
        .grayscale()
        .raw()
        .toBuffer({ resolveWithObject: true });
      const page: GrayImage = { width: info.width, height: info.height, data: new Uint8Array(data) };
      expect(readPage(page).systems).withContext(inside.slice(0, 40)).toEqual([]);
    }
  }, 60_000);
});
