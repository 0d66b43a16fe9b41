import { upperMedian } from '../base/index.js';
import type { InkImage } from './light.js';
import { lineThrough } from './line-through.js';
import type { Strips } from './strips.js';

/** A staff as it runs over the page. Units: pixels; by column of the page from `left` to before `right` */
export interface Staff {
  readonly left: number;
  readonly right: number;
  /** Where the middle line lies. */
  readonly middle: Float32Array;
  /** The distance between its lines. */
  readonly space: Float32Array;
  /** How sure its lines are, 0 to 1. */
  readonly certainty: number;
  /** One for percussion that is written on a single line. */
  readonly lines: 5 | 1;
}

/** Five lines, or one, in one strip. */
export interface Comb {
  readonly strip: number;
  readonly y: number;
  readonly space: number;
  readonly score: number;
}

/** Spaces that differ so much from that of the page are looked for too: one side of the page may be nearer. */
const SPACES = [0.88, 0.905, 0.93, 0.955, 0.98, 1, 1.02, 1.045, 1.07, 1.095, 1.12, 1.15, 1.18];
/** Of what lies one line further out, so much is taken off: a staff has five lines and no sixth. */
const OUTSIDE = 0.55;
/** Combs weaker than this share of the strong ones are none. */
const WEAKEST = 0.42;
/** A staff runs over so many strips at least. */
const SHORTEST = 5;
/** Strips that a track may miss. */
const LARGEST_GAP = 4;

/** Staves, and the page with its thin lines as dark as they are looked for. */
export interface FoundStaves {
  readonly image: InkImage;
  readonly staves: readonly Staff[];
}

/** Finds staves of five lines: combs in each strip, linked where they go on. Shape: from top to bottom */
export function findStaves(page: InkImage, strips: Strips, space: number): FoundStaves {
  const fits = strips.thin.map((rows) => combFit(rows, space));
  const combsWithin = (spaces: number): Comb[][] =>
    fits.map((fit, strip) => combsIn(fit, strip, Math.round(space * spaces)));
  const combs = combsWithin(APART);
  const scores = combs.flatMap((own) => own.map(({ score }) => score)).sort((a, b) => b - a);
  const strong = scores[Math.floor(Math.min(scores.length, strips.thin.length) * 0.3)] ?? 0;
  const image = (tracks: readonly (readonly Comb[])[]): InkImage =>
    withDarkLines(page, strips, { tracks, lines: [-2, -1, 0, 1, 2] });
  const tracksOf = (all: readonly (readonly Comb[])[]): Comb[][] =>
    linked(all.map((own) => own.filter(({ score }) => score >= WEAKEST * strong && score > 0.5))).filter(
      (track) => track.length >= SHORTEST && isDense(track),
    );
  const sure = tracksOf(combs);
  const dark = image(sure);
  const read = (tracks: readonly (readonly Comb[])[], least: number): Staff[] =>
    tracks
      .map((track) => staffOf(dark, strips, track))
      .filter((staff) => staff.certainty > least && staff.right - staff.left > 6 * space);
  const staves = apart(read(sure, CERTAIN));
  // Of a staff that beams cover, combs fit now here, now a line off: those of one height are looked for among all.
  const more =
    staves.length === 0
      ? []
      : read(tracksOf(combsWithin(CLOSE)), HALF_CERTAIN).filter((staff) => runsAlike(staff, staves));
  const all = apart([...staves, ...more], staves);
  return { image: dark, staves: all.sort((x, y) => middleOf(x) - middleOf(y)) };
}

/** So much of its lines is seen of a staff, and of one that runs as the others do. */
const CERTAIN = 0.5;
const HALF_CERTAIN = 0.3;

/** No two staves are nearer; combs of one staff that are a line off are. Units: spaces */
const APART = 2.2;
const CLOSE = 0.6;
/** Its ends lie so near theirs. Units: spaces */
const ALIKE = 3;

