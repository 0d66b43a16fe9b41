import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createCanvas } from '@napi-rs/canvas';
import sharp from 'sharp';
import { seededRandom } from '@vivid-cue/core/base';
import { runAnyCommand } from './run-command.js';

interface Printed {
  readonly pages: readonly {
    readonly systems: readonly {
      readonly top: number;
      readonly staves: number;
      readonly barlines: readonly { readonly x: number; readonly kind: string }[];
      readonly measures: readonly { readonly left: number; readonly right: number; readonly count: number }[];
    }[];
  }[];
}

/** Bar lines of each staff that is drawn. Units: points of a page of 595 × 842 */
const BARS = [200, 300, 400, 540];
const STAVES = [120, 240, 360];

/** A PDF of one page with staves and one without. Source: ISO 32000-1, the least that is a file */
function pdf(): string {
  const lines = STAVES.flatMap((top) => [
    ...[0, 1, 2, 3, 4].map((n) => `60 ${842 - top - 5 * n} m 540 ${842 - top - 5 * n} l S`),
    ...BARS.map((x) => `${x} ${842 - top} m ${x} ${842 - top - 20} l S`),
  ]);
  const content = `0.6 w\n${lines.join('\n')}`;
  const objects = [
    '<< /Type /Catalog /Pages 2 0 R >>',
    '<< /Type /Pages /Kids [3 0 R 5 0 R] /Count 2 >>',
    '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] /Contents 4 0 R >>',
    `<< /Length ${content.length} >>\nstream\n${content}\nendstream`,
    '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] >>',
  ];
  let text = '%PDF-1.4\n';
  const places = objects.map((object, n) => {
    const at = text.length;
    text += `${n + 1} 0 obj\n${object}\nendobj\n`;
    return at;
  });
  const table = places.map((at) => `${String(at).padStart(10, '0')} 00000 n \n`).join('');
  return `${text}xref\n0 6\n0000000000 65535 f \n${table}trailer << /Size 6 /Root 1 0 R >>\nstartxref\n${text.length}\n%%EOF\n`;
}

describe('vivid-cue page', () => {
  const folder = mkdtempSync(join(tmpdir(), 'vivid-cue-page-'));
  const file = (name: string, bytes: string | Uint8Array): string => {
    writeFileSync(join(folder, name), bytes);
    return name;
  };
  const printed = async (...args: readonly string[]): Promise<Printed> => {
    const { exitCode, text } = await runAnyCommand(['page', ...args, '--json'], folder);
    expect(exitCode).withContext(text).toBe(0);
    return JSON.parse(text) as Printed;
  };

  afterAll(() => rmSync(folder, { recursive: true, force: true }));

  it('prints the measures of each page of a PDF, where they were drawn', async () => {
    const { pages } = await printed(file('two.pdf', pdf()));
    expect(pages.map(({ systems }) => systems.length)).toEqual([STAVES.length, 0]);
    for (const [n, system] of (pages[0]?.systems ?? []).entries()) {
      expect(system.top).toBeCloseTo((STAVES[n] ?? 0) / 842, 2);
      expect(system.staves).toBe(1);
      expect(system.barlines.map(({ kind }) => kind)).toEqual(BARS.map(() => 'single'));
      system.barlines.forEach(({ x }, at) => expect(x).toBeCloseTo((BARS[at] ?? 0) / 595, 2));
      expect(system.measures.map(({ count }) => count)).toEqual([1, 1, 1, 1]);
      expect(system.measures[1]?.left).toBe(system.barlines[0]?.x);
    }
    expect((await printed('two.pdf', '--page', '2')).pages).toEqual([pages[1]] as never);
  });

  it('reads a picture as it reads a PDF', async () => {
    const canvas = createCanvas(1190, 1684);
    const context = canvas.getContext('2d');
    context.fillStyle = '#ffffff';
    context.fillRect(0, 0, 1190, 1684);
    context.fillStyle = '#000000';
    for (const top of STAVES) {
      for (const n of [0, 1, 2, 3, 4]) context.fillRect(120, 2 * (top + 5 * n), 960, 1.4);
      for (const x of BARS) context.fillRect(2 * x - 1, 2 * top, 2.4, 40);
    }
    const { pages } = await printed(file('page.png', canvas.toBuffer('image/png')));
    expect(pages[0]?.systems.map(({ barlines }) => barlines.length)).toEqual([4, 4, 4]);
  });

  it('says in a sentence what is no page', async () => {
    const refused = async (...args: readonly string[]): Promise<string> => {
      const { exitCode, text } = await runAnyCommand(['page', ...args], folder);
      expect(exitCode).toBe(2);
      return text;
    };
    expect(await refused()).toContain('Which page?');
    expect(await refused('none.pdf')).toContain('There is no file');
    expect(await refused(file('letter.txt', 'Dear all'))).toContain('neither a whole picture');
    expect(await refused(file('broken.pdf', '%PDF-1.4\nnothing of one'))).toContain('This PDF is broken');
    expect(await refused(file('cut.png', new Uint8Array([137, 80, 78, 71, 13, 10, 26, 10, 0])))).toContain(
      'neither a whole picture',
    );
    const huge = await sharp({ create: { width: 8000, height: 5100, channels: 3, background: '#fff' } })
      .png()
      .toBuffer();
    expect(await refused(file('huge.png', huge))).toContain('at most 40 megapixels; 41 came');
    expect(await refused(file('two.pdf', pdf()), '--page', '3')).toBe(
      'This PDF has 2 pages; page 3 was asked for.',
    );
    expect(await refused('two.pdf', '--page', 'x')).toBe('--page counts from 1; x came.');
    expect(await refused(file('large.pdf', new Uint8Array(20 * 1024 * 1024 + 1)))).toContain('at most 20 MB');
  });

  it('answers 300 spoilt pictures and PDFs with a result or a sentence, each in bounded time and memory', async () => {
    // Slim pages, so that many can be tried.
    const picture = sharp({ create: { width: 16, height: 640, channels: 3, background: '#f4f0e6' } });
    const seeds: readonly (readonly [string, Buffer])[] = [
      ['png', await picture.png().toBuffer()],
      ['jpg', await picture.jpeg().toBuffer()],
      ['pdf', Buffer.from(pdf().replaceAll('595 842', '016 842'))],
    ];
    const random = seededRandom(20_261_129);
    let [slowest, read] = [0, 0];
    for (let n = 0; n < 300; n += 1) {
      const [kind, whole] = seeds[n % seeds.length] ?? ['png', Buffer.alloc(0)];
      const bytes = Buffer.from(
        n % 11 === 5 ? whole.subarray(0, Math.floor(random() * whole.length)) : whole,
      );
      for (let k = 0; k < 1 + (n % 9); k += 1)
        if (bytes.length > 0) bytes[Math.floor(random() * bytes.length)] = Math.floor(random() * 256);
      const began = performance.now();
      const { exitCode, text } = await runAnyCommand(
        ['page', file(`spoilt.${kind}`, bytes), '--page', '1'],
        folder,
      );
      slowest = Math.max(slowest, performance.now() - began);
      expect([0, 2])
        .withContext(`${n} ${text.slice(0, 200)}`)
        .toContain(exitCode);
      if (exitCode === 0) read += 1;
      else expect(text).withContext(String(n)).toMatch(/\.$/u);
    }
    expect(read).toBeGreaterThan(30);
    expect(slowest).toBeLessThan(30_000);
    expect(process.memoryUsage().rss).toBeLessThan(1.5e9);
  }, 300_000);
});
