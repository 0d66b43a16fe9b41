import type { InkImage } from './light.js';

/** A page in upright strips: how dark each row of each strip is, where it is thin. Units: pixels; ink 0 to 1 */
export interface Strips {
  readonly widthPx: number;
  readonly height: number;
  /** By strip: how dark each row is. */
  readonly rows: readonly Float32Array[];
  /** By strip: what is darker than all within some pixels above and below. */
  readonly thin: readonly Float32Array[];
}

const STRIPS = 75;
/** Lines are thinner. Units: pixels of the picture that is read */
const THICKEST_LINE = 7;

/** Cuts a page into upright strips and keeps of each row what may be a line. */
export function stripsOf({ width, height, ink }: InkImage): Strips {
  const widthPx = width / STRIPS;
  const rows = Array.from({ length: STRIPS }, (_, n) => {
    const [from, to] = [Math.round(n * widthPx), Math.round((n + 1) * widthPx)];
    const own = new Float32Array(height);
    for (let y = 0; y < height; y += 1) {
      let sum = 0;
      for (let x = from; x < to; x += 1) sum += ink[y * width + x] as number;
      own[y] = sum / (to - from);
    }
    return own;
  });
  return { widthPx, height, rows, thin: rows.map((own) => topHat(own, THICKEST_LINE)) };
}

/** A staff line is thinner than this share of the space between two, a beam is not. */
const LINE_SHARE = 0.42;

/**
 * Strips with what is as thin as the lines of staves with a space, weak lines raised towards strong ones.
 * Units:  `space` in pixels
 */
export function thinFor(strips: Strips, space: number): Strips {
  const size = Math.max(3, Math.round(LINE_SHARE * space) | 1);
  return {
    ...strips,
    thin: strips.rows.map((own) => topHat(own, size).map((one) => Math.sqrt(Math.max(0, one)))),
  };
}

/** What stands out of a row of values and is narrower than `size`. Source: white top-hat of mathematical morphology */
function topHat(values: Float32Array, size: number): Float32Array {
  const reach = size >> 1;
  const eroded = slidingLeast(values, reach, 1);
  const opened = slidingLeast(eroded, reach, -1);
  return values.map((value, n) => value - (opened[n] as number));
}

/** The least of the values around each, or the most where they are turned over. */
function slidingLeast(values: Float32Array, reach: number, sign: 1 | -1): Float32Array {
  const out = new Float32Array(values.length);
  for (let n = 0; n < values.length; n += 1) {
    let best = sign * (values[n] as number);
    const [from, to] = [Math.max(0, n - reach), Math.min(values.length - 1, n + reach)];
    for (let k = from; k <= to; k += 1) {
      const own = sign * (values[k] as number);
      if (own < best) best = own;
    }
    out[n] = sign * best;
  }
  return out;
}

/** Values with their mean taken off, so that noise does not repeat at every distance. */
function aroundMean(rows: Float32Array): Float32Array {
  const mean = rows.reduce((sum, one) => sum + one, 0) / rows.length;
  return rows.map((one) => one - mean);
}

/** Distances between staff lines that are looked for. Units: pixels of the picture that is read */
const NARROWEST = 7;
const WIDEST = 44;

/**
 * The distance between staff lines: at which the thin rows of the strips repeat.
 * Shape:  null where nothing repeats
 * Units:  pixels
 * Source: autocorrelation
 */
export function staffSpace({ thin }: Strips): number | null {
  const sums = new Float64Array(WIDEST * 2 + 2);
  for (const rows of thin.map(aroundMean))
    for (let lag = NARROWEST; lag < sums.length; lag += 1) {
      let sum = 0;
      for (let y = 0; y + lag < rows.length; y += 1) sum += (rows[y] as number) * (rows[y + lag] as number);
      sums[lag] = (sums[lag] as number) + sum;
    }
  let best = 0;
  let at = 0;
  for (let lag = NARROWEST + 1; lag <= WIDEST; lag += 1) {
    const own = sums[lag] as number;
    const isPeak = own >= (sums[lag - 1] as number) && own >= (sums[lag + 1] as number);
    // A staff repeats at twice the distance too, three times of four.
    const worth =
      own + 0.5 * Math.max(sums[2 * lag - 1] as number, sums[2 * lag] as number, sums[2 * lag + 1] as number);
    if (isPeak && worth > best) [best, at] = [worth, lag];
  }
  if (at === 0 || (sums[at] as number) < 1e-3) return null;
  const [a, b, c] = [sums[at - 1] as number, sums[at] as number, sums[at + 1] as number];
  const bend = a - 2 * b + c;
  return at + (bend === 0 ? 0 : (0.5 * (a - c)) / bend);
}
