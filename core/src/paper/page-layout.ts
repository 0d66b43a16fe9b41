import type { BarlineKind, PageReading } from '../page/index.js';
import type { ToldRepeat } from './told.js';

/** A bar line of a line of music. Shape: `count` is how many measures the box before it stands for. Units: fractions of the width */
export interface PaperBar {
  readonly x: number;
  readonly kind: BarlineKind;
  readonly count: number;
  /** Whether it may be none. */
  readonly isDoubtful: boolean;
  /** Whether the box before it holds a rest of several measures whose number is not told yet. */
  readonly asksCount: boolean;
}

/**
 * A line of music on a page.
 * Shape:  `top` and `bottom` of its staves at places that lie evenly from left to right, both included; bar lines ascending,
 *         the last one closes the last box; `first` is the printed number of its first box, null where it counts on
 * Units:  fractions of the page
 */
export interface PaperLine {
  readonly left: number;
  readonly right: number;
  readonly top: readonly number[];
  readonly bottom: readonly number[];
  readonly bars: readonly PaperBar[];
  readonly first: number | null;
  /** Belongs to other music. */
  readonly isOut: boolean;
}

/** A page of the music. Shape: `picture` is its identifier. Units: pixels of the picture */
export interface PaperPage {
  readonly picture: string;
  readonly width: number;
  readonly height: number;
  readonly lines: readonly PaperLine[];
}

/** Where a line is. Shape: counted from 0 */
export interface LinePlace {
  readonly page: number;
  readonly line: number;
}
/** Where a box is, or the bar line that closes it. Shape: counted from 0 */
export interface BoxPlace extends LinePlace {
  readonly box: number;
}

/** A box with the measures that it stands for. Shape: `number` is that of the first. Units: fractions of the page */
export interface PaperBox extends BoxPlace {
  readonly number: number;
  readonly count: number;
  readonly left: number;
  readonly right: number;
}

/**
 * The boxes of pages in the order of reading, numbered.
 * Shape:  without lines that were left out; a line that says its first number counts from there
 * Units:  printed numbers; `start` is that of the very first measure, one less than the first where there is a pickup
 */
export function boxesOf(pages: readonly PaperPage[], start = 1): PaperBox[] {
  let next = start;
  return pages.flatMap(({ lines }, page) =>
    lines.flatMap((one, line) => {
      if (one.isOut) return [];
      next = one.first ?? next;
      return one.bars.map(({ x, count }, box): PaperBox => {
        const left = one.bars[box - 1]?.x ?? one.left;
        const number = next;
        next += count;
        return { page, line, box, number, count, left, right: x };
      });
    }),
  );
}

/** A line whose first number cannot be: the line before it has as many measures too many. */
export interface NumberClash extends LinePlace {
  readonly first: number;
  /** The last number before it. */
  readonly before: number;
}

/** Where a line is said to begin with a number that the lines before it have used already. */
export function clashesOf(pages: readonly PaperPage[], start = 1): NumberClash[] {
  let before: number | null = null;
  const clashes: NumberClash[] = [];
  for (const { page, line, box, number, count } of boxesOf(pages, start)) {
    if (box === 0 && before !== null && number <= before) clashes.push({ page, line, first: number, before });
    before = number + count - 1;
  }
  return clashes;
}

/**
 * The repeats that bar lines show, without their endings.
 * Shape:  each goes back to the sign before it, or to where the one before it ended
 * Units:  printed numbers
 */
export function repeatsOfPages(pages: readonly PaperPage[], start = 1): ToldRepeat[] {
  const repeats: ToldRepeat[] = [];
  let from: number | null = null;
  for (const { page, line, box, number, count } of boxesOf(pages, start)) {
    from ??= number;
    const { kind } = barAt(pages, { page, line, box }) ?? { kind: 'single' };
    const to = number + count - 1;
    if (kind === 'repeat-end' || kind === 'repeat-both') repeats.push({ from, to, times: 2, endings: [] });
    if (kind !== 'single' && kind !== 'double') from = to + 1;
  }
  return repeats;
}

/** The bar line that closes a box. */
export function barAt(pages: readonly PaperPage[], { page, line, box }: BoxPlace): PaperBar | undefined {
  return pages[page]?.lines[line]?.bars[box];
}

/** The line of a place. */
export function lineAt(pages: readonly PaperPage[], { page, line }: LinePlace): PaperLine | undefined {
  return pages[page]?.lines[line];
}

/** Where the staves of a line begin or end at a place. Units: fractions of the page */
export function edgeAt({ left, right }: PaperLine, edge: readonly number[], x: number): number {
  const steps = edge.length - 1;
  const at = Math.min(1, Math.max(0, (x - left) / Math.max(1e-9, right - left))) * steps;
  const [before, after] = [Math.floor(at), Math.min(steps, Math.floor(at) + 1)];
  const [a = 0, b = 0] = [edge[before], edge[after]];
  return a + (b - a) * (at - before);
}

/**
 * What a number becomes after boxes were corrected: the place in the music stays, its number follows.
 * Shape:  null where the place is gone
 * Units:  printed numbers
 */
export function numberAfter(
  before: readonly PaperBox[],
  after: readonly PaperBox[],
  number: number,
): number | null {
  const here = before.find((one) => one.number <= number && number < one.number + one.count);
  if (!here) return null;
  const middle = (here.left + here.right) / 2;
  const isSame = (one: PaperBox): boolean => one.page === here.page && one.line === here.line;
  const there =
    after.find((one) => isSame(one) && Math.abs(one.left - here.left) < SAME) ??
    after.find((one) => isSame(one) && one.left <= middle && middle < one.right);
  return there ? there.number + Math.min(there.count - 1, number - here.number) : null;
}

/** Bar lines this near are the same. Units: fractions of the width */
const SAME = 1e-4;

/** A page as it was read, to be corrected. Shape: `picture` is the identifier of its picture */
export function layoutOf({ width, height, systems }: PageReading, picture: string): PaperPage {
  const lines = systems.map(({ left, right, outline, barlines, measures }): PaperLine => ({
    ...{
      left,
      right: Math.max(right, barlines.at(-1)?.x ?? right),
      top: outline.top,
      bottom: outline.bottom,
    },
    bars: barlines.map((bar, n) => ({
      ...bar,
      count: measures[n]?.count ?? 1,
      asksCount: measures[n]?.isLongRest ?? false,
    })),
    ...{ first: null, isOut: false },
  }));
  // A repeat that begins with a line begins behind the bar line before it.
  const opened = lines.map((line, n) =>
    systems[n + 1]?.opensRepeat === true ? withRepeatBehind(line) : line,
  );
  return { picture, width, height, lines: opened };
}

function withRepeatBehind(line: PaperLine): PaperLine {
  const last = line.bars.length - 1;
  const kind = line.bars[last]?.kind === 'repeat-end' ? 'repeat-both' : 'repeat-start';
  return { ...line, bars: line.bars.map((bar, n) => (n === last ? { ...bar, kind } : bar)) };
}
