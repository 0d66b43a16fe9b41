import { makePlan, type Plan, type PlanInput } from '@vivid-cue/core/plan';

/** What the planner is asked. */
export interface PlanQuestion {
  readonly id: number;
  readonly input: PlanInput;
}

/** What it answers. */
export interface PlanAnswer {
  readonly id: number;
  readonly plan: Plan;
}

addEventListener('message', ({ data: { id, input } }: MessageEvent<PlanQuestion>) => {
  postMessage({ id, plan: makePlan(input) } satisfies PlanAnswer);
});
