import { upperMedian } from '../base/index.js';
import type { InkImage } from './light.js';
import { linked, trackPoints, withDarkLines, type Comb, type FoundStaves, type Staff } from './staves.js';
import type { Strips } from './strips.js';

/** A line is so dark in each of its strips. Shape: as thinFor leaves it */
const LEAST = 0.24;
/** Near a line of its own there is no other. Units: pixels */
const NEIGHBOUR = 9;
/** Such a staff runs over so many strips at least. */
const SHORTEST = 18;
/** The last line of a piece may be this short, where it begins under the others. Units: strips */
const SHORTEST_LAST = 5;
/** Half the height of a bar line on a staff of one line. Units: pixels of the picture that is read */
const LOWEST = 6;
const HIGHEST = 30;
const WIDEST_STROKE = 6;

/**
 * Finds staves of a single line, as percussion is written on: long lines with upright strokes that reach as far above as
 * below.
 * Shape:  from top to bottom, none within a staff of five lines; none where such strokes are missing
 */
export function findSingleLines(page: InkImage, strips: Strips, five: readonly Staff[]): FoundStaves {
  const peaks = strips.thin.map((rows, strip) => peaksIn(rows, strip));
  const tracks = linked(peaks).filter(
    (track) =>
      track.length >= SHORTEST_LAST && track.length >= 0.75 * (lastStrip(track) - firstStrip(track) + 1),
  );
  const isLong = (track: readonly Comb[]): boolean => track.length >= SHORTEST;
  const image = withDarkLines(page, strips, { tracks: tracks.filter(isLong), lines: [0] });
  const lines = tracks
    .map((track) => ({ isLong: isLong(track), line: lineOf(image, strips, track) }))
    .filter(({ line }) => !five.some((staff) => isWithin(staff, line)))
    .map((own) => ({ ...own, strokes: evenStrokes(image, own.line) }));
  const reach = usualReach(
    lines.filter((own) => own.isLong).flatMap(({ strokes }) => strokes.map((stroke) => stroke.reach)),
  );
  if (reach === null) return { image, staves: [] };
  const sure = lines.map((own) => ({
    ...own,
    strokes: own.strokes.filter((stroke) => Math.abs(stroke.reach - reach) <= 0.15 * reach + 1),
  }));
  const long = sure.filter((own) => own.isLong && own.strokes.length >= 2);
  const left = upperMedian(long.map(({ line }) => line.left)) ?? Number.NaN;
  // A short one begins under the others, and ends with a bar line.
  const short = sure.filter(
    ({ isLong, line, strokes }) =>
      !isLong &&
      Math.abs(line.left - left) < 2 * strips.widthPx &&
      strokes.some(({ x }) => line.right - x < 1.5 * reach),
  );
  const staves = [...long, ...(long.length > 1 ? short : [])]
    .map(({ line }): Staff => ({
      ...line,
      // Its bar lines are two spaces high, as those of four spaces half as wide.
      space: line.middle.map(() => reach / 2),
      certainty: 1,
      lines: 1,
    }))
    .sort((a, b) => (a.middle[0] ?? 0) - (b.middle[0] ?? 0));
  return { image, staves };
}

function firstStrip(track: readonly Comb[]): number {
  return track[0]?.strip ?? 0;
}

function lastStrip(track: readonly Comb[]): number {
  return track.at(-1)?.strip ?? 0;
}

function peaksIn(rows: Float32Array, strip: number): Comb[] {
  const peaks: Comb[] = [];
  for (let y = NEIGHBOUR; y < rows.length - NEIGHBOUR; y += 1) {
    const own = rows[y] as number;
    if (own < LEAST) continue;
    let isTop = true;
    for (let k = -NEIGHBOUR; isTop && k <= NEIGHBOUR; k += 1)
      if (k !== 0 && ((rows[y + k] as number) > own || ((rows[y + k] as number) === own && k < 0)))
        isTop = false;
    if (isTop) peaks.push({ strip, y, space: 8, score: own });
  }
  return peaks;
}

type Line = Pick<Staff, 'left' | 'right' | 'middle'>;

/** Whether a line is one of the five of a staff, or runs close to them. */
function isWithin(staff: Staff, { left, right, middle }: Line): boolean {
  const x = Math.round((Math.max(left, staff.left) + Math.min(right, staff.right)) / 2);
  if (x < left || x >= right || x < staff.left || x >= staff.right) return false;
  const off = Math.abs((middle[x - left] ?? 0) - (staff.middle[x - staff.left] ?? 0));
  return off < 4 * (staff.space[x - staff.left] ?? 1);
}

/** A line to where it ends on both sides. */
function lineOf(image: InkImage, { widthPx }: Strips, track: readonly Comb[]): Line {
  const along = trackPoints(track, widthPx);
  const end = (from: number, step: 1 | -1): number => {
    let [last, missed] = [from, 0];
    for (let x = from; x > 2 && x < image.width - 3 && missed < 14; x += step) {
      if (isDark(image, x, along(x).y)) [last, missed] = [x, 0];
      else missed += 1;
    }
    return last;
  };
  const left = end(Math.round((firstStrip(track) + 0.5) * widthPx), -1);
  const right = end(Math.round((lastStrip(track) + 0.5) * widthPx), 1) + 1;
  const middle = new Float32Array(right - left);
  for (let x = left; x < right; x += 1) middle[x - left] = along(x).y;
  return { left, right, middle };
}

function isDark({ width, height, ink }: InkImage, x: number, y: number): boolean {
  for (let row = Math.round(y) - 1; row <= Math.round(y) + 1; row += 1)
    if (row >= 0 && row < height && (ink[row * width + x] as number) > 0.35) return true;
  return false;
}

/** Strokes that go as far up from a line as down, and how far. Units: pixels */
function evenStrokes(
  { width, height, ink }: InkImage,
  { left, middle }: Line,
): { readonly x: number; readonly reach: number }[] {
  const found: { readonly x: number; readonly reach: number }[] = [];
  const run = (x: number, y: number, step: 1 | -1): number => {
    let [length, missed] = [0, 0];
    for (let row = y + step; row > 0 && row < height && missed < 1 && length <= HIGHEST + 4; row += step) {
      const dark = Math.max(
        ink[row * width + x] as number,
        ink[row * width + x - 1] as number,
        ink[row * width + x + 1] as number,
      );
      if (dark > 0.4) length += 1;
      else missed += 1;
    }
    return length;
  };
  let open: number[] = [];
  const close = (end: number): void => {
    // Heads of notes reach as far up as down too, but they are wide.
    if (open.length > 0 && open.length <= WIDEST_STROKE) found.push({ x: end, reach: Math.max(...open) });
    open = [];
  };
  for (let n = 2; n < middle.length - 2; n += 1) {
    const [x, y] = [left + n, Math.round(middle[n] as number)];
    const [up, down] = [run(x, y, -1), run(x, y, 1)];
    const reach = (up + down) / 2;
    const isEven =
      Math.min(up, down) >= LOWEST && reach <= HIGHEST && Math.abs(up - down) <= 0.22 * reach + 1;
    if (isEven) open.push(reach);
    else close(x);
  }
  close(left + middle.length);
  return found;
}

/** The reach that many strokes have; of several the largest, for heads of notes reach half as far. */
function usualReach(all: readonly number[]): number | null {
  const near = (reach: number): number => all.filter((other) => Math.abs(other - reach) <= 1.5).length;
  const most = Math.max(0, ...all.map(near));
  const usual = all.filter((reach) => near(reach) >= Math.max(4, 0.12 * most));
  return usual.length === 0 ? null : Math.max(...usual) - 0.5;
}
