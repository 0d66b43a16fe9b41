import { FIRST_SIGHT_RUNGS, repsNeeded, type LadderOf } from './rung-rules.js';

/** What a climb is likely to take. Units: reps, minutes; `rungs` that are left. */
export interface LikelyClimb {
  readonly rungs: number;
  readonly reps: number;
  readonly minutes: number;
}

/** Chance of a clean rep on a rung that was just reached: low on the ladder, and near the target (our own). */
const CHANCE_LOW = 0.85;
const CHANCE_HIGH = 0.65;
/** Share of the rungs that go clean at first sight, on the lower half of a ladder (our own). */
const FIRST_SIGHT_SHARE = 0.5;
/** Setting up before each rep. Units: seconds. Source: our own estimate */
export const SECONDS_BEFORE_A_REP = 8;

/**
 * How many reps and minutes a ladder is likely to take from a rung to its top.
 * Shape:  whole numbers; 0 rungs at the top whose rule is met
 * Units:  `seconds` of the passage at its target tempo
 * Source: expected length of a wait for n clean in a row, (1 − pⁿ) / ((1 − p) pⁿ) (Feller 1968, XIII.7); the chances
 *         are our own
 */
export function likelyClimb(
  { rungBpms, rule }: Pick<LadderOf, 'rungBpms' | 'rule'>,
  { fromRung, seconds }: { readonly fromRung: number; readonly seconds: number },
): LikelyClimb {
  const needed = repsNeeded(rule);
  const target = rungBpms.at(-1) ?? 1;
  let [rungs, reps, spent] = [0, 0, 0];
  for (let n = fromRung; n < rungBpms.length;) {
    const height = rungBpms.length < 2 ? 1 : n / (rungBpms.length - 1);
    const chance = CHANCE_LOW + (CHANCE_HIGH - CHANCE_LOW) * height;
    const here = waitFor(needed, chance);
    rungs += 1;
    reps += here;
    spent += here * (seconds * (target / (rungBpms[n] ?? target)) + SECONDS_BEFORE_A_REP);
    const skips = height < FIRST_SIGHT_SHARE && chance ** needed > FIRST_SIGHT_SHARE;
    n += skips ? FIRST_SIGHT_RUNGS : 1;
  }
  return { rungs, reps: Math.round(reps), minutes: Math.max(rungs > 0 ? 1 : 0, Math.round(spent / 60)) };
}

/** Expected reps until so many in a row are clean. */
function waitFor(needed: number, chance: number): number {
  const all = chance ** needed;
  return (1 - all) / ((1 - chance) * all);
}