/** Whether a staff begins and ends where most others do. */
function runsAlike({ left, right, space }: Staff, staves: readonly Staff[]): boolean {
  const near = ALIKE * (space[0] ?? 10);
  const alike = staves.filter(
    (one) => Math.abs(one.left - left) < 2 * near && Math.abs(one.right - right) < near,
  );
  return alike.length > 0 && alike.length >= staves.length / 3;
}

/** How much of a staff is seen: of two over each other the plainer one is right. */
function weight({ left, right, certainty }: Staff): number {
  return (right - left) * certainty;
}

/** Staves without those that lie over part of a longer one; those that are sure stay. Shape: the plainest first */
function apart(staves: readonly Staff[], sure: readonly Staff[] = []): Staff[] {
  const isSure = new Set(sure);
  const sorted = [...staves].sort(
    (a, b) => Number(isSure.has(b)) - Number(isSure.has(a)) || weight(b) - weight(a),
  );
  return sorted.filter((staff, n) => !sorted.slice(0, n).some((longer) => isOver(longer, staff)));
}

/** Whether a staff lies over part of a longer one, off by a line or more. */
function isOver(longer: Staff, staff: Staff): boolean {
  const x = Math.round((staff.left + staff.right) / 2);
  if (x < longer.left || x >= longer.right) return false;
  const space = longer.space[x - longer.left] ?? 1;
  const off = (longer.middle[x - longer.left] ?? 0) - (staff.middle[x - staff.left] ?? 0);
  return Math.abs(off) < 4.5 * space;
}

/** How dark staff lines are to be, beside the blackest ink. */
const LINE_INK = 0.6;
const MOST_GAIN = 4;

/** Thin lines lose their ink to the paper in a small or blurred picture: all ink is made darker until they have it again. */
export function withDarkLines(
  image: InkImage,
  { widthPx }: Strips,
  { tracks, lines }: { readonly tracks: readonly (readonly Comb[])[]; readonly lines: readonly number[] },
): InkImage {
  const seen = tracks.flatMap((track) =>
    track.flatMap(({ strip, y, space }) =>
      lines.map((line) => inkNear(image, Math.round((strip + 0.5) * widthPx), Math.round(y + line * space))),
    ),
  );
  const usual = upperMedian(seen) ?? LINE_INK;
  const gain = Math.min(MOST_GAIN, LINE_INK / Math.max(0.05, usual));
  return gain <= 1 ? image : { ...image, ink: image.ink.map((one) => Math.min(1, one * gain)) };
}

function inkNear({ width, height, ink }: InkImage, x: number, y: number): number {
  let most = 0;
  for (let row = Math.max(0, y - 2); row <= Math.min(height - 1, y + 2); row += 1)
    most = Math.max(most, ink[row * width + x] ?? 0);
  return most;
}

/** Where the middle line lies half way along a staff. Units: pixels of the picture that is read */
export function middleOf({ middle }: Staff): number {
  return middle[middle.length >> 1] ?? 0;
}

/** How well a comb fits at each height of a strip, and with which space. Units: pixels */
interface CombFit {
  readonly best: Float32Array;
  readonly spaceAt: Float32Array;
}

function combFit(rows: Float32Array, page: number): CombFit {
  const { length } = rows;
  const best = new Float32Array(length);
  const spaceAt = new Float32Array(length);
  const wide = new Float32Array(length);
  for (let y = 1; y < length - 1; y += 1)
    wide[y] = Math.max(rows[y - 1] as number, rows[y] as number, rows[y + 1] as number);
  for (const share of SPACES) {
    const space = page * share;
    for (let y = Math.ceil(3 * space); y < length - 3 * space - 1; y += 1) {
      let sum = 0;
      for (let line = -2; line <= 2; line += 1) sum += wide[Math.round(y + line * space)] as number;
      const around =
        (wide[Math.round(y - 3 * space)] as number) + (wide[Math.round(y + 3 * space)] as number);
      const score = sum - OUTSIDE * around;
      if (score > (best[y] as number)) [best[y], spaceAt[y]] = [score, space];
    }
  }
  return { best, spaceAt };
}

