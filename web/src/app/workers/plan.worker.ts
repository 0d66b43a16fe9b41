import {
  makePlan,
  plannedReps,
  waysOut,
  type Plan,
  type PlanInput,
  type WayOut,
  type WaysOutOptions,
} from '@vivid-cue/core/plan';
import {
  afterDays,
  FORECAST_SEED,
  tempoFan,
  type FanDay,
  type LearningRate,
} from '@vivid-cue/core/readiness';
import type { Underway } from '../data/asked-worker';

/** What the planner is asked. Shape: `ways` where ways out are looked for as well; `fanOf` a passage whose tempo is fanned out */
export interface PlanQuestion {
  readonly id: number;
  readonly input: PlanInput;
  readonly ways: WaysOutOptions | null;
  readonly fanOf: { readonly passageId: string; readonly rate: LearningRate } | null;
}

/** What it answers. */
export interface PlanAnswer {
  readonly id: number;
  readonly plan: Plan;
  readonly ways: readonly WayOut[];
  readonly fan: readonly FanDay[];
}

function fanned(
  plan: Plan,
  input: PlanInput,
  { passageId, rate }: NonNullable<PlanQuestion['fanOf']>,
): readonly FanDay[] {
  const passage = input.passages.find(({ id }) => id === passageId);
  if (!passage) return [];
  const days = Math.max(1, Math.min(plan.days.length, passage.deadline));
  const reps = plannedReps(plan, passage);
  const { practiceDays } = passage;
  // The record is as of the last rep: the days since then have gone by.
  const belief = afterDays(passage.belief, passage.idleDays ?? 0, practiceDays);
  return tempoFan({ belief, practiceDays, reps }, { days, rate, seed: FORECAST_SEED });
}

addEventListener('message', ({ data: { id, input, ways, fanOf } }: MessageEvent<PlanQuestion>) => {
  const plan = makePlan(input, (day, of) => {
    if (day % 7 === 0) postMessage({ id, progress: day / of } satisfies Underway);
  });
  postMessage({
    ...{ id, plan },
    ways: ways ? waysOut(input, plan, ways) : [],
    fan: fanOf ? fanned(plan, input, fanOf) : [],
  } satisfies PlanAnswer);
});
