import { lineThrough, type WeighedPoint } from './line-through.js';
import { GAP_ROWS, rowAt, type StraightStaff } from './straight.js';

/** A stroke may lean a little otherwise than its page. Units: pixels to the right for each pixel down */
const OWN_LEANS = [0, -0.018, 0.018, -0.036, 0.036] as const;

/** A stroke leans otherwise than its page only where it is so much darker then. */
const PLAINLY = 0.05;

/** A staff with all upright things leaning otherwise. Units: see OWN_LEANS */
function leaning(staff: StraightStaff, lean: number): StraightStaff {
  if (lean === 0) return staff;
  const { width, height, ink, rowPx } = staff;
  const leant = new Float32Array(ink.length);
  for (let row = 0; row < height; row += 1) {
    const shift = lean * (row - rowAt(2)) * rowPx;
    const [whole, part] = [Math.floor(shift), shift - Math.floor(shift)];
    const [from, to] = [Math.max(0, -whole), Math.min(width, width - whole - 1)];
    for (let x = from; x < to; x += 1) {
      const at = row * width + x + whole;
      leant[row * width + x] = (ink[at] as number) * (1 - part) + (ink[at + 1] as number) * part;
    }
  }
  return { ...staff, ink: leant };
}

/** Columns as dark as they are where they lean best, and the staff that leans so. */
export function bestLeans(staff: StraightStaff): {
  readonly fill: Float32Array;
  readonly leantAt: (x: number) => StraightStaff;
} {
  const leant = OWN_LEANS.map((lean) => leaning(staff, lean));
  const fills = leant.map((own) => palest(own));
  const best = new Uint8Array(staff.width);
  const fill = new Float32Array(staff.width);
  for (const [n, own] of fills.entries())
    for (let x = 0; x < staff.width; x += 1)
      if ((own[x] as number) > (fill[x] as number) + (n === 0 ? 0 : PLAINLY))
        [fill[x], best[x]] = [own[x] as number, n];
  return { fill, leantAt: (x) => leant[best[x] as number] as StraightStaff };
}

/** Leans that are tried. Units: pixels to the right for each pixel down */
const LEANS = Array.from({ length: 21 }, (_, n) => (n - 10) * 0.015);
const STRETCHES = 3;

/** How upright strokes lean at places of the page, and how plainly it shows. Units: see leanOfPage */
function leansOf(straight: StraightStaff): WeighedPoint[] {
  const { width, staff } = straight;
  const best = Array.from({ length: STRETCHES }, (_, n) => ({
    x: staff.left + ((n + 0.5) * width) / STRETCHES,
    y: 0,
    weight: 0,
  }));
  for (const lean of LEANS) {
    const fill = palest(straight, lean);
    for (const [n, own] of best.entries()) {
      const to = Math.round(((n + 1) * width) / STRETCHES);
      let worth = 0;
      for (let x = Math.round((n * width) / STRETCHES); x < to; x += 1)
        if ((fill[x] as number) > 0.3) worth += (fill[x] as number) ** 4;
      if (worth > own.weight) Object.assign(own, { y: lean, weight: worth });
    }
  }
  return best;
}

/** Ink so dark is full ink. Units: share of the page's black */
const FULL_INK = 0.8;

/** How dark each column is where it is palest: from gap to gap, and within each over its rows. Units: as LEANS */
function palest({ width, ink, rowPx }: StraightStaff, lean = 0): Float32Array {
  const least = new Float32Array(width).fill(1);
  const sums = new Float32Array(width);
  for (const rows of GAP_ROWS) {
    sums.fill(0);
    for (const row of rows) {
      const shift = Math.round(lean * (row - rowAt(2)) * rowPx);
      const [from, to] = [Math.max(0, -shift), Math.min(width, width - shift)];
      for (let x = from, at = row * width + from + shift; x < to; x += 1, at += 1)
        sums[x] = (sums[x] as number) + Math.min(1, (ink[at] as number) / FULL_INK);
    }
    for (let x = 0; x < width; x += 1)
      least[x] = Math.min(least[x] as number, (sums[x] as number) / rows.length);
  }
  return least;
}

/** A page that leans more at its sides is no page in front of a camera. Units: as LEANS */
const MOST_LEAN = 0.17;
/** What agrees lies within so much. Units: as LEANS */
const AGREES = 0.02;

/**
 * By how much upright strokes lean over the page: it may be turned, and the camera stood at an angle.
 * Shape:  by a column of the page; the straight line with which most of what the staves show agrees
 * Units:  pixels to the right for each pixel down
 */
export function leanOfPage(staves: readonly StraightStaff[]): (x: number) => number {
  const seen = staves.flatMap((staff) => leansOf(staff)).filter(({ weight }) => weight > 0);
  const left = Math.min(...staves.map(({ staff }) => staff.left));
  const right = Math.max(...staves.map(({ staff }) => staff.right));
  let [best, inliers] = [0, seen.slice(0, 0)];
  for (const [n, a] of seen.entries())
    for (const b of seen.slice(n)) {
      const slope = a.x === b.x ? 0 : (b.y - a.y) / (b.x - a.x);
      const at = (x: number): number => a.y + slope * (x - a.x);
      if (Math.max(Math.abs(at(left)), Math.abs(at(right))) > MOST_LEAN) continue;
      const near = seen.filter(({ x, y }) => Math.abs(y - at(x)) < AGREES);
      const worth = near.reduce((sum, { weight }) => sum + weight, 0);
      if (worth > best) [best, inliers] = [worth, near];
    }
  return lineThrough(inliers);
}
