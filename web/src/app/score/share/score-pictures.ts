import type { CueView } from '@vivid-cue/contract';
import { inkColour, lookOf, type KindLook } from '@vivid-cue/core/cue-kinds';
import type { PageRow, PaperPage } from '@vivid-cue/core/paper';
import type { Span } from '@vivid-cue/core/score';
import { PAGE_WIDTH, pictureAt, rasterOf, UNITS_A_POINT } from '../../drill/raster';
import type { EngravedPart, Engraver } from '../../data/engraver';
import type { EngravedPicture } from '../../report/drill-sheet';
import { inkSigns } from '../../ui/ink-signs';
import { pictureOf } from '../../ui/svg-picture';

/**
 * A stretch of a score as pictures for paper, line by line.
 * Shape:  lines of measures that ask for about the same room
 * Errors: rejects where the engine cannot engrave the file
 */
export async function engravedLines(
  engraver: Engraver,
  part: EngravedPart,
  {
    span,
    weights,
    ...inks
  }: {
    readonly span: Span;
    readonly weights: readonly number[];
    readonly cues: readonly CueView[];
    readonly looks: readonly KindLook[];
  },
): Promise<EngravedPicture[]> {
  const whole = pictureOf(await engraver.excerpt(part, span));
  const [, , width = 1] = (whole.getAttribute('viewBox') ?? '').split(' ').map(Number);
  const rows = inRows(span, weights, Math.ceil((SLACK * width) / (PAGE_WIDTH * UNITS_A_POINT)));
  const pictures: EngravedPicture[] = [];
  for (const row of rows) {
    const picture = pictureOf(await engraver.excerpt(part, row));
    inkSigns(picture, row.fromIndex, inks);
    pictures.push(await rasterOf(picture));
  }
  return pictures;
}

/** Rows are never quite even: with so much room to spare they are about equally large. */
const SLACK = 1.08;

/** A span cut into so many rows of about the same weight. Shape: every row has a measure */
export function inRows({ fromIndex, endIndex }: Span, weights: readonly number[], count: number): Span[] {
  const own = weights.slice(fromIndex, endIndex);
  const total = own.reduce((sum, weight) => sum + weight, 0);
  const rows: Span[] = [];
  let [from, done] = [fromIndex, 0];
  for (let index = fromIndex; index < endIndex; index += 1) {
    const weight = weights[index] ?? 0;
    const isFull = done + weight / 2 >= ((rows.length + 1) * total) / count;
    if (isFull && index > from && rows.length < count - 1) {
      rows.push({ fromIndex: from, endIndex: index });
      from = index;
    }
    done += weight;
  }
  rows.push({ fromIndex: from, endIndex });
  return rows;
}

/** Print on paper is about so fine. Units: pixels on a point */
const FINER = 3;
/** Units: points */
const CUE_SIZE = 8;
/** Two cues have room over a row. Units: pixels */
const CUE_ROOM = CUE_SIZE * FINER * 2.6;

/** What is written over a row. Shape: `cuesAt` by printed number */
interface RowInks {
  readonly cuesAt: ReadonlyMap<number, readonly CueView[]>;
  readonly looks: readonly KindLook[];
}

/**
 * Rows of pages with their cues written over the measures they stand at.
 * Errors: rejects where a page's picture cannot be read
 */
export async function pagedLines(
  rows: readonly PageRow[],
  {
    pages,
    urlOf,
    ...inks
  }: RowInks & { readonly pages: readonly PaperPage[]; readonly urlOf: (row: PageRow) => string },
): Promise<EngravedPicture[]> {
  const lines: EngravedPicture[] = [];
  const images = new Map<string, HTMLImageElement>();
  for (const row of rows) {
    const page = pages[row.page];
    if (!page) continue;
    const url = urlOf(row);
    const image = images.get(url) ?? (await pictureAt(url));
    images.set(url, image);
    lines.push(pagedLine(image, { row, page }, inks));
  }
  return lines;
}

function pagedLine(
  image: HTMLImageElement,
  cut: { readonly row: PageRow; readonly page: PaperPage },
  cues: RowInks,
): EngravedPicture {
  const { row, page } = cut;
  const [wide, high] = [(row.right - row.left) * page.width, (row.bottom - row.top) * page.height];
  const scale = (PAGE_WIDTH * FINER) / wide;
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [Math.round(wide * scale), Math.round(high * scale + CUE_ROOM)];
  const context = canvas.getContext('2d');
  if (!context) throw new Error('This browser draws no pictures; print the cue sheet instead.');
  context.fillStyle = '#fff';
  context.fillRect(0, 0, canvas.width, canvas.height);
  drawCut(context, image, { ...cut, scale });
  for (const { number, left } of row.measures)
    (cues.cuesAt.get(number) ?? []).slice(0, 2).forEach(({ kind, sign, text }, n) => {
      context.font = `bold ${CUE_SIZE * FINER}px "Atkinson Hyperlegible Next", sans-serif`;
      context.fillStyle = inkColour(lookOf(kind, cues.looks).ink);
      const y = CUE_SIZE * FINER * (1 + n * 1.2);
      context.fillText(`${sign} ${text}`.trim(), left * canvas.width + 4, y, canvas.width * 0.45);
    });
  return { image: canvas.toDataURL('image/jpeg', 0.9), width: PAGE_WIDTH };
}

/** The row upright, below the room that its cues have. */
function drawCut(
  context: CanvasRenderingContext2D,
  image: HTMLImageElement,
  { row, page, scale }: { readonly row: PageRow; readonly page: PaperPage; readonly scale: number },
): void {
  const { canvas } = context;
  const x = ((row.left + row.right) / 2) * page.width;
  const y = ((row.top + row.bottom) / 2) * page.height;
  context.save();
  context.beginPath();
  context.rect(0, CUE_ROOM, canvas.width, canvas.height - CUE_ROOM);
  context.clip();
  context.translate(0, CUE_ROOM);
  context.scale(scale, scale);
  context.translate(x - row.left * page.width, y - row.top * page.height);
  context.rotate(-row.angle);
  context.drawImage(image, -x, -y, page.width, page.height);
  context.restore();
}
