import { upperMedian } from '../../base/index.js';
import type { AskedMusic } from '../follow/asked-notes.js';
import type { FollowedNote, FollowedTake } from '../follow/follow.js';
import type { TakeMeasure } from './take-measures.js';

/** How even a run of equal notes is. Shape: passes. Units: standard deviation of its intervals, per cent of their mean */
export interface Evenness {
  readonly fromPass: number;
  readonly toPass: number;
  readonly percent: number;
  readonly notes: number;
}

/** Running notes are at most so long. Units: quarters */
const RUNNING = 0.76;
/** So many of them make a run (our own). */
const FEWEST = 6;

/**
 * How even the running notes of a take are, run by run.
 * Shape:  notes of one length without a rest, an ornament or a doubtful place; slow changes of tempo taken out
 * Units:  see Evenness
 */
export function evennessOf(music: AskedMusic, { notes }: FollowedTake): Evenness[] {
  const found: Evenness[] = [];
  let run: FollowedNote[] = [];
  const close = (): void => {
    const told = evenness(music, run);
    if (told) found.push(told);
    run = [];
  };
  for (const note of notes) {
    const last = run.at(-1);
    if (last && !goesOn(music, last, note)) close();
    if (isRunning(music, note)) run.push(note);
    else if (run.length > 0) {
      // The note after a run ends its last interval.
      run.push(note);
      close();
    }
  }
  close();
  return found;
}

function isRunning({ notes }: AskedMusic, { asked, isSure }: FollowedNote): boolean {
  const note = notes[asked];
  return note !== undefined && note.length <= RUNNING && !note.isOrnamented && isSure;
}

function goesOn({ notes }: AskedMusic, before: FollowedNote, note: FollowedNote): boolean {
  const [a, b] = [notes[before.asked], notes[note.asked]];
  if (!a || !b || note.run !== before.run || note.asked !== before.asked + 1) return false;
  const isJoined = Math.abs(a.at + a.length - b.at) < 1e-6;
  return (
    isJoined &&
    note.isSure &&
    !b.isOrnamented &&
    (Math.abs(a.length - b.length) < 1e-6 || b.length > a.length)
  );
}

function evenness({ notes }: AskedMusic, run: readonly FollowedNote[]): Evenness | null {
  const length = notes[run[0]?.asked ?? -1]?.length;
  const equal = run.filter((note, n) => n === run.length - 1 || notes[note.asked]?.length === length);
  const [first, last] = [equal[0], equal.at(-1)];
  if (!first || !last || equal.length < FEWEST + 1 || equal.length < run.length) return null;
  const intervals = equal.slice(1).map(({ seconds }, n) => seconds - (equal[n]?.seconds ?? 0));
  const mean = intervals.reduce((sum, one) => sum + one, 0) / intervals.length;
  return {
    fromPass: notes[first.asked]?.pass ?? 0,
    toPass: notes[equal.at(-2)?.asked ?? last.asked]?.pass ?? 0,
    percent: (100 * spreadAroundLine(intervals)) / mean,
    notes: intervals.length,
  };
}

/** The standard deviation of values around the straight line through them. */
function spreadAroundLine(values: readonly number[]): number {
  const count = values.length;
  const middle = (count - 1) / 2;
  const mean = values.reduce((sum, one) => sum + one, 0) / count;
  let [up, across] = [0, 0];
  values.forEach((value, n) => {
    up += (n - middle) * (value - mean);
    across += (n - middle) ** 2;
  });
  const slope = across > 0 ? up / across : 0;
  const squares = values.reduce((sum, value, n) => sum + (value - mean - slope * (n - middle)) ** 2, 0);
  return Math.sqrt(squares / Math.max(1, count - 1));
}

/**
 * How far the tempo moved over the whole take, from the first measure to the last.
 * Shape:  null for fewer than four measures with a tempo
 * Units:  per cent of the mean; positive where it got faster
 * Source: slope of Theil (1950) and Sen (1968)
 */
export function driftOf(measures: readonly TakeMeasure[]): number | null {
  return driftOfTempos(
    measures.flatMap(({ start, end, quarterBpm: tempo }) =>
      tempo === null ? [] : [{ at: (start + end) / 2, tempo }],
    ),
  );
}

/**
 * How much faster the end is than the beginning, by the middle of all slopes.
 * Shape:  null for fewer than four tempos
 * Units:  `at` in seconds; per cent of the middle tempo
 * Source: Theil (1950), Sen (1968)
 */
export function driftOfTempos(
  known: readonly { readonly at: number; readonly tempo: number }[],
): number | null {
  const [first, last] = [known[0], known.at(-1)];
  if (!first || !last || known.length < 4) return null;
  const slopes: number[] = [];
  known.forEach((a, n) => {
    for (const b of known.slice(n + 1)) if (b.at > a.at) slopes.push((b.tempo - a.tempo) / (b.at - a.at));
  });
  const middle = upperMedian(known.map(({ tempo }) => tempo)) ?? 1;
  return (100 * (upperMedian(slopes) ?? 0) * (last.at - first.at)) / middle;
}