/** Combs that fit best within so much above and below. Units: pixels */
function combsIn({ best, spaceAt }: CombFit, strip: number, reach: number): Comb[] {
  const { length } = best;
  const peaks: Comb[] = [];
  for (let y = 1; y < length - 1; y += 1) {
    const own = best[y] as number;
    if (own < 0.4) continue;
    let isTop = true;
    for (let k = Math.max(0, y - reach); isTop && k <= Math.min(length - 1, y + reach); k += 1)
      if ((best[k] as number) > own || ((best[k] as number) === own && k < y)) isTop = false;
    if (isTop) peaks.push({ strip, y, space: spaceAt[y] as number, score: own });
  }
  return peaks;
}

function isDense(track: readonly Comb[]): boolean {
  const [first, last] = [track[0], track.at(-1)];
  return first !== undefined && last !== undefined && track.length >= 0.55 * (last.strip - first.strip + 1);
}

/** Combs linked from strip to strip where they go on; tracks that run on in one another are joined. */
export function linked(combs: readonly (readonly Comb[])[]): Comb[][] {
  const tracks: Comb[][] = [];
  for (const own of combs) {
    const free = new Set(own);
    const live = tracks
      .filter((track) => (own[0]?.strip ?? 0) - (track.at(-1)?.strip ?? 0) <= LARGEST_GAP)
      .sort((a, b) => b.length - a.length);
    for (const track of live) {
      const next = nearest(track, free);
      if (!next) continue;
      track.push(next);
      free.delete(next);
    }
    for (const comb of free) tracks.push([comb]);
  }
  return joinTracks(tracks);
}

function nearest(track: readonly Comb[], free: ReadonlySet<Comb>): Comb | null {
  let found: Comb | null = null;
  let least = Infinity;
  for (const comb of free) {
    const off = Math.abs(comb.y - predicted(track, comb.strip));
    if (off < 0.55 * comb.space && off < least) [found, least] = [comb, off];
  }
  return found;
}

/** Where a track goes on: by the slope of its last combs. */
function predicted(track: readonly Comb[], strip: number): number {
  const last = track.slice(-8);
  const end = last.at(-1) as Comb;
  return track.length < 3 ? end.y : courseOf(last)(strip);
}

function courseOf(combs: readonly Comb[]): (strip: number) => number {
  return lineThrough(combs.map(({ strip, y }) => ({ x: strip, y, weight: 1 })));
}

/** Two tracks of one staff with a hole between, where most of its lines are covered. */
function joinTracks(tracks: Comb[][]): Comb[][] {
  const all = tracks
    .filter((track) => track.length >= 2)
    .sort((a, b) => (a[0] as Comb).strip - (b[0] as Comb).strip);
  const joined: Comb[][] = [];
  for (const track of all) {
    const first = track[0] as Comb;
    const before = joined.find((one) => {
      const end = one.at(-1) as Comb;
      const gap = first.strip - end.strip;
      return (
        gap > 0 &&
        gap <= 14 &&
        Math.abs(first.y - predicted(one, first.strip)) < (0.35 + 0.05 * gap) * first.space
      );
    });
    if (before) before.push(...track);
    else joined.push([...track]);
  }
  return joined;
}

/** The staff of a track, smoothed, to where its lines end. */
function staffOf(image: InkImage, { widthPx }: Strips, track: readonly Comb[]): Staff {
  const along = trackPoints(track, widthPx);
  const placeOf = (comb: Comb | undefined): number => Math.round(((comb?.strip ?? 0) + 0.5) * widthPx);
  const left = edge(image, along, { from: placeOf(track[0]), step: -1 });
  const right = edge(image, along, { from: placeOf(track.at(-1)), step: 1 });
  const middle = new Float32Array(right - left);
  const space = new Float32Array(right - left);
  for (let x = left; x < right; x += 1) {
    const at = along(x);
    middle[x - left] = at.y;
    space[x - left] = at.space;
  }
  const staff = { left, right, middle, space, certainty: 1, lines: 5 as const };
  return { ...staff, certainty: lineShare(image, staff) };
}

