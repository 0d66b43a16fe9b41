import { lineThrough, type WeighedPoint } from './line-through.js';
import { ROWS, rowAt, type StraightStaff } from './straight.js';

/** What a bar line is by its strokes and dots. */
export type BarlineKind = 'single' | 'double' | 'final' | 'repeat-start' | 'repeat-end' | 'repeat-both';

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
  /** Share of the rows just outside of the staff that are dark beside it. */
  readonly outside: number;
  /** Share of its height at which something is attached, on either side. */
  readonly attachedLeft: number;
  readonly attachedRight: number;
}

/** Rows between the lines of a staff, away from the lines themselves. */
const GAP_ROWS: readonly (readonly number[])[] = [0, 1, 2, 3].map((gap) => rowsOf(gap + 0.22, gap + 0.78));
const ALL_ROWS = GAP_ROWS.flat();
/** Rows just above and below the staff, where heads of notes may hang. */
const ROWS_OUTSIDE = { above: rowsOf(-0.8, -0.22), below: rowsOf(4.22, 4.8) };

/** Rows beyond the staff, going outward. */
const ROWS_BEYOND = { above: rowsOf(-1, -0.25).reverse(), below: rowsOf(4.25, 5) };

function rowsOf(top: number, bottom: number): number[] {
  const rows: number[] = [];
  for (let row = Math.ceil(rowAt(top)); row <= Math.floor(rowAt(bottom)); row += 1) rows.push(row);
  return rows;
}

/** Ink darker than this share of the page's black is ink. */
const DARK = 0.42;
/** A stroke is at least so dark in each gap, beside the darkest. */
const LEAST_FILL = 0.32;

/** How dark each column is where it is palest: from gap to gap, and within each over its rows. */
function columnFill(staff: StraightStaff): Float32Array {
  const { width, ink } = staff;
  const fill = new Float32Array(width);
  for (let x = 0; x < width; x += 1) {
    let least = 1;
    for (const rows of GAP_ROWS) {
      let sum = 0;
      for (const row of rows) sum += Math.min(1, (ink[row * width + x] as number) / 0.8);
      least = Math.min(least, sum / rows.length);
    }
    fill[x] = least;
  }
  return fill;
}

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
  const fill = columnFill(staff);
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
        strokes[strokes.length - 1] = strokeAt(staff, { from: before.from, to, fill: own });
    } else strokes.push(strokeAt(staff, { from, to, fill: own }));
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
  return {
    ...{ from, to, fill },
    mass: massOf(staff, from, to),
    above: goesOn(staff, { from, to }, ROWS_BEYOND.above),
    below: goesOn(staff, { from, to }, ROWS_BEYOND.below),
    outside: Math.max(
      ...[left, right].flatMap((columns) => [
        attached(staff, columns, ROWS_OUTSIDE.above),
        attached(staff, columns, ROWS_OUTSIDE.below),
      ]),
    ),
    attachedLeft: attached(staff, left, ALL_ROWS),
    attachedRight: attached(staff, right, ALL_ROWS),
  };
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
  return worth.reduce<number>((sum, one) => sum + one, 0) / rows.length;
}

function massOf({ width, ink }: StraightStaff, from: number, to: number): number {
  let sum = 0;
  for (const row of ALL_ROWS)
    for (let x = Math.max(0, from - 1); x <= Math.min(width - 1, to + 1); x += 1)
      sum += ink[row * width + x] as number;
  return sum / ALL_ROWS.length;
}

/** Leans that are tried. Units: pixels to the right for each pixel down */
const LEANS = Array.from({ length: 21 }, (_, n) => (n - 10) * 0.015);
const STRETCHES = 3;

/** How upright strokes lean at places of the page, and how plainly it shows. Units: see leanOfPage */
function leansOf({ width, ink, rowPx, staff }: StraightStaff): WeighedPoint[] {
  return Array.from({ length: STRETCHES }, (_, n) => {
    const [from, to] = [Math.round((n * width) / STRETCHES), Math.round(((n + 1) * width) / STRETCHES)];
    let [best, at] = [0, 0];
    for (const lean of LEANS) {
      let worth = 0;
      for (let x = from; x < to; x += 1) {
        let least = 1;
        for (const rows of GAP_ROWS) {
          let sum = 0;
          for (const row of rows) {
            const column = Math.round(x + lean * (row - rowAt(2)) * rowPx);
            if (column >= 0 && column < width) sum += ink[row * width + column] as number;
          }
          least = Math.min(least, sum / rows.length);
        }
        if (least > 0.3) worth += least ** 4;
      }
      if (worth > best) [best, at] = [worth, lean];
    }
    return { x: staff.left + (from + to) / 2, y: at, weight: best };
  });
}

/**
 * By how much upright strokes lean over the page: it may be turned, and the camera stood at an angle.
 * Shape:  by a column of the page; a straight line through what the staves show, without what lies far off it
 * Units:  pixels to the right for each pixel down
 */
export function leanOfPage(staves: readonly StraightStaff[]): (x: number) => number {
  let seen = staves.flatMap((staff) => leansOf(staff)).filter(({ weight }) => weight > 0);
  let line = lineThrough(seen);
  for (let n = 0; n < 3; n += 1) {
    const own = line;
    const near = seen.filter(({ x, y }) => Math.abs(y - own(x)) < 0.05);
    if (near.length < 3) break;
    seen = near;
    line = lineThrough(seen);
  }
  return line;
}

