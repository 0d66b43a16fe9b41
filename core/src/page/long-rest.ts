import { ROWS, rowAt, type StraightStaff } from './straight.js';

/** The bar of a long rest is thicker than a beam, and at least so long. Units: spaces; shares of its measure */
const HALF_HEIGHT = 0.34;
const LEAST_SPACES = 2.5;
const LEAST_SHARE = 0.35;
/** Ink darker than this share of the page's black is ink. */
const DARK = 0.5;

/**
 * Whether a measure holds the thick bar of a rest of several measures: on the middle line, thicker than a beam.
 * Units:  `left` and `right` in fractions of the page, whose `width` is in pixels
 */
export function hasLongRest(
  { width, ink, staff, space }: StraightStaff,
  box: { readonly left: number; readonly right: number },
  pageWidth: number,
): boolean {
  const from = Math.max(0, Math.round(box.left * pageWidth - staff.left));
  const to = Math.min(width, Math.round(box.right * pageWidth - staff.left));
  const reach = Math.round(HALF_HEIGHT * ROWS);
  let [run, longest] = [0, 0];
  for (let x = from; x < to; x += 1) {
    let isThick = true;
    for (let row = Math.round(rowAt(2)) - reach; isThick && row <= rowAt(2) + reach; row += 1)
      isThick = (ink[row * width + x] ?? 0) > DARK;
    run = isThick ? run + 1 : 0;
    longest = Math.max(longest, run);
  }
  return longest > LEAST_SPACES * space && longest > LEAST_SHARE * (to - from);
}

/** The parts of a rest of several measures, each as high as it is long. Source: common practice, no source */
type RestPart = 'four' | 'two' | 'one';
const MEASURES: Readonly<Record<RestPart, number>> = { four: 4, two: 2, one: 1 };
/** A part is so wide. Units: spaces */
const NARROWEST = 0.35;
const WIDEST = 1.3;
/** So many columns of a block are alike. */
const PLAIN = 0.6;
/** Blocks of one rest stand so near. Units: spaces */
const TOGETHER = 1;
/** The blocks stand in the middle of their measure. Units: shares of it */
const CENTRED = 0.12;
/** So much of the first measure of a line may be clef, key and meter. */
const OPENING = 0.42;
/** Beside a bar line nothing is looked at. Units: spaces */
const BESIDE = 0.7;

/**
 * How many measures a rest stands for that is drawn in parts: blocks of four, two and one measure, and nothing else.
 * Shape:  null where a measure holds anything but such blocks
 * Units:  as hasLongRest
 */
export function countedRest(
  { width, ink, staff, space }: StraightStaff,
  box: { readonly left: number; readonly right: number },
  pageWidth: number,
): number | null {
  const start = box.left * pageWidth - staff.left;
  // Clef and key stand in the first measure of a line.
  const isFirst = start < space;
  const opening = isFirst ? OPENING * (box.right - box.left) * pageWidth : BESIDE * space;
  const from = Math.max(0, Math.round(start + opening));
  const to = Math.min(width, Math.round(box.right * pageWidth - staff.left - BESIDE * space));
  if (staff.lines !== 5) return null;
  const whole = blocksIn({ width, ink }, from, to).map(({ from: at, columns, tally }) => ({
    from: at,
    columns,
    part: plainPart(columns, tally),
  }));
  const [first, last] = [whole[0], whole.at(-1)];
  const isSound = whole.every(
    ({ part, columns }) => part !== null && columns >= NARROWEST * space && columns <= WIDEST * space,
  );
  const isLoose = whole.some((one, n) => {
    const before = whole[n - 1];
    return before !== undefined && one.from - before.from - before.columns > TOGETHER * space;
  });
  if (!first || !last || !isSound || isLoose) return null;
  const middle = (first.from + last.from + last.columns) / 2;
  if (Math.abs(middle - (from + to) / 2) > (isFirst ? 2 * CENTRED : CENTRED) * (to - from)) return null;
  const count = whole.reduce((sum, { part }) => sum + (part === null ? 0 : MEASURES[part]), 0);
  return count > 1 ? count : null;
}

/** A run of columns with ink between the lines. Units: columns */
interface Block {
  readonly from: number;
  columns: number;
  readonly tally: Map<RestPart | 'other', number>;
}

function blocksIn({ width, ink }: Pick<StraightStaff, 'width' | 'ink'>, from: number, to: number): Block[] {
  const blocks: Block[] = [];
  let isOpen = false;
  for (let x = from; x < to; x += 1) {
    const isDark = (top: number, bottom: number): boolean => darkShare({ ink, width, x, top, bottom }) > 0.55;
    const gaps = [0, 1, 2, 3].map((gap) => isDark(gap + 0.25, gap + 0.75));
    const part = partOf(gaps, isDark(1.12, 1.42), isDark(1.58, 1.88));
    if (part !== null && !isOpen) blocks.push({ from: x, columns: 0, tally: new Map() });
    isOpen = part !== null;
    const block = blocks.at(-1);
    if (part === null || !block) continue;
    block.columns += 1;
    block.tally.set(part, (block.tally.get(part) ?? 0) + 1);
  }
  return blocks;
}

/** What most columns of a block are, where nearly all of them are alike: its edges are pale. */
function plainPart(columns: number, tally: ReadonlyMap<RestPart | 'other', number>): RestPart | null {
  const [most] = [...tally].sort((a, b) => b[1] - a[1]);
  return most && most[0] !== 'other' && most[1] >= PLAIN * columns ? most[0] : null;
}

function partOf(gaps: readonly boolean[], isUpper: boolean, isLower: boolean): RestPart | 'other' | null {
  const [first, second, third, fourth] = gaps;
  if (first === true || fourth === true) return 'other';
  if (third === true) return second === true ? 'four' : 'other';
  if (isUpper && isLower) return 'two';
  if (isUpper) return 'one';
  return isLower || second === true ? 'other' : null;
}

/** Share of rows that are dark between two heights of a column. Units: spaces below the top line */
function darkShare({
  ink,
  width,
  x,
  top,
  bottom,
}: {
  readonly ink: Float32Array;
  readonly width: number;
  readonly x: number;
  readonly top: number;
  readonly bottom: number;
}): number {
  const [from, to] = [Math.round(rowAt(top)), Math.round(rowAt(bottom))];
  let dark = 0;
  for (let row = from; row <= to; row += 1) if ((ink[row * width + x] ?? 0) > DARK) dark += 1;
  return dark / (to - from + 1);
}
