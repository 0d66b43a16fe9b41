import {
  makePlan,
  waysOut,
  type Plan,
  type PlanInput,
  type WayOut,
  type WaysOutOptions,
} from '@vivid-cue/core/plan';
import type { Underway } from '../data/asked-worker';

/** What the planner is asked. Shape: `ways` where ways out are looked for as well */
export interface PlanQuestion {
  readonly id: number;
  readonly input: PlanInput;
  readonly ways: WaysOutOptions | null;
}

/** What it answers. */
export interface PlanAnswer {
  readonly id: number;
  readonly plan: Plan;
  readonly ways: readonly WayOut[];
}

addEventListener('message', ({ data: { id, input, ways } }: MessageEvent<PlanQuestion>) => {
  const plan = makePlan(input, (day, of) => {
    if (day % 7 === 0) postMessage({ id, progress: day / of } satisfies Underway);
  });
  postMessage({ id, plan, ways: ways ? waysOut(input, plan, ways) : [] } satisfies PlanAnswer);
});