/** Whether nothing goes on beyond a stroke, and nothing hangs on it. */
export function isAlone({ above, below, outside, attachedLeft, attachedRight }: Stroke): boolean {
  return Math.max(above, below, attachedLeft, attachedRight) === 0 && outside < 0.2;
}

/** What a stroke is weighed against. */
export interface StrokeContext {
  /** Whether another staff of the system stands above, or below: its bar lines run on. */
  readonly isOpenAbove: boolean;
  readonly isOpenBelow: boolean;
  /** Ink a row of the thin bar lines of the page. Units: columns of full ink */
  readonly usualMass: number;
}

/** Whether a stroke is a bar line: nothing goes on beyond it, nothing hangs on it. Shape: 0 is not, 1 is; between is doubtful */
export function barlineScore(
  staff: StraightStaff,
  stroke: Stroke,
  { isOpenAbove, isOpenBelow, usualMass }: StrokeContext,
): number {
  const width = (stroke.to - stroke.from + 1) / staff.space;
  if (width > 1.1) return 0;
  const beyond = Math.max(isOpenAbove ? 0 : stroke.above, isOpenBelow ? 0 : stroke.below);
  const hung = Math.max(stroke.attachedLeft, stroke.attachedRight);
  const both = stroke.attachedLeft + stroke.attachedRight;
  // A slur or a flag may touch a bar line; a stem is thinner, or less full where its head begins.
  const isTouched = Math.min(stroke.attachedLeft, stroke.attachedRight) < 0.04 && stroke.outside < 0.25;
  const isFull = isTouched && stroke.fill > 0.96 && stroke.mass > 0.85 * usualMass;
  // On which nothing hangs and which ends with the staff may be pale and thin: no stem is so.
  const [pale, thin] = isAlone(stroke)
    ? [ramp(stroke.fill, 0.32, 0.44), ramp(stroke.mass / usualMass, 0.28, 0.5)]
    : [ramp(stroke.fill, 0.42, 0.66), ramp(stroke.mass / usualMass, 0.5, 0.78)];
  return (
    pale *
    thin *
    (1 - ramp(beyond, 0.12, 0.5)) *
    (1 - ramp(stroke.outside, 0.35, 0.85) * ramp(beyond, 0, 0.3)) *
    // A head on an outer line hangs half within the staff and half without.
    (1 - ramp(stroke.outside, 0.2, 0.42) * ramp(hung, 0.04, 0.1)) *
    (1 - (isFull ? ramp(hung, 0.22, 0.36) : ramp(hung, 0.07, 0.18))) *
    (1 - (isFull ? ramp(both, 0.26, 0.45) : ramp(both, 0.12, 0.28)))
  );
}

function ramp(value: number, low: number, high: number): number {
  return Math.max(0, Math.min(1, (value - low) / (high - low)));
}

/** A bar line of a staff. Units: columns of the straightened staff */
export interface StaffBarline {
  readonly from: number;
  readonly to: number;
  readonly kind: BarlineKind;
  readonly score: number;
}

/** Strokes that stand within so much of one another are one bar line. Units: spaces */
const CLOSE = 1.05;
/** A stroke this wide is thick. Units: spaces */
const THICK = 0.33;

/** Joins strokes that stand together, and tells by thickness, number and dots what they are. */
export function joinedBarlines(
  staff: StraightStaff,
  strokes: readonly { readonly stroke: Stroke; readonly score: number }[],
): StaffBarline[] {
  const groups: { stroke: Stroke; score: number }[][] = [];
  for (const one of strokes) {
    const last = groups.at(-1)?.at(-1);
    if (last && one.stroke.from - last.stroke.to < CLOSE * staff.space) groups.at(-1)?.push(one);
    else groups.push([one]);
  }
  return groups.map((group) => {
    const [first, last] = [group[0]?.stroke, group.at(-1)?.stroke];
    const [from, to] = [first?.from ?? 0, last?.to ?? 0];
    const before = dots(staff, from, -1);
    const after = dots(staff, to, 1);
    return {
      from,
      to,
      kind: kindOf(staff, group, { before, after }),
      score: Math.max(...group.map(({ score }) => score)),
    };
  });
}

function kindOf(
  staff: StraightStaff,
  group: readonly { readonly stroke: Stroke }[],
  { before, after }: { readonly before: boolean; readonly after: boolean },
): BarlineKind {
  const thick = group.filter(({ stroke }) => (stroke.to - stroke.from + 1) / staff.space > THICK);
  if (before && after) return 'repeat-both';
  if (before && (thick.length > 0 || group.length > 1)) return 'repeat-end';
  if (after && (thick.length > 0 || group.length > 1)) return 'repeat-start';
  if (thick.length > 0) return 'final';
  return group.length > 1 ? 'double' : 'single';
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
      if (run >= least && thin >= 0.34 * run) return true;
    }
  }
  return false;
}

/** Whether the two dots of a repeat stand beside a column: one in each of the middle gaps, nothing in the outer ones. */
function dots(staff: StraightStaff, edge: number, step: 1 | -1): boolean {
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
