import type { Random } from '../base/index.js';
import type { Span } from '../score/index.js';

/** Up to so many measures every width is taken; over it the widths grow faster (our own: nobody plays 120 turns). */
const EVERY_WIDTH = 8;
const WIDE = [1, 2, 3, 4, 6, 8, 12, 16, 24, 32];
/** Reps of each turn, and seconds to set up before each (our own estimates). */
const REPS_A_TURN = 2;
const SECONDS_BETWEEN = 4;

/**
 * One measure at a time, then overlapping twos, then threes, … to the whole.
 * Shape:  n ones, n−1 twos, n−2 threes; of longer passages wider turns grow faster, the whole last
 * Units:  measure indexes
 * Source: the design
 */
export function wideningSpans({ fromIndex, endIndex }: Span): Span[] {
  const count = endIndex - fromIndex;
  const widths =
    count <= EVERY_WIDTH
      ? Array.from({ length: count }, (_, n) => n + 1)
      : [...WIDE.filter((width) => width < count), count];
  return widths.flatMap((width) =>
    Array.from({ length: count - width + 1 }, (_, n) => ({
      fromIndex: fromIndex + n,
      endIndex: fromIndex + n + width,
    })),
  );
}

/**
 * How long a list of turns takes.
 * Units:  minutes; `secondsOf` the seconds of a turn at the tempo it is played at
 * Source: two reps a turn, four seconds to set up; our own estimates
 */
export function turnMinutes(turns: readonly Span[], secondsOf: (turn: Span) => number): number {
  const seconds = turns.reduce((sum, turn) => sum + REPS_A_TURN * (secondsOf(turn) + SECONDS_BETWEEN), 0);
  return seconds / 60;
}

/** Places of a start-anywhere test. */
const ANYWHERE_STARTS = 6;

/**
 * "Point anywhere on the page": measures to begin at, each to be played on from for two measures.
 * Shape:  different measures, at most six, in the order to play them
 * Source: common practice, no source
 */
export function anywhereSpans({ fromIndex, endIndex }: Span, random: Random): Span[] {
  const starts = Array.from({ length: endIndex - fromIndex }, (_, n) => fromIndex + n);
  for (let n = starts.length - 1; n > 0; n -= 1) {
    const other = Math.floor(random() * (n + 1));
    [starts[n], starts[other]] = [starts[other] ?? 0, starts[n] ?? 0];
  }
  return starts
    .slice(0, ANYWHERE_STARTS)
    .map((start) => ({ fromIndex: start, endIndex: Math.min(endIndex, start + 2) }));
}
