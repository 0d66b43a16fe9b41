import { bestLeans } from './lean.js';
import { GAP_ROWS, ROWS, rowAt, rowsOf, type StraightStaff } from './straight.js';

/** An upright stroke from the top line of a staff to its bottom line. Units: columns of the straightened staff */
export interface Stroke {
  readonly from: number;
  readonly to: number;
  /** The weakest of its four gaps, 0 to 1. */
  readonly fill: number;
  /** How much ink a row of it has. Units: columns of full ink */
  readonly mass: number;
  /** What goes on above and below, 0 to 1. */
  readonly above: number;
  readonly below: number;
  /** Share of the rows beyond the staff with as much ink as a row of it: a stem goes on so, a sign over a bar line does not. */
  readonly alike: number;
  /** Share of the rows just outside of the staff that are dark beside it. */
  readonly outside: number;
  /** Share of its height at which something is attached, on either side. */
  readonly attachedLeft: number;
  readonly attachedRight: number;
  /** How surely a head hangs on it where a stem as high as the staff has one: below on its left, or above on its right. */
  readonly head: number;
  /** Whether something hangs on it there, and nowhere else: a hollow head has less ink. */
  readonly isHungAtHead: boolean;
  /** How much the ink of its rows differs: the strokes of figures and signs are thick here and thin there. */
  readonly uneven: number;
}

const ALL_ROWS = GAP_ROWS.flat();
/** Rows just above and below the staff, where heads of notes may hang. */
const ROWS_OUTSIDE = { above: rowsOf(-0.8, -0.22), below: rowsOf(4.22, 4.8) };

/** Rows beyond the staff, going outward. */
const ROWS_BEYOND = { above: rowsOf(-1, -0.25).reverse(), below: rowsOf(4.25, 5) };

/** Ink darker than this share of the page's black is ink. */
const DARK = 0.42;
/** A stroke is at least so dark in each gap, beside the darkest. */
const LEAST_FILL = 0.32;

/** Two strokes so near are one sign: nothing hangs between them. Units: spaces */
const TOGETHER = 0.8;
/** A stroke as full as a bar line. */
const FULL = 0.6;

/** Upright strokes over the whole height of a staff, with what is around them. Shape: from left to right */
export function findStrokes(staff: StraightStaff): Stroke[] {
  const strokes = strokesIn(staff);
  const isTogether = (a: Stroke | undefined, b: Stroke | undefined): boolean =>
    a !== undefined &&
    b !== undefined &&
    Math.min(a.fill, b.fill) > FULL &&
    b.from - a.to < TOGETHER * staff.space;
  return strokes.map((stroke, n) => ({
    ...stroke,
    attachedLeft: isTogether(strokes[n - 1], stroke) ? 0 : stroke.attachedLeft,
    attachedRight: isTogether(stroke, strokes[n + 1]) ? 0 : stroke.attachedRight,
  }));
}

function strokesIn(staff: StraightStaff): Stroke[] {
  const { fill, leantAt } = bestLeans(staff);
  const strokes: Stroke[] = [];
  for (let x = 0; x < staff.width; x += 1) {
    const own = fill[x] as number;
    if (own < LEAST_FILL || own < (fill[x - 1] ?? 0) || own < (fill[x + 1] ?? 0)) continue;
    let [from, to] = [x, x];
    while (from > 0 && (fill[from - 1] as number) > 0.5 * own) from -= 1;
    while (to < staff.width - 1 && (fill[to + 1] as number) > 0.5 * own) to += 1;
    const before = strokes.at(-1);
    if (before && from <= before.to) {
      if (own > before.fill)
        strokes[strokes.length - 1] = strokeAt(leantAt(x), { from: before.from, to, fill: own });
    } else strokes.push(strokeAt(leantAt(x), { from, to, fill: own }));
    x = to;
  }
  return strokes;
}

function strokeAt(staff: StraightStaff, { from, to, fill }: Pick<Stroke, 'from' | 'to' | 'fill'>): Stroke {
  const near = Math.max(2, Math.round(0.2 * staff.space));
  const step = Math.max(1, Math.round(0.12 * staff.space));
  // The dots of a repeat stand further off; they hang on nothing.
  const beside = (edge: number, way: 1 | -1): number[] =>
    [near, near + step, ...(dots(staff, edge, way) ? [] : [near + 2 * step])].map((off) => edge + way * off);
  const [left, right] = [beside(from, -1), beside(to, 1)];
  const place = { from, to };
  const sums = rowSums(staff, place, ALL_ROWS);
  const mass = meanOf(sums);
  return {
    ...{ from, to, fill, mass },
    alike: Math.max(
      ...Object.values(ROWS_BEYOND).map((rows) => shareAlike(rowSums(staff, place, rows), mass)),
    ),
    above: goesOn(staff, place, ROWS_BEYOND.above),
    below: goesOn(staff, place, ROWS_BEYOND.below),
    outside: Math.max(
      ...[left, right].flatMap((columns) => [
        attached(staff, columns, ROWS_OUTSIDE.above),
        attached(staff, columns, ROWS_OUTSIDE.below),
      ]),
    ),
    attachedLeft: attached(staff, left, ALL_ROWS),
    attachedRight: attached(staff, right, ALL_ROWS),
    head: Math.max(headAt(staff, from, -1), headAt(staff, to, 1)),
    isHungAtHead: isHungAtHead(staff, left, right),
    uneven: unevenness(sums, mass),
  };
}

