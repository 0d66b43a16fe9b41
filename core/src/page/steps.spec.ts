import { barlineScore } from './barlines.js';
import { scaledTo, type GrayImage } from './image.js';
import { evenLight } from './light.js';
import { findStaves } from './staves.js';
import { rowAt, straightened } from './straight.js';
import { staffSpace, stripsOf, thinFor } from './strips.js';
import { findStrokes } from './strokes.js';

const [WIDTH, HEIGHT] = [1700, 2400];
type Draw = (put: (x: number, y: number, tone?: number) => void) => void;

/** A white page with something drawn on it. */
function drawn(draw: Draw): GrayImage {
  const data = new Uint8Array(WIDTH * HEIGHT).fill(255);
  draw((x, y, tone = 0) => {
    const at = Math.round(y) * WIDTH + Math.round(x);
    if (at >= 0 && at < data.length) data[at] = tone;
  });
  return { width: WIDTH, height: HEIGHT, data };
}

/** Staves of five lines, two pixels thick, that rise by `slope`. */
const staves =
  (tops: readonly number[], { space = 13, slope = 0, left = 200, right = 1500 } = {}): Draw =>
  (put) => {
    for (const top of tops)
      for (let line = 0; line < 5; line += 1)
        for (let x = left; x < right; x += 1)
          for (const thick of [0, 1]) put(x, top + line * space + slope * (x - left) + thick);
  };

const together =
  (...all: readonly Draw[]): Draw =>
  (put) =>
    all.forEach((draw) => draw(put));

/** An upright box, both ends included. */
const box =
  (x: number, y: number, w: number, h: number): Draw =>
  (put) => {
    for (let dx = 0; dx < w; dx += 1) for (let dy = 0; dy < h; dy += 1) put(x + dx, y + dy);
  };