/** Where a track runs, smoothed, by the column of the page. */
export function trackPoints(
  track: readonly Comb[],
  widthPx: number,
): (x: number) => { y: number; space: number } {
  const points = smoothed(track).map(({ strip, y, space }) => ({ x: (strip + 0.5) * widthPx, y, space }));
  return (x) => interpolated(points, x);
}

interface Point {
  readonly x: number;
  readonly y: number;
  readonly space: number;
}

/** Places without outliers: of each the middle of its neighbours, then their mean. */
function smoothed(track: readonly Comb[]): Comb[] {
  const median = (values: readonly number[]): number => upperMedian(values) ?? 0;
  const calm = track.map((comb, n) => {
    const near = track
      .slice(Math.max(0, n - 3), n + 4)
      .filter(({ strip }) => Math.abs(strip - comb.strip) <= 6);
    if (near.length < 3) return comb;
    const course = courseOf(near);
    const off = median(near.map(({ strip, y }) => y - course(strip)));
    return {
      ...comb,
      y: course(comb.strip) + off,
      space: near.reduce((s, one) => s + one.space, 0) / near.length,
    };
  });
  return calm.map((comb, n) => {
    const near = calm
      .slice(Math.max(0, n - 1), n + 2)
      .filter(({ strip }) => Math.abs(strip - comb.strip) <= 3);
    const isInside = near.length === 3 && n > 0 && n < calm.length - 1;
    return isInside ? { ...comb, y: near.reduce((s, { y }) => s + y, 0) / 3 } : comb;
  });
}

function interpolated(points: readonly Point[], x: number): { y: number; space: number } {
  let n = points.findIndex((point) => point.x > x);
  if (n < 0) n = points.length - 1;
  if (n === 0) n = Math.min(1, points.length - 1);
  // Beyond an end the line goes on as over its last few strips.
  const isBeyond = x < (points[0] as Point).x || x > (points.at(-1) as Point).x;
  const [a, b] = isBeyond
    ? x < (points[0] as Point).x
      ? [points[0] as Point, points[Math.min(4, points.length - 1)] as Point]
      : [points[Math.max(0, points.length - 5)] as Point, points.at(-1) as Point]
    : [points[n - 1] as Point, points[n] as Point];
  const share = a.x === b.x ? 0 : (x - a.x) / (b.x - a.x);
  const inside = Math.min(1, Math.max(0, share));
  return { y: a.y + share * (b.y - a.y), space: a.space + inside * (b.space - a.space) };
}

/** Where the five lines end, going to one side: the last column before most of them are gone for a space. */
function edge(
  image: InkImage,
  along: (x: number) => { y: number; space: number },
  { from, step }: { readonly from: number; readonly step: 1 | -1 },
): number {
  let end = from;
  let missed = 0;
  for (let x = from; x > 2 && x < image.width - 3; x += step) {
    const { y, space } = along(x);
    let seen = 0;
    for (let line = -2; line <= 2; line += 1) if (isLine(image, x, y + line * space)) seen += 1;
    if (seen >= 4) {
      end = x;
      missed = 0;
    } else missed += 1;
    if (missed > 1.2 * space) break;
  }
  return end + (step > 0 ? 1 : 0);
}

function isLine({ width, height, ink }: InkImage, x: number, y: number): boolean {
  const row = Math.round(y);
  for (let k = -1; k <= 1; k += 1) {
    const at = row + k;
    if (at >= 0 && at < height && (ink[at * width + x] as number) > 0.3) return true;
  }
  return false;
}

/** Share of columns in which a staff shows the line that is seen least. */
function lineShare(
  image: InkImage,
  { left, right, middle, space }: Pick<Staff, 'left' | 'right' | 'middle' | 'space'>,
): number {
  const seen = [0, 0, 0, 0, 0];
  let all = 0;
  for (let x = left; x < right; x += 2) {
    const [y, own] = [middle[x - left] as number, space[x - left] as number];
    for (let line = 0; line < 5; line += 1)
      if (isLine(image, x, y + (line - 2) * own)) seen[line] = (seen[line] as number) + 1;
    all += 1;
  }
  return all === 0 ? 0 : Math.min(...seen) / all;
}
