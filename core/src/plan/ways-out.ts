import { makePlan } from './make-plan.js';
import type { Plan, PlanInput } from './plan.js';

/** Something that would make a plan hold, with its number. */
export type WayOut =
  | { readonly kind: 'minutes'; readonly minutes: number; readonly isWithinCap: boolean }
  | { readonly kind: 'tempo'; readonly percent: number; readonly isAllowed: boolean }
  | { readonly kind: 'measures'; readonly passageIds: readonly string[] }
  | { readonly kind: 'postpone'; readonly partIds: readonly string[]; readonly untilDay: number };

/** What the ways out are looked for with. Shape: the slowest tempo that the sheet allows, as a share of the target */
export interface WaysOutOptions {
  readonly slowestShare: number;
  /** The longest day that is tried, in minutes: longer is never proposed. */
  readonly mostMinutes: number;
}

/** A slower tempo than this is no way out but another piece (our own). */
const SLOWEST_TRIED = 0.75;
const TEMPO_STEP = 0.02;

/**
 * What would make a plan hold that does not: more minutes, a slower tempo, fewer measures, something else later.
 * Shape:  only what helps, the mildest first; empty where the plan holds
 * Units:  minutes a day; percent of the target tempo; days from today
 * Source: the design, chapter 8
 */
export function waysOut(input: PlanInput, plan: Plan, options: WaysOutOptions): WayOut[] {
  if (plan.holds) return [];
  const ways: WayOut[] = [];
  const later = postponed(input, plan);
  if (later) ways.push(later);
  const minutes = neededMinutes(input, options.mostMinutes);
  if (minutes !== null) ways.push({ kind: 'minutes', minutes, isWithinCap: minutes <= input.cap });
  const share = neededShare(input);
  if (share !== null)
    ways.push({
      kind: 'tempo',
      percent: Math.round(share * 100),
      isAllowed: share >= options.slowestShare - 1e-9,
    });
  const without = unready(plan);
  if (without.length > 0 && without.length < input.passages.length)
    ways.push({ kind: 'measures', passageIds: without });
  return ways;
}

function holdsWith(input: PlanInput): boolean {
  return makePlan(input).holds;
}

/** The fewest minutes a day that hold, in fives. */
function neededMinutes(input: PlanInput, most: number): number | null {
  const with_ = (minutes: number): PlanInput => ({
    ...input,
    minutes,
    cap: Math.max(input.cap, minutes),
    minutesOf: {},
  });
  if (!holdsWith(with_(most))) return null;
  let [low, high] = [input.minutes, most];
  while (high - low > 5) {
    const middle = Math.round((low + high) / 10) * 5;
    if (middle <= low || middle >= high) break;
    if (holdsWith(with_(middle))) high = middle;
    else low = middle;
  }
  return high;
}

/** The fastest tempo that holds: its skill is that much higher on the same belief. */
function neededShare(input: PlanInput): number | null {
  for (let share = 1 - TEMPO_STEP; share >= SLOWEST_TRIED; share -= TEMPO_STEP) {
    const passages = input.passages.map((passage) => ({
      ...passage,
      targetBpm: passage.targetBpm * share,
      rungBpms: passage.rungBpms.map((bpm) => bpm * share),
      belief: passage.belief.map((one) => ({ ...one, mean: one.mean - one.steepness * Math.log(share) })),
    }));
    if (holdsWith({ ...input, passages })) return share;
  }
  return null;
}

function unready({ courses }: Plan): string[] {
  return courses.filter(({ readyDay }) => readyDay === null).map(({ passageId }) => passageId);
}

/** Whether what is due first holds when what is due later begins after it. */
function postponed(input: PlanInput, plan: Plan): WayOut | null {
  const failing = new Set(unready(plan));
  const first = Math.min(
    ...input.passages.filter(({ id }) => failing.has(id)).map(({ deadline }) => deadline),
  );
  const later = input.passages.filter(({ deadline }) => deadline > first);
  if (later.length === 0) return null;
  const barred = Array.from({ length: first }, (_, day) => day);
  const ids = new Set(later.map(({ id }) => id));
  const passages = input.passages.map((one) => (ids.has(one.id) ? { ...one, barred } : one));
  if (!holdsWith({ ...input, passages })) return null;
  return { kind: 'postpone', partIds: [...new Set(later.map(({ partId }) => partId))], untilDay: first };
}
