import { normalDraw, seededRandom } from '../../base/index.js';
import type { AskedMusic, AskedNote } from '../follow/asked-notes.js';
import type { FollowedNote } from '../follow/follow.js';
import { pausesOf } from './pauses.js';
import { pulseOf } from './pulse.js';
import { steadyLine, type LinePoint } from './steady-line.js';
import { takeMeasures } from './take-measures.js';

/** Four quarters a measure at the written ♩ = 100, two notes a quarter. */
const EIGHTH = 0.3;
const NOTES = 8;
const MEASURE = NOTES * EIGHTH;

const ASKED: AskedNote = {
  ...{ measureIndex: 0, ordinal: 1, pass: 0, at: 0, length: 0.5, clock: 0, lasts: EIGHTH, midis: [60] },
  ...{ isSlurred: false, isOrnamented: false, isStaccato: false, hasFermata: false },
};

function eighths(measures: number, changed: Partial<AskedNote> = {}): AskedMusic {
  return {
    notes: Array.from({ length: measures * NOTES }, (_, n): AskedNote => ({
      ...ASKED,
      ...{ pass: Math.floor(n / NOTES), at: n / 2, clock: n * EIGHTH },
      ...changed,
    })),
    measures: Array.from({ length: measures }, (_, n) => ({
      ...{ measureIndex: n, number: String(n + 1), at: n * 4, quarters: 4 },
      ...{ clock: n * MEASURE, lasts: MEASURE },
    })),
    ...{ quarters: measures * 4, seconds: measures * MEASURE },
  };
}

/** Notes where they were heard. Shape: in one run */
function heardAt(times: readonly number[], run = 0, first = 0): FollowedNote[] {
  return times.map((seconds, n): FollowedNote => ({
    ...{ asked: first + n, run, seconds, end: times[n + 1] ?? seconds + EIGHTH, expected: EIGHTH },
    ...{ blur: 0.01, pace: 1, confidence: 1, isSure: true },
  }));
}

/** How long each measure lasts by the pulse, but for the last, whose end is not heard. Units: seconds */
function lengths(music: AskedMusic, times: readonly number[]): number[] {
  const pulse = pulseOf(music, heardAt(times), []);
  return music.measures.slice(0, -1).map(({ clock, lasts }) => pulse(0, clock + lasts) - pulse(0, clock));
}

/** Times of eighths, measure by measure at so many times the written length, played as exactly as people do. */
function played(paces: readonly number[], seed: number, stray = 0.012): number[] {
  const random = seededRandom(seed);
  let clock = 1;
  return paces.flatMap((pace) =>
    Array.from({ length: NOTES }, () => {
      clock += pace * EIGHTH;
      return clock - pace * EIGHTH + normalDraw(random, 0, stray);
    }),
  );
}

describe('the pulse of a take', () => {
  it('of steady playing is the line of least squares (Gauss; reckoned here by its formula)', () => {
    const times = played(Array<number>(10).fill(1.1), 3);
    const points = times.map((seen): LinePoint => ({ step: EIGHTH, isBroken: false, seen, spread: 0.012 }));
    const line = steadyLine(points, 1);
    const middle = (times.length - 1) / 2;
    const mean = times.reduce((sum, time) => sum + time, 0) / times.length;
    let [up, across] = [0, 0];
    times.forEach((time, n) => {
      up += (n - middle) * EIGHTH * (time - mean);
      across += ((n - middle) * EIGHTH) ** 2;
    });
    const [first, last] = [line[0]?.seconds ?? 0, line.at(-1)?.seconds ?? 0];
    expect(Math.abs((last - first) / ((times.length - 1) * EIGHTH) / (up / across) - 1)).toBeLessThan(0.001);
  });

  it('is not moved by one early note on a downbeat', () => {
    const times = played(Array<number>(10).fill(1), 5, 0);
    const early = times.map((time, n) => (n === 4 * NOTES ? time - 0.08 : time));
    for (const length of lengths(eighths(10), early))
      expect(Math.abs(length / MEASURE - 1)).toBeLessThan(0.005);
  });

  it('changes at once where the player does, and in the one measure that was pushed', () => {
    for (const paces of [
      [1, 1, 1, 1, 1, 1.14, 1.14, 1.14, 1.14, 1.14],
      [1, 1, 1, 1, 1, 0.93, 1, 1, 1, 1],
    ]) {
      const errors = [1, 2, 3, 4, 5, 6].map((seed) =>
        lengths(eighths(10), played(paces, seed)).map((length, n) =>
          Math.abs(length / (MEASURE * (paces[n] ?? 1)) - 1),
        ),
      );
      for (const n of [3, 4, 5, 6])
        expect(errors.reduce((sum, all) => sum + (all[n] ?? 1), 0) / errors.length)
          .withContext(`measure ${String(n + 1)}`)
          .toBeLessThan(0.015);
    }
  });

  it('stands still in a fermata that is held, and goes on after it', () => {
    const held = played(Array<number>(6).fill(1), 2).map((time, n) => (n > 20 ? time + 2 : time));
    const music = eighths(6);
    const notes = music.notes.map((note, n) => ({ ...note, hasFermata: n === 20 }));
    const measures = takeMeasures({ ...music, notes }, { notes: heardAt(held) }, []);
    // The measure with the fermata is told by what comes before it.
    for (const { number, quarterBpm } of measures.slice(0, 5))
      expect(Math.abs((quarterBpm ?? 0) / 100 - 1))
        .withContext(`measure ${number}`)
        .toBeLessThan(0.03);
  });
});

describe('a stop', () => {
  it('is no rest that is written before the player goes back', () => {
    const music = eighths(4);
    // The last quarter of each measure is a rest.
    const notes = music.notes.filter((_, n) => n % NOTES < 6);
    const times = [0, 1].flatMap((measure) =>
      Array.from({ length: 6 }, (_, n) => measure * MEASURE + n * EIGHTH),
    );
    const again = (late: number): FollowedNote[] => [
      ...heardAt(times),
      ...heardAt([2 * MEASURE + late, 2 * MEASURE + EIGHTH + late], 1),
    ];
    expect(pausesOf({ ...music, notes }, { notes: again(0) })).toEqual([]);
    const [stop, ...more] = pausesOf({ ...music, notes }, { notes: again(1.5) });
    expect(more).toEqual([]);
    expect(stop?.seconds).toBeCloseTo(2 * MEASURE, 6);
    expect(stop?.length).toBeCloseTo(1.5, 6);
  });

  it('of more than a second is one after a long note too, but a long note a little longer is none', () => {
    const whole = { length: 4, lasts: MEASURE };
    const music = {
      ...eighths(3),
      notes: [0, 1, 2].map((pass) => ({ ...ASKED, ...whole, pass, clock: pass * MEASURE })),
    };
    const late = (seconds: number): FollowedNote[] =>
      heardAt([0, MEASURE, 2 * MEASURE + seconds]).map((note) => ({ ...note, expected: MEASURE }));
    expect(pausesOf(music, { notes: late(1.05) }).length).toBe(1);
    expect(pausesOf(music, { notes: late(0.8) })).toEqual([]);
  });
});
