import { Injectable } from '@angular/core';
import type { Plan, PlanInput, WayOut, WaysOutOptions } from '@vivid-cue/core/plan';
import type { FanDay, LearningRate } from '@vivid-cue/core/readiness';
import type { PlanAnswer, PlanQuestion } from '../workers/plan.worker';
import { AskedWorker } from './asked-worker';

/** Makes plans in a web worker, so that the page never waits. */
@Injectable({ providedIn: 'root' })
export class Planner {
  private readonly worker = new AskedWorker<PlanQuestion, PlanAnswer>(
    () => new Worker(new URL('../workers/plan.worker', import.meta.url), { type: 'module' }),
    'The planner could not be loaded; reload the page.',
  );

  async plan(input: PlanInput, watch?: (progress: number) => void): Promise<Plan> {
    return (await this.worker.ask({ input, ways: null, fanOf: null }, watch)).plan;
  }

  /** What would make a plan hold that does not. */
  async waysOut(input: PlanInput, options: WaysOutOptions): Promise<readonly WayOut[]> {
    return (await this.worker.ask({ input, ways: options, fanOf: null })).ways;
  }

  /** Where a passage's reliable tempo is likely to go, as the plan has it practised. */
  async fan(input: PlanInput, passageId: string, rate: LearningRate): Promise<readonly FanDay[]> {
    return (await this.worker.ask({ input, ways: null, fanOf: { passageId, rate } })).fan;
  }
}