describe('the steps of reading a page', () => {
  const found = (page: GrayImage) => {
    const image = evenLight(page);
    const strips = stripsOf(image);
    const space = staffSpace(strips) ?? Number.NaN;
    return { space, ...findStaves(image, thinFor(strips, space), space) };
  };

  it('make a picture smaller by area and larger without steps', () => {
    const small = scaledTo(
      { width: 4, height: 2, data: new Uint8Array([0, 0, 200, 200, 0, 0, 200, 200]) },
      2,
    );
    expect([small.width, small.height]).toEqual([2, 1]);
    expect(small.data[0]).toBeLessThan(60);
    expect(small.data[1]).toBeGreaterThan(140);
    const large = scaledTo({ width: 2, height: 1, data: new Uint8Array([0, 100]) }, 4);
    const row = [...large.data.slice(0, 4)];
    expect(row).toEqual([...row].sort((a, b) => a - b));
    expect(new Set(row).size).toBe(4);
  });

  it('find ink under a shadow as dark as beside it, and none on the dark desk around the page', () => {
    const page = drawn((put) => {
      for (let y = 0; y < HEIGHT; y += 1)
        for (let x = 0; x < WIDTH; x += 1) {
          const light = 1 - 0.5 * (x / WIDTH);
          const isDesk = y > 2200;
          put(x, y, Math.round(isDesk ? 40 + (x % 3) * 8 : (x % 50 < 4 ? 40 : 230) * light));
        }
    });
    const { ink } = evenLight(page);
    const [bright, dark] = [ink[1000 * WIDTH + 102], ink[1000 * WIDTH + 1602]];
    expect(bright).toBeGreaterThan(0.8);
    expect(Math.abs((bright ?? 0) - (dark ?? 0))).toBeLessThan(0.1);
    expect(ink[1000 * WIDTH + 120]).toBeLessThan(0.1);
    expect(Math.max(...ink.slice(2320 * WIDTH, 2330 * WIDTH))).toBe(0);
  });

  it('find the distance of staff lines, and none on an empty page', () => {
    for (const space of [9, 13, 21])
      expect(found(drawn(staves([300, 700, 1100], { space }))).space)
        .withContext(String(space))
        .toBeCloseTo(space, 0);
    expect(staffSpace(stripsOf(evenLight(drawn(() => undefined))))).toBeNull();
  });

  it('follow staves that are turned, to where their lines end', () => {
    const slope = Math.tan((2 * Math.PI) / 180);
    const { staves: all } = found(drawn(staves([300, 700, 1100], { slope, left: 250, right: 1450 })));
    expect(all.length).toBe(3);
    for (const [n, staff] of all.entries()) {
      expect(Math.abs(staff.left - 250)).toBeLessThan(8);
      expect(Math.abs(staff.right - 1450)).toBeLessThan(8);
      const x = 900;
      const expected = 300 + 400 * n + 26.5 + slope * (x - 250);
      expect(Math.abs((staff.middle[x - staff.left] ?? 0) - expected)).toBeLessThan(2);
    }
  });

  it('take five lines for a staff, not four, six, or a table of wide rows', () => {
    const lines =
      (count: number, space: number): Draw =>
      (put) => {
        for (let line = 0; line < count; line += 1)
          for (let x = 200; x < 1500; x += 1) for (const thick of [0, 1]) put(x, 300 + line * space + thick);
      };
    expect(found(drawn(lines(4, 13))).staves.length).toBe(0);
    expect(found(drawn(lines(20, 60))).staves.length).toBe(0);
  });

  it('level a bent staff, and tell a bar line from a stem with its head', () => {
    const bend = (x: number): number => 18 * Math.sin((Math.PI * (x - 200)) / 1300);
    const page = drawn((put) => {
      staves([300, 700])((x, y, tone) => put(x, y + bend(x), tone));
      for (let y = 300; y <= 353; y += 1) for (const thick of [0, 1, 2]) put(700 + thick, y + bend(700));
      // A stem that begins at its head in the lowest space and goes on above the staff.
      for (let y = 285; y <= 346; y += 1) for (const thick of [0, 1]) put(1000 + thick, y + bend(1000));
      for (let dx = -16; dx < 0; dx += 1)
        for (let dy = -6; dy <= 6; dy += 1) put(1000 + dx, 346 + dy + bend(1000));
    });
    const { image, staves: all } = found(page);
    const staff = all[0];
    if (!staff) throw new Error('no staff');
    const straight = straightened(image, staff);
    const top = [...Array(9).keys()].map((n) => {
      const x = Math.round(((n + 1) * straight.width) / 10);
      const ink = (row: number): number => straight.ink[row * straight.width + x] ?? 0;
      return Math.max(...[-1, 0, 1].map((off) => ink(rowAt(0) + off)));
    });
    expect(Math.min(...top)).toBeGreaterThan(0.3);
    const strokes = findStrokes(straight);
    const at = (x: number) =>
      strokes.find(({ from, to }) => staff.left + from - 3 <= x && x <= staff.left + to + 3);
    expect(at(701)).toEqual(
      jasmine.objectContaining({ above: 0, below: 0, attachedLeft: 0, attachedRight: 0 }),
    );
    expect(at(1000)?.above).toBe(1);
    expect(at(1000)?.attachedLeft).toBeGreaterThan(0.15);
  });

  it('tell by the evenness of their ink a bar line with a neighbour or a tie from a stem as high as the staff', () => {
    const head = (x: number, y: number): Draw =>
      together(...[...Array(13).keys()].map((n) => box(x - 16, y - 6 + n, 17, 1)));
    const page = drawn(
      together(
        staves([300, 700]),
        // Alone; close before a stem; crossed by a tie; a stem of a head in the lowest space; and under a breath mark.
        ...[600, 700, 800, 900, 1000].map((x) => box(x, 300, 3, 54)),
        ...[[707, 320] as const].map(([x, y]) => box(x, y, 2, 50)),
        box(780, 333, 46, 4),
        head(900, 346),
        box(998, 285, 9, 10),
        box(1002, 295, 3, 4),
      ),
    );
    const { image, staves: all } = found(page);
    const staff = all[0];
    if (!staff) throw new Error('no staff');
    const straight = straightened(image, staff);
    const strokes = findStrokes(straight);
    const context = { isOpenAbove: false, isOpenBelow: false, usualMass: 3 };
    const scores = [601, 701, 801, 901, 1001].map((x) => {
      const stroke = strokes.find(({ from, to }) => staff.left + from - 2 <= x && x <= staff.left + to + 2);
      return stroke ? barlineScore(straight, stroke, context) : 0;
    });
    expect(scores.map((score) => score > 0.4)).toEqual([true, true, true, false, true]);
    expect(scores[0]).toBeGreaterThan(0.9);
  });

  it('do nothing with what holds no music', () => {
    const noise = drawn((put) => {
      for (let n = 0; n < 40_000; n += 1) put((n * 7919) % WIDTH, (n * 104_729) % HEIGHT);
    });
    const black = { width: WIDTH, height: HEIGHT, data: new Uint8Array(WIDTH * HEIGHT) };
    const bars = drawn(together(...[...Array(12).keys()].map((n) => box(150 + 120 * n, 300, 40, 900))));
    for (const page of [noise, black, bars]) expect(found(page).staves.length).toBe(0);
  });
});
