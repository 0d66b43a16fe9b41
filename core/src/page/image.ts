/** A picture without colours. Shape: row after row, 0 is black and 255 is white. Units: pixels */
export interface GrayImage {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
}

/**
 * A drawing without its colours, on white paper.
 * Shape:  red, green, blue and cover of each pixel, row after row
 * Units:  0 to 255
 * Source: ITU-R BT.601, 2.5.1, luma
 */
export function grayOf(width: number, height: number, data: Uint8ClampedArray): GrayImage {
  const out = new Uint8Array(width * height);
  for (let n = 0; n < out.length; n += 1) {
    const at = 4 * n;
    const luma = 0.299 * (data[at] ?? 0) + 0.587 * (data[at + 1] ?? 0) + 0.114 * (data[at + 2] ?? 0);
    const cover = (data[at + 3] ?? 255) / 255;
    out[n] = Math.round(luma * cover + 255 * (1 - cover));
  }
  return { width, height, data: out };
}

/**
 * A picture as large as pages are read at.
 * Shape:  the longer side has `longSide` pixels; smaller pictures are enlarged
 * Units:  pixels
 */
export function scaledTo({ width, height, data }: GrayImage, longSide: number): GrayImage {
  const factor = longSide / Math.max(width, height);
  if (Math.abs(factor - 1) < 0.001) return { width, height, data };
  const [w, h] = [Math.max(1, Math.round(width * factor)), Math.max(1, Math.round(height * factor))];
  const columns = weights(width, w);
  const rows = weights(height, h);
  const middle = new Float32Array(w * height);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < w; x += 1) {
      const { from, parts } = columns[x] as Weights;
      let sum = 0;
      for (let k = 0; k < parts.length; k += 1)
        sum += (parts[k] as number) * (data[y * width + from + k] as number);
      middle[y * w + x] = sum;
    }
  const out = new Uint8Array(w * h);
  for (let y = 0; y < h; y += 1) {
    const { from, parts } = rows[y] as Weights;
    for (let x = 0; x < w; x += 1) {
      let sum = 0;
      for (let k = 0; k < parts.length; k += 1)
        sum += (parts[k] as number) * (middle[(from + k) * w + x] as number);
      out[y * w + x] = Math.round(sum);
    }
  }
  return { width: w, height: h, data: out };
}

interface Weights {
  readonly from: number;
  readonly parts: Float32Array;
}

/** How much of each pixel before goes into each pixel after: by area where it becomes smaller, else linear. */
function weights(before: number, after: number): Weights[] {
  const ratio = before / after;
  const reach = Math.max(1, ratio);
  return Array.from({ length: after }, (_, n) => {
    const centre = (n + 0.5) * ratio - 0.5;
    const from = Math.max(0, Math.ceil(centre - reach));
    const to = Math.min(before - 1, Math.floor(centre + reach));
    const parts = new Float32Array(Math.max(1, to - from + 1));
    let sum = 0;
    for (let k = 0; k < parts.length; k += 1) {
      parts[k] = Math.max(1e-6, 1 - Math.abs(from + k - centre) / reach);
      sum += parts[k] as number;
    }
    for (let k = 0; k < parts.length; k += 1) parts[k] = (parts[k] as number) / sum;
    return { from: Math.min(from, before - 1), parts };
  });
}
