import { boxesOf, edgeAt, type PaperBox, type PaperLine, type PaperPage } from './page-layout.js';

/** A measure on a row of a page. Shape: several measures of one box share it evenly. Units: shares of the row's width */
export interface RowMeasure {
  readonly number: number;
  readonly left: number;
  readonly right: number;
}

/**
 * A row cut out of a page: a line of music, or the measures of a passage that stand on it.
 * Shape:  the picture is turned by `-angle` round the middle of the row, then cut
 * Units:  fractions of the page; radians, clockwise; `staff` is where its staves are, as shares of the row's height
 */
export interface PageRow {
  readonly picture: string;
  readonly page: number;
  readonly line: number;
  readonly angle: number;
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
  /** Height of the row beside its width, in pixels of the picture. */
  readonly aspect: number;
  readonly staff: { readonly top: number; readonly bottom: number };
  readonly measures: readonly RowMeasure[];
}

/** What is shown beside a line's own boxes, and at most above and below them. Units: fractions of the width; heights of a line */
const MARGIN = 0.012;
const MOST_BESIDE = 1.6;
/** A staff of one line is as high as nothing: so much is shown of it. Units: fractions of the height */
const LEAST_HEIGHT = 0.012;

/** Which rows are wanted. Shape: `most` is how wide one may be, beside the page. Units: printed numbers, both included */
export interface RowWish {
  /** As boxesOf. */
  readonly start?: number;
  readonly from?: number;
  readonly to?: number;
  readonly most?: number;
}

/**
 * The rows of pages on which measures stand, each cut out upright, wide lines broken into rows that fit.
 * Shape:  in order of reading; with `from` and `to` only those measures; at least one box a row
 */
export function rowsOfPages(
  pages: readonly PaperPage[],
  { start = 1, from = -Infinity, to = Infinity, most = 1 }: RowWish = {},
): PageRow[] {
  const rows: PaperBox[][] = [];
  for (const box of boxesOf(pages, start)) {
    if (box.number > to || box.number + box.count - 1 < from) continue;
    const row = rows.at(-1);
    const [first] = row ?? [];
    const isSameLine = first?.page === box.page && first.line === box.line;
    if (row && first && isSameLine && box.right - first.left <= most) row.push(box);
    else rows.push([box]);
  }
  return rows.flatMap((boxes) => rowOf(pages, boxes, { from, to }) ?? []);
}

function rowOf(
  pages: readonly PaperPage[],
  boxes: readonly PaperBox[],
  { from, to }: { readonly from: number; readonly to: number },
): PageRow | null {
  const [first, last] = [boxes[0], boxes.at(-1)];
  const page = first && pages[first.page];
  const line = first && page?.lines[first.line];
  if (!first || !last || !page || !line) return null;
  const left = Math.max(0, first.left - MARGIN);
  const right = Math.min(1, last.right + MARGIN);
  const middle = (left + right) / 2;
  const [staffTop, staffBottom] = [edgeAt(line, line.top, middle), edgeAt(line, line.bottom, middle)];
  const { top, bottom } = reachOf(page, first.line, { middle, staffTop, staffBottom });
  const rise = edgeAt(line, line.top, line.right) - edgeAt(line, line.top, line.left);
  const share = (y: number): number => (y - top) / (bottom - top);
  return {
    ...{ picture: page.picture, page: first.page, line: first.line, left, right, top, bottom },
    angle: Math.atan2(rise * page.height, (line.right - line.left) * page.width),
    aspect: ((bottom - top) * page.height) / ((right - left) * page.width),
    staff: { top: share(staffTop), bottom: share(staffBottom) },
    measures: boxes.flatMap((box) => measuresOf(box, { left, width: right - left, from, to })),
  };
}

/** How far above and below its staves a row reaches: half way to the next line, and not too far. */
function reachOf(
  { lines }: PaperPage,
  at: number,
  {
    middle,
    staffTop,
    staffBottom,
  }: { readonly middle: number; readonly staffTop: number; readonly staffBottom: number },
): { readonly top: number; readonly bottom: number } {
  const height = Math.max(LEAST_HEIGHT, staffBottom - staffTop);
  const ends = (n: number, edge: (line: PaperLine) => readonly number[]): number | null => {
    const line = lines[n];
    return line ? edgeAt(line, edge(line), middle) : null;
  };
  const above = ends(at - 1, ({ bottom }) => bottom);
  const below = ends(at + 1, ({ top }) => top);
  // What belongs to a line stands rather near it: notes with ledger lines reach over the middle.
  const room = (gap: number): number => Math.min(MOST_BESIDE * height, Math.max(0.5 * height, 0.62 * gap));
  return {
    top: Math.max(0, staffTop - room(above === null ? Infinity : staffTop - above)),
    bottom: Math.min(1, staffBottom + room(below === null ? Infinity : below - staffBottom)),
  };
}

function measuresOf(
  { number, count, left, right }: PaperBox,
  row: { readonly left: number; readonly width: number; readonly from: number; readonly to: number },
): RowMeasure[] {
  const each = (right - left) / count;
  return Array.from({ length: count }, (_, n) => ({
    number: number + n,
    left: (left + n * each - row.left) / row.width,
    right: (left + (n + 1) * each - row.left) / row.width,
  })).filter((one) => one.number >= row.from && one.number <= row.to);
}
