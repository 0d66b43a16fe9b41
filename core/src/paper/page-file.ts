import type { BarlineKind } from '../page/index.js';
import type { PaperBar, PaperLine, PaperPage } from './page-layout.js';

/** Our own limits: lines of a page; bar lines of a line; places of an outline. */
const MOST_LINES = 60;
const MOST_BARS = 80;
const MOST_PLACES = 33;
const KINDS: readonly BarlineKind[] = [
  'single',
  'double',
  'final',
  'repeat-start',
  'repeat-end',
  'repeat-both',
];
const PICTURE = /^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/u;

/** A page as it stands in a file. Shape: places rounded to a hundred thousandth of the page */
export function writtenPage({ lines, ...page }: PaperPage): object {
  return {
    ...page,
    lines: lines.map(({ left, right, top, bottom, bars, ...line }) => ({
      ...line,
      left: rounded(left),
      right: rounded(right),
      top: top.map(rounded),
      bottom: bottom.map(rounded),
      bars: bars.map((bar) => ({ ...bar, x: rounded(bar.x) })),
    })),
  };
}

function rounded(share: number): number {
  return Math.round(share * 1e5) / 1e5;
}

/** A page as it is read from a file. Shape: null where it is none */
export function pageOf(value: unknown): PaperPage | null {
  const { picture, width, height, lines } = fieldsOf(value);
  if (typeof picture !== 'string' || !PICTURE.test(picture)) return null;
  if (!isCount(width, 100_000) || !isCount(height, 100_000)) return null;
  const all = listOf(lines, MOST_LINES, lineOf);
  return all && { picture, width, height, lines: all };
}

function lineOf(value: unknown): PaperLine | null {
  const { left, right, top, bottom, bars, first, isOut } = fieldsOf(value);
  const [above, below] = [listOf(top, MOST_PLACES, shareOf), listOf(bottom, MOST_PLACES, shareOf)];
  const all = listOf(bars, MOST_BARS, barOf);
  if (!isShare(left) || !isShare(right) || left >= right || !above || !below || !all) return null;
  if (above.length < 2 || above.length !== below.length) return null;
  if (all.some(({ x }, n) => x <= (all[n - 1]?.x ?? left))) return null;
  if (first !== null && !isCount(first, 20_000, 0)) return null;
  return { left, right, top: above, bottom: below, bars: all, first, isOut: isOut === true };
}

function barOf(value: unknown): PaperBar | null {
  const { x, kind, count, isDoubtful, asksCount } = fieldsOf(value);
  const known = KINDS.find((one) => one === kind);
  if (!isShare(x) || !known || !isCount(count, 200)) return null;
  return { x, kind: known, count, isDoubtful: isDoubtful === true, asksCount: asksCount === true };
}

function fieldsOf(value: unknown): Readonly<Record<string, unknown>> {
  return (value ?? {}) as Readonly<Record<string, unknown>>;
}

function listOf<One>(value: unknown, most: number, read: (one: unknown) => One | null): One[] | null {
  if (!Array.isArray(value) || value.length > most) return null;
  const all = value.map(read);
  return all.includes(null) ? null : all.filter((one) => one !== null);
}

function isShare(value: unknown): value is number {
  return typeof value === 'number' && value >= -0.2 && value <= 1.2;
}

function shareOf(value: unknown): number | null {
  return isShare(value) ? value : null;
}

function isCount(value: unknown, most: number, least = 1): value is number {
  return Number.isInteger(value) && Number(value) >= least && Number(value) <= most;
}
