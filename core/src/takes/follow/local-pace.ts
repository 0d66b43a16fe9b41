import { upperMedian } from '../../base/index.js';

/** Neighbours so far away on the written clock tell the pace of a place. Units: seconds */
const REACH = 3;
/** So many neighbours on each side tell it in any case. */
const FEWEST = 4;
/** At most so many are compared with each other (our own, for time). */
const MOST = 24;
/** An interval so much longer than the pace around it is a stop: its excess is no pace. Units: seconds, a share */
const STOP = { seconds: 0.5, share: 1.45 };
/** What is so long is one after a long note too. */
const CLEAR = { seconds: 1, share: 1.25 };

/** Whether what an interval lasts beyond what is expected is a stop. Units: seconds */
export function isStop(excess: number, expected: number): boolean {
  const { seconds, share } = excess >= CLEAR.seconds ? CLEAR : STOP;
  return excess > seconds && excess > expected * (share - 1);
}

/**
 * How fast the written clock runs around each place: the median slope between neighbours, which single late notes do
 * not move; stops are taken out first.
 * Shape:  one number a place; the pace of the whole where a place has too few neighbours
 * Units:  seconds a second of the written clock
 * Source: Theil, A rank-invariant method of linear and polynomial regression analysis (1950); Sen (1968)
 */
export function localPace(clocks: readonly number[], times: readonly number[]): number[] {
  const first = slopes(clocks, times, 'pairs');
  const steps = slopes(clocks, times, 'steps');
  const least = first.map((pace, n) => Math.min(pace, steps[n] ?? pace));
  return slopes(clocks, withoutStops(clocks, times, least), 'pairs');
}

/** Times with the excess of every stop taken out. */
function withoutStops(
  clocks: readonly number[],
  times: readonly number[],
  pace: readonly number[],
): number[] {
  let gone = 0;
  return times.map((time, n) => {
    const before = times[n - 1];
    if (before === undefined) return time;
    const expected = ((clocks[n] ?? 0) - (clocks[n - 1] ?? 0)) * Math.min(pace[n] ?? 1, pace[n - 1] ?? 1);
    const excess = time - before - expected;
    if (isStop(excess, expected)) gone += excess;
    return time - gone;
  });
}

/** Slopes between all neighbours of a place, or only from each to the next: a stop lies in many pairs, but in one step. */
function slopes(clocks: readonly number[], times: readonly number[], of: 'pairs' | 'steps'): number[] {
  const slope = of === 'pairs' ? medianSlope : medianStep;
  const whole = slope(clocks, times, [0, clocks.length]) ?? 1;
  let [from, to] = [0, 0];
  return clocks.map((clock, n) => {
    while (clock - (clocks[from] ?? 0) > REACH) from += 1;
    while (to < clocks.length && (clocks[to] ?? 0) - clock <= REACH) to += 1;
    const [first, last] = [
      Math.max(0, Math.min(from, n - FEWEST)),
      Math.min(clocks.length, Math.max(to, n + FEWEST + 1)),
    ];
    return slope(clocks, times, [first, last]) ?? whole;
  });
}

/** The slope that half of the written time is steeper than. */
function medianStep(
  clocks: readonly number[],
  times: readonly number[],
  [from, to]: readonly [from: number, to: number],
): number | null {
  const steps: { written: number; slope: number }[] = [];
  for (let n = from + 1; n < to; n += 1) {
    const written = (clocks[n] ?? 0) - (clocks[n - 1] ?? 0);
    if (written > 0.05) steps.push({ written, slope: ((times[n] ?? 0) - (times[n - 1] ?? 0)) / written });
  }
  steps.sort((a, b) => a.slope - b.slope);
  let rest = steps.reduce((sum, { written }) => sum + written, 0) / 2;
  return steps.find(({ written }) => (rest -= written) <= 0)?.slope ?? null;
}

function medianSlope(
  clocks: readonly number[],
  times: readonly number[],
  [from, to]: readonly [from: number, to: number],
): number | null {
  const step = Math.max(1, Math.ceil((to - from) / MOST));
  const found: number[] = [];
  for (let a = from; a < to; a += step) {
    for (let b = a + step; b < to; b += step) {
      const written = (clocks[b] ?? 0) - (clocks[a] ?? 0);
      if (written > 0.05) found.push(((times[b] ?? 0) - (times[a] ?? 0)) / written);
    }
  }
  const middle = upperMedian(found);
  return middle === null ? null : Math.max(0.2, Math.min(5, middle));
}