/** Something hangs on a stroke over so much of its lowest gap on the left, or of its highest on the right. */
const HUNG = 0.3;

function isHungAtHead(staff: StraightStaff, left: readonly number[], right: readonly number[]): boolean {
  const gaps = (columns: readonly number[]): number[] =>
    GAP_ROWS.map((rows) => attached(staff, columns, rows));
  const isOnly = ([own = 0, ...others]: readonly number[]): boolean =>
    own >= HUNG && Math.max(...others) === 0;
  const [below, above] = [gaps(left).reverse(), gaps(right)];
  return isOnly([...below, ...above]) || isOnly([...above, ...below]);
}

/** A head reaches so far from its stem, and is so high at least. Units: spaces */
const HEAD_REACH = 0.7;
const HEAD_HALF = 0.28;

/**
 * Whether the head of a note hangs on a stroke: ink without a gap from the stroke to the far side of the head, where a
 * stem that fills the whole staff begins.
 */
function headAt({ width, ink, space }: StraightStaff, edge: number, way: 1 | -1): number {
  const [high, low] = way === 1 ? [-0.4, 1.3] : [2.7, 4.4];
  const last = Math.round(HEAD_REACH * space);
  let best = 0;
  for (let center = high; center <= low; center += 0.1) {
    const rows = rowsOf(center - HEAD_HALF, center + HEAD_HALF);
    let least = 1;
    for (let off = 0; off <= last && least > best; off += 1) {
      const x = edge + way * off;
      let sum = 0;
      for (const row of rows) sum += x >= 0 && x < width ? (ink[row * width + x] as number) : 0;
      least = Math.min(least, sum / rows.length);
    }
    best = Math.max(best, least);
  }
  return best;
}

/** How much rows differ from their mean. Units: share of the mean */
function unevenness(sums: readonly number[], mean: number): number {
  return Math.sqrt(meanOf(sums.map((sum) => (sum - mean) ** 2))) / Math.max(1e-9, mean);
}

/** Rows alike have so much more or less ink. Units: share of the usual one */
const ALIKE = 0.35;

function shareAlike(sums: readonly number[], mass: number): number {
  return sums.filter((sum) => Math.abs(sum - mass) <= ALIKE * mass).length / sums.length;
}

function meanOf(values: readonly number[]): number {
  return values.reduce((sum, one) => sum + one, 0) / values.length;
}

/** The ink of each row of a stroke. Units: columns of full ink */
function rowSums(
  { width, ink }: StraightStaff,
  { from, to }: Pick<Stroke, 'from' | 'to'>,
  rows: readonly number[],
): number[] {
  return rows.map((row) => {
    let sum = 0;
    for (let x = Math.max(0, from - 1); x <= Math.min(width - 1, to + 1); x += 1)
      sum += ink[row * width + x] as number;
    return sum;
  });
}

/** How far a stroke goes on beyond the staff without a break: 1 where it goes on over all of these rows. */
function goesOn(
  { width, ink }: StraightStaff,
  { from, to }: Pick<Stroke, 'from' | 'to'>,
  rows: readonly number[],
): number {
  let dark = 0;
  for (const row of rows) {
    let most = 0;
    for (let x = from; x <= to; x += 1) most = Math.max(most, ink[row * width + x] as number);
    if (most < DARK) break;
    dark += 1;
  }
  return dark / rows.length;
}

/** Share of rows that are dark at one of some columns; what is dark only at the last, further off, counts half. */
function attached(
  { width, ink }: StraightStaff,
  columns: readonly number[],
  rows: readonly number[],
): number {
  const isDark = (row: number, x: number | undefined): boolean =>
    x !== undefined && x >= 0 && x < width && (ink[row * width + x] as number) > DARK;
  const worth = rows.map((row) =>
    columns.slice(0, 2).some((x) => isDark(row, x)) ? 1 : isDark(row, columns[2]) ? 0.5 : 0,
  );
  return meanOf(worth);
}

