import { normalDraw, seededRandom } from '../../base/index.js';
import type { GrayImage } from '../index.js';

/** What a camera does to a page. */
export interface CameraOptions {
  readonly seed: number;
  /** Units: pixels of the longer side of the picture */
  readonly longSide: number;
  /** Units: degrees, at most */
  readonly turn: number;
  /** Share of the width by which one side is nearer. */
  readonly keystone: number;
  /** Rise of the page in its middle. Units: shares of the height */
  readonly bend: number;
  /** Units: pixels */
  readonly blur: number;
  /** Share of the light that a shadow takes. */
  readonly shadow: number;
  /** Standard deviation. Units: grey values */
  readonly noise: number;
}

/** A picture of a page with the way of every point of it. Shape: fractions in, fractions out */
export interface Photograph {
  readonly image: GrayImage;
  readonly place: (x: number, y: number) => readonly [number, number];
}

/** Takes a picture of a page: turned, from the side, bent, blurred, in bad light, with noise; the same for the same seed. */
export function photograph(page: GrayImage, options: CameraOptions): Photograph {
  const { longSide, bend, shadow, noise } = options;
  const random = seededRandom(options.seed);
  const within = (most: number): number => (random() * 2 - 1) * most;
  const height = longSide;
  const width = Math.round((longSide * 3) / 4);
  const angle = (within(options.turn) * Math.PI) / 180;
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const fill = 0.9 + random() * 0.06;
  const scale = Math.min((width * fill) / page.width, (height * fill) / page.height);
  const [kx, ky] = [within(options.keystone), within(options.keystone / 2)];
  const bow = within(bend);
  const [sx, sy, reach] = [random(), random(), 0.4 + random() * 0.5];
  // From the page (-½ to ½) to the picture: bend, keystone, turn.
  const forth = (u: number, v: number): readonly [number, number] => {
    const bent = v + bow * (1 - 4 * u * u);
    const depth = 1 + kx * u + ky * bent;
    const [px, py] = [(u * page.width * scale) / depth, (bent * page.height * scale) / depth];
    return [width / 2 + px * cos - py * sin, height / 2 + px * sin + py * cos];
  };
  const data = new Uint8Array(width * height);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) {
      const [qx, qy] = [x - width / 2, y - height / 2];
      const [px, py] = [qx * cos + qy * sin, -qx * sin + qy * cos];
      const [a, b] = [px / (page.width * scale), py / (page.height * scale)];
      // u = a·depth, v = b·depth with depth = 1 + kx·u + ky·v.
      const depth = 1 / (1 - kx * a - ky * b);
      const [u, bent] = [a * depth, b * depth];
      const v = bent - bow * (1 - 4 * u * u);
      const isPage = Math.abs(u) < 0.5 && Math.abs(v) < 0.5;
      const tone = isPage ? sampled(page, (u + 0.5) * page.width, (v + 0.5) * page.height) : 40;
      const paper = isPage ? 60 + (tone / 255) * 155 : 45;
      const dark = 1 - shadow * Math.max(0, 1 - Math.hypot(x / width - sx, y / height - sy) / reach);
      data[y * width + x] = clamp(paper * dark);
    }
  const image = blurred({ width, height, data }, options.blur);
  for (let n = 0; n < image.data.length; n += 1)
    image.data[n] = clamp((image.data[n] ?? 0) + normalDraw(random, 0, noise));
  return {
    image,
    place: (x, y) => {
      const [px, py] = forth(x - 0.5, y - 0.5);
      return [px / width, py / height];
    },
  };
}

function clamp(value: number): number {
  return Math.max(0, Math.min(255, Math.round(value)));
}

function sampled({ width, height, data }: GrayImage, x: number, y: number): number {
  const [x0, y0] = [
    Math.min(width - 2, Math.max(0, Math.floor(x))),
    Math.min(height - 2, Math.max(0, Math.floor(y))),
  ];
  const [fx, fy] = [x - x0, y - y0];
  const at = y0 * width + x0;
  const top = (data[at] ?? 0) * (1 - fx) + (data[at + 1] ?? 0) * fx;
  const bottom = (data[at + width] ?? 0) * (1 - fx) + (data[at + width + 1] ?? 0) * fx;
  return top * (1 - fy) + bottom * fy;
}

/** A box blur twice, near to a Gaussian. */
function blurred(image: GrayImage, sigma: number): GrayImage {
  const radius = Math.round(sigma);
  if (radius < 1) return image;
  let { data } = image;
  const { width, height } = image;
  for (const step of [1, width, 1, width]) {
    const next = new Uint8Array(data.length);
    for (let n = 0; n < data.length; n += 1) {
      let [sum, count] = [0, 0];
      for (let k = -radius; k <= radius; k += 1) {
        const at = n + k * step;
        if (at < 0 || at >= data.length) continue;
        sum += data[at] ?? 0;
        count += 1;
      }
      next[n] = sum / count;
    }
    data = next;
  }
  return { width, height, data };
}
