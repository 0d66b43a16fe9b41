import type { GrayImage } from './image.js';

/** Darkness against the paper around. Shape: row after row, 0 is paper and 1 is ink */
export interface InkImage {
  readonly width: number;
  readonly height: number;
  readonly ink: Float32Array;
}

/** Units: pixels of the picture that is read */
const TILE = 40;
/** So much of a tile is at least paper. */
const PAPER_SHARE = 0.8;
/** The darkest paper, in a shadow. Units: shares of the brightness of most of the page */
const DESK = 0.42;
/** Ink is so much darker than its paper; less contrast is none. Units: shares of the paper's brightness */
const LEAST_CONTRAST = 0.12;

/**
 * Evens out the light: what is dark against the paper around it is ink, whatever shadow lies over both.
 * Shape:  as large as the picture
 * Units:  0 to 1
 */
export function evenLight({ width, height, data }: GrayImage): InkImage {
  const [columns, rows] = [Math.ceil(width / TILE), Math.ceil(height / TILE)];
  const paper = opened(tilePaper({ width, height, data }, columns, rows), columns, rows);
  const desk = DESK * (Float32Array.from(paper).sort()[Math.floor(paper.length * 0.7)] as number);
  const ink = new Float32Array(width * height);
  const counts = new Float64Array(256);
  const brightRow = new Float32Array(width);
  for (let y = 0; y < height; y += 1) {
    paperRow(brightRow, { paper, columns, rows }, y);
    for (let x = 0; x < width; x += 1) {
      const bright = brightRow[x] as number;
      // What is dark all over is no paper, but what the page lies on.
      const dark = bright < desk ? 0 : Math.max(0, 1 - (data[y * width + x] as number) / Math.max(1, bright));
      ink[y * width + x] = dark;
      counts[Math.min(255, Math.floor(dark * 255))] =
        (counts[Math.min(255, Math.floor(dark * 255))] as number) + 1;
    }
  }
  const black = Math.max(LEAST_CONTRAST, darkest(counts, width * height));
  for (let n = 0; n < ink.length; n += 1) ink[n] = Math.min(1, (ink[n] as number) / black);
  return { width, height, ink };
}

/** How dark the ink of this page is: that of the darkest hundredth, without the outermost. */
function darkest(counts: Float64Array, all: number): number {
  let left = all * 0.012;
  for (let n = 255; n > 0; n -= 1) {
    left -= counts[n] as number;
    if (left <= 0) return n / 255;
  }
  return 0;
}

/** The brightness of the paper in each tile. */
function tilePaper({ width, height, data }: GrayImage, columns: number, rows: number): Float32Array {
  const paper = new Float32Array(columns * rows);
  const counts = new Uint32Array(256);
  for (let row = 0; row < rows; row += 1)
    for (let column = 0; column < columns; column += 1) {
      counts.fill(0);
      let all = 0;
      for (let y = row * TILE; y < Math.min(height, (row + 1) * TILE); y += 1)
        for (let x = column * TILE; x < Math.min(width, (column + 1) * TILE); x += 1) {
          counts[data[y * width + x] as number] = (counts[data[y * width + x] as number] as number) + 1;
          all += 1;
        }
      let seen = 0;
      let value = 0;
      while (value < 255 && seen + (counts[value] as number) < PAPER_SHARE * all) {
        seen += counts[value] as number;
        value += 1;
      }
      paper[row * columns + column] = value;
    }
  return paper;
}

/** A tile full of ink takes the paper of its neighbours. */
function opened(paper: Float32Array, columns: number, rows: number): Float32Array {
  const out = new Float32Array(paper.length);
  for (let row = 0; row < rows; row += 1)
    for (let column = 0; column < columns; column += 1) {
      const own: number[] = [];
      for (let r = Math.max(0, row - 1); r <= Math.min(rows - 1, row + 1); r += 1)
        for (let c = Math.max(0, column - 1); c <= Math.min(columns - 1, column + 1); c += 1)
          own.push(paper[r * columns + c] as number);
      own.sort((a, b) => a - b);
      out[row * columns + column] = Math.max(
        paper[row * columns + column] as number,
        own[own.length >> 1] as number,
      );
    }
  return out;
}

/** The paper's brightness along a row of pixels, between the middles of the tiles. Shape: written into `out` */
function paperRow(
  out: Float32Array,
  { paper, columns, rows }: { readonly paper: Float32Array; readonly columns: number; readonly rows: number },
  y: number,
): void {
  const fy = Math.max(0, y / TILE - 0.5);
  const r = Math.min(rows - 1, Math.floor(fy));
  const [r1, ay] = [Math.min(rows - 1, r + 1), fy - r];
  const own = Float32Array.from({ length: columns }, (_, c) => {
    const [top, low] = [paper[r * columns + c] as number, paper[r1 * columns + c] as number];
    return top * (1 - ay) + low * ay;
  });
  for (let x = 0; x < out.length; x += 1) {
    const fx = Math.max(0, x / TILE - 0.5);
    const c = Math.min(columns - 1, Math.floor(fx));
    const [left, right] = [own[c] as number, own[Math.min(columns - 1, c + 1)] as number];
    out[x] = left + (right - left) * (fx - c);
  }
}