/** Whether nothing goes on beyond a stroke, and nothing hangs on it. */
export function isAlone(stroke: Stroke, place: StaffPlace): boolean {
  return Math.max(beyond(stroke, place), hung(stroke)) === 0 && stroke.outside < 0.2;
}

/** Whether a stroke is full, even and ends with the staff but for its blur, as bar lines of a small print are. */
export function isPlain(stroke: Stroke, place: StaffPlace): boolean {
  return stroke.fill > 0.95 && stroke.uneven < 0.08 && stroke.head < 0.6 && beyond(stroke, place) < 0.2;
}

/** How far a stroke goes on above and below the staff, where none of its system stands. */
export function endsBeyond(
  { above, below }: Stroke,
  { isOpenAbove, isOpenBelow }: StaffPlace,
): readonly [number, number] {
  return [isOpenAbove ? 0 : above, isOpenBelow ? 0 : below];
}

/** The same where it goes on further. */
export function beyond(stroke: Stroke, place: StaffPlace): number {
  return Math.max(...endsBeyond(stroke, place));
}

/** How much of a stroke's height something is attached to, on the side where it is more. */
export function hung({ attachedLeft, attachedRight }: Stroke): number {
  return Math.max(attachedLeft, attachedRight);
}

/** Whether another staff of the system stands above a staff, or below: its bar lines run on. */
export interface StaffPlace {
  readonly isOpenAbove: boolean;
  readonly isOpenBelow: boolean;
}

/** Whether a stroke is as even as a bar line and goes on below its staff: to the next one of its system. */
export function runsOn({ fill, below, uneven, head }: Stroke): boolean {
  return fill > 0.85 && below === 1 && uneven < 0.12 && head < 0.6;
}

/** Behind this a system has no clef any more. Units: spaces */
const CLEF_END = 4;
/** Stems are longer, accidentals shorter. Units: spaces */
const STEM = 3;

/** A stem is thinner than the strokes of figures. Units: spaces */
const STEM_WIDTH = 0.34;

/** Whether a stem stands before a column: then there are notes, and not only clef, key and meter. */
export function hasStem(straight: StraightStaff, end: number): boolean {
  const { width, height, ink, space, staff } = straight;
  const least = STEM * ROWS * (staff.lines === 1 ? 1.6 : 1);
  const reach = Math.max(2, Math.ceil(STEM_WIDTH * space));
  const isThin = (x: number, row: number): boolean => {
    let dark = 0;
    for (let k = -reach; k <= reach; k += 1) if ((ink[row * width + x + k] ?? 0) > DARK) dark += 1;
    return dark <= reach;
  };
  for (let x = Math.round(CLEF_END * space); x < end - 0.6 * space; x += 1) {
    let [run, thin] = [0, 0];
    for (let row = 0; row < height; row += 1) {
      const isDark = (ink[row * width + x] as number) > DARK;
      run = isDark ? run + 1 : 0;
      thin = isDark ? thin + (isThin(x, row) ? 1 : 0) : 0;
      // Lines of the staff cross it, and its head is wide.
      if (run >= least && thin >= 0.28 * run) return true;
    }
  }
  return false;
}

/** Whether the two dots of a repeat stand beside a column: one in each of the middle gaps, nothing in the outer ones. */
export function dots(staff: StraightStaff, edge: number, step: 1 | -1): boolean {
  const { width, ink, space } = staff;
  // On a staff of one line the dots stand half a space from it.
  const off = staff.staff.lines === 1 ? 0.5 : 0;
  const shift = (gap: number): number => (gap === 1 ? -off : gap === 2 ? off : 0);
  const near = (gap: number, x: number): number => {
    let sum = 0;
    let count = 0;
    for (
      let row = Math.round(rowAt(gap + shift(gap) + 0.36));
      row <= Math.round(rowAt(gap + shift(gap) + 0.64));
      row += 1
    )
      for (let k = -1; k <= 1; k += 1) {
        const at = x + k;
        if (at < 0 || at >= width) continue;
        sum += ink[row * width + at] as number;
        count += 1;
      }
    return count === 0 ? 0 : sum / count;
  };
  for (let away = 0.35; away <= 1.15; away += 0.1) {
    const x = Math.round(edge + step * away * space);
    const outer = off > 0 ? 0 : Math.max(near(0, x), near(3, x));
    if (Math.min(near(1, x), near(2, x)) < 0.42 || outer > 0.3) continue;
    // A dot is as wide as it is high: half a space further out there is nothing.
    const beyond = Math.round(x + step * 0.6 * space);
    if (Math.max(near(1, beyond), near(2, beyond)) < 0.35) return true;
  }
  return false;
}
