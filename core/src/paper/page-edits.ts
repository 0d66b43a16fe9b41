import type { BarlineKind } from '../page/index.js';
import {
  edgeAt,
  type BoxPlace,
  type LinePlace,
  type PaperBar,
  type PaperLine,
  type PaperPage,
} from './page-layout.js';

type Pages = readonly PaperPage[];

/** A rectangle on a page. Units: fractions of the page */
export interface PageRegion {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/** A box stands for so many measures at most (our own limit). */
const MOST_IN_A_BOX = 200;
/** A line has so many boxes at most (our own limit). */
const MOST_ON_A_LINE = 60;
/** Bar lines nearer than this are one. Units: fractions of the width */
const NEAREST = 0.004;
/** Clef and key take as much of a line before the first measure. Units: shares of the line */
const CLEF_SHARE = 0.06;

function withLine(pages: Pages, { page, line }: LinePlace, change: (line: PaperLine) => PaperLine): Pages {
  return pages.map((one, n) =>
    n === page ? { ...one, lines: one.lines.map((own, k) => (k === line ? change(own) : own)) } : one,
  );
}

function withBars(
  pages: Pages,
  at: LinePlace,
  change: (bars: readonly PaperBar[]) => readonly PaperBar[],
): Pages {
  return withLine(pages, at, (line) => ({ ...line, bars: change(line.bars) }));
}

/**
 * A bar line more: the box that it stands in becomes two.
 * Shape:  behind the last one it closes a box of its own; on a bar line that is there it says that it is sure
 * Units:  fractions of the width
 */
export function withBar(pages: Pages, at: LinePlace, x: number): Pages {
  const line = pages[at.page]?.lines[at.line];
  if (!line || x <= line.left + NEAREST || line.bars.length >= MOST_ON_A_LINE) return pages;
  const near = line.bars.findIndex((bar) => Math.abs(bar.x - x) < NEAREST);
  if (near >= 0) return withSureBar(pages, { ...at, box: near });
  const widened = withLine(pages, at, (own) => ({ ...own, right: Math.max(own.right, x) }));
  return withBars(widened, at, (bars) => {
    const added: PaperBar = { x, kind: 'single', count: 1, isDoubtful: false, asksCount: false };
    // What a box stood for, its two halves do not: four measures of rest are no longer in it.
    const freed = bars.map((bar, n) =>
      x < bar.x && x > (bars[n - 1]?.x ?? -1) ? { ...bar, count: 1 } : bar,
    );
    return [...freed, added].sort((a, b) => a.x - b.x);
  });
}

/** A bar line less: the box that it closed goes on into the next. */
export function withoutBar(pages: Pages, { box, ...at }: BoxPlace): Pages {
  return withBars(pages, at, (bars) => bars.filter((_, n) => n !== box));
}

/** A bar line elsewhere, between its neighbours. Units: fractions of the width */
export function withBarMoved(pages: Pages, { box, ...at }: BoxPlace, x: number): Pages {
  return withLine(pages, at, (line) => {
    const least = (line.bars[box - 1]?.x ?? line.left) + NEAREST;
    const most = (line.bars[box + 1]?.x ?? 1) - NEAREST;
    const place = Math.min(Math.max(x, least), Math.max(least, most));
    const bars = line.bars.map((bar, n) => (n === box ? { ...bar, x: place, isDoubtful: false } : bar));
    return { ...line, bars, right: Math.max(line.right, place) };
  });
}

/** A bar line that is one. */
export function withSureBar(pages: Pages, { box, ...at }: BoxPlace): Pages {
  return withBars(pages, at, (bars) =>
    bars.map((bar, n) => (n === box ? { ...bar, isDoubtful: false } : bar)),
  );
}

/** A bar line of a kind. */
export function withBarKind(pages: Pages, { box, ...at }: BoxPlace, kind: BarlineKind): Pages {
  return withBars(pages, at, (bars) =>
    bars.map((bar, n) => (n === box ? { ...bar, kind, isDoubtful: false } : bar)),
  );
}

/** A box that stands for so many measures, as a rest of many does. */
export function withCount(pages: Pages, { box, ...at }: BoxPlace, count: number): Pages {
  if (!Number.isInteger(count) || count < 1 || count > MOST_IN_A_BOX) return pages;
  return withBars(pages, at, (bars) =>
    bars.map((bar, n) => (n === box ? { ...bar, count, asksCount: false } : bar)),
  );
}

/** A line that begins with a printed number; null counts on from the line before. */
export function withFirst(pages: Pages, at: LinePlace, first: number | null): Pages {
  return withLine(pages, at, (line) => ({ ...line, first }));
}

/** A line left out, or taken in again. */
export function withLineOut(pages: Pages, at: LinePlace, isOut: boolean): Pages {
  return withLine(pages, at, (line) => ({ ...line, isOut }));
}

/** All lines whose middle lies in a region left out: another etude, a footer that was taken for music. */
export function withRegionOut(pages: Pages, page: number, region: PageRegion): Pages {
  return pages.map((one, n) =>
    n === page
      ? { ...one, lines: one.lines.map((line) => (isInside(line, region) ? { ...line, isOut: true } : line)) }
      : one,
  );
}

function isInside(line: PaperLine, { left, right, top, bottom }: PageRegion): boolean {
  const x = (line.left + line.right) / 2;
  const y = (edgeAt(line, line.top, x) + edgeAt(line, line.bottom, x)) / 2;
  return left <= x && x <= right && top <= y && y <= bottom;
}

/** A line of so many boxes, evenly, where bar lines could not be seen. */
export function withEvenBoxes(pages: Pages, at: LinePlace, boxes: number): Pages {
  if (!Number.isInteger(boxes) || boxes < 1 || boxes > MOST_ON_A_LINE) return pages;
  return withLine(pages, at, (line) =>
    line.bars.length === boxes ? line : { ...line, bars: evenBars(line, boxes) },
  );
}

function evenBars({ left, right, bars }: PaperLine, boxes: number): PaperBar[] {
  const clef = (right - left) * CLEF_SHARE;
  const width = (right - left - clef) / boxes;
  return Array.from({ length: boxes }, (_, n) => ({
    x: n === boxes - 1 ? right : left + clef + (n + 1) * width,
    kind: n === boxes - 1 ? (bars.at(-1)?.kind ?? 'single') : 'single',
    count: 1,
    isDoubtful: false,
    asksCount: false,
  }));
}

/**
 * The lines of a page with as many measures each as somebody counted: "4 5 4 4".
 * Shape:  in order of the lines that were not left out; null where that is no list of numbers, or longer than the lines
 */
export function withCounted(pages: Pages, page: number, text: string): Pages | null {
  const counts = text.trim().split(/[\s,;]+/u);
  const lines = (pages[page]?.lines ?? []).flatMap((line, n) => (line.isOut ? [] : [n]));
  const isRead = counts.every((one) => /^[1-9]\d?$/u.test(one) && Number(one) <= MOST_ON_A_LINE);
  if (!isRead || counts.length > lines.length) return null;
  return counts.reduce<Pages>(
    (all, count, n) => withEvenBoxes(all, { page, line: lines[n] ?? 0 }, Number(count)),
    pages,
  );
}

/** A line that was not found: drawn by hand, its boxes evenly. Shape: in the order of the page, from top to bottom */
export function withLineAdded(pages: Pages, page: number, region: PageRegion): Pages {
  const { left, right, top, bottom } = region;
  if (right - left < 0.05 || bottom - top < 0.004) return pages;
  const bare = {
    left,
    right,
    top: [top, top],
    bottom: [bottom, bottom],
    bars: [],
    first: null,
    isOut: false,
  };
  const line: PaperLine = { ...bare, bars: evenBars(bare, 4) };
  return pages.map((one, n) =>
    n === page
      ? { ...one, lines: [...one.lines, line].sort((a, b) => (a.top[0] ?? 0) - (b.top[0] ?? 0)) }
      : one,
  );
}
