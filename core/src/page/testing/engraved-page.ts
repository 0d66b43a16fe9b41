import sharp from 'sharp';
import createVerovioModule from 'verovio/wasm';
import { VerovioToolkit } from 'verovio/esm';
import type { BarlineKind } from '../index.js';

/** A page as it was engraved: its picture, and where everything stands. Units: fractions of the page */
export interface EngravedPage {
  readonly svg: string;
  readonly systems: readonly TrueSystem[];
}

/** A system of an engraved page. Units: fractions of the page; lists from left to right */
export interface TrueSystem {
  readonly top: number;
  readonly bottom: number;
  readonly left: number;
  readonly right: number;
  readonly staves: number;
  readonly barlines: readonly { readonly x: number; readonly kind: BarlineKind }[];
}

/** How a page is engraved. */
export interface EngravingOptions {
  readonly font: string;
  /** Height of a staff beside the usual one. Units: percent */
  readonly scale: number;
  readonly spacing: number;
}

/** Engraves MusicXML; gives its pages with the engraver's own geometry as truth. Source: Verovio, renderToSVG */
export async function pageEngraver(): Promise<
  (musicXml: string, options?: Partial<EngravingOptions>) => EngravedPage[]
> {
  const toolkit = new VerovioToolkit(await createVerovioModule());
  return (musicXml, { font = 'Leipzig', scale = 100, spacing = 8 } = {}) => {
    toolkit.resetOptions();
    toolkit.setOptions({
      ...{ pageWidth: (2100 * 100) / scale, pageHeight: (2970 * 100) / scale, scale, font },
      ...{
        footer: 'none',
        header: 'auto',
        pageMarginLeft: 180,
        pageMarginRight: 150,
        pageMarginTop: 150,
        breaks: 'auto',
        justifyVertically: false,
      },
      ...{ spacingSystem: spacing, condense: 'none' },
    });
    toolkit.loadData(musicXml);
    const pages: EngravedPage[] = [];
    for (let n = 1; n < 40; n += 1) {
      const svg = toolkit.renderToSVG(n);
      if (!svg.includes('class="measure"')) break;
      pages.push({ svg, systems: systemsOf(svg) });
      if (n >= pageCount(toolkit)) break;
    }
    return pages;
  };
}

function pageCount(toolkit: VerovioToolkit): number {
  return (toolkit as unknown as { getPageCount(): number }).getPageCount();
}

/** Draws an engraved page. Units: `widthPx` pixels. Shape: 0 is black, row after row */
export async function drawnPage(
  { svg }: EngravedPage,
  widthPx: number,
): Promise<{ width: number; height: number; data: Uint8Array }> {
  const { data, info } = await sharp(Buffer.from(svg), { density: 72 })
    .resize({ width: widthPx })
    .flatten({ background: '#ffffff' })
    .grayscale()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data: new Uint8Array(data) };
}

interface Stroke {
  readonly x: number;
  readonly top: number;
  readonly bottom: number;
  readonly width: number;
}

function systemsOf(svg: string): TrueSystem[] {
  const box = /viewBox="0 0 (?<w>\d+) (?<h>\d+)"/u.exec(svg);
  const margin = /class="page-margin" transform="translate\((?<x>[-\d.]+), (?<y>[-\d.]+)\)"/u.exec(svg);
  const [w, h] = [Number(box?.groups?.['w']), Number(box?.groups?.['h'])];
  const [dx, dy] = [Number(margin?.groups?.['x'] ?? 0), Number(margin?.groups?.['y'] ?? 0)];
  return svg
    .split('class="system"')
    .slice(1)
    .map((part) => {
      const lines = [
        ...part.matchAll(/<path d="M([\d.-]+) ([\d.-]+) L([\d.-]+) ([\d.-]+)" stroke-width="\d+" \/>/gu),
      ]
        .map(([, a, b, c, d]) => [a, b, c, d].map(Number) as [number, number, number, number])
        .filter(([x1, y1, x2, y2]) => y1 === y2 && x2 - x1 > 300);
      const ys = lines.map(([, y]) => y);
      const left = Math.min(...lines.map(([x]) => x));
      const right = Math.max(...lines.map(([, , x]) => x));
      const first = part.split('class="measure"')[1] ?? '';
      const staves = first.split('class="staff"').length - 1;
      return {
        top: (Math.min(...ys) + dy) / h,
        bottom: (Math.max(...ys) + dy) / h,
        left: (left + dx) / w,
        right: (right + dx) / w,
        staves,
        barlines: barlinesOf(part).map(({ x, kind }) => ({ x: (x + dx) / w, kind })),
      };
    });
}

/** Bar lines by their strokes; those after the clef end no measure. */
function barlinesOf(part: string): { readonly x: number; readonly kind: BarlineKind }[] {
  const found: { x: number; kind: BarlineKind }[] = [];
  const measures = part.split('class="measure"').slice(1);
  for (const [n, measure] of measures.entries()) {
    const [, from, to] = /<path d="M([\d.-]+) [\d.-]+ L([\d.-]+)/u.exec(measure) ?? [];
    const half = Number(from) + 0.6 * (Number(to) - Number(from));
    for (const own of measure.split('class="barLine"').slice(1)) {
      const inside = own.slice(0, own.indexOf('</g>'));
      const strokes = [
        ...inside.matchAll(/<path d="M([\d.-]+) ([\d.-]+) L([\d.-]+) ([\d.-]+)" stroke-width="([\d.]+)"/gu),
      ].map(([, x, top, , bottom, width]): Stroke => ({
        ...{ x: Number(x), top: Number(top), bottom: Number(bottom), width: Number(width) },
      }));
      if (strokes.length === 0) continue;
      const dots = [...inside.matchAll(/<ellipse cx="([\d.-]+)"|translate\(([\d.-]+), [\d.-]+\)/gu)].map(
        ([, a, b]) => Number(a ?? b),
      );
      const xs = [...new Set(strokes.map(({ x }) => x))].sort((a, b) => a - b);
      const x = ((xs[0] ?? 0) + (xs.at(-1) ?? 0)) / 2;
      const kind = kindOf(strokes, xs, dots);
      // A repeat that begins behind the clef ends no measure.
      if (n > 0 || kind !== 'repeat-start' || x > half) found.push({ x, kind });
    }
  }
  const sorted = found.sort((a, b) => a.x - b.x);
  return sorted.filter(({ x }, n) => n === 0 || x - (sorted[n - 1]?.x ?? 0) > 120);
}

function kindOf(strokes: readonly Stroke[], xs: readonly number[], dots: readonly number[]): BarlineKind {
  const [first = 0, last = 0] = [xs[0], xs.at(-1)];
  const before = dots.some((x) => x < first);
  const after = dots.some((x) => x > last);
  if (before && after) return 'repeat-both';
  if (before) return 'repeat-end';
  if (after) return 'repeat-start';
  if (strokes.some(({ width }) => width > 60)) return 'final';
  return xs.length > 1 ? 'double' : 'single';
}
