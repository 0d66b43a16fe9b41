import { Injectable } from '@angular/core';
import type { Plan, PlanInput } from '@vivid-cue/core/plan';
import type { PlanAnswer, PlanQuestion } from '../workers/plan.worker';
import { AskedWorker } from './asked-worker';

/** Makes plans in a web worker, so that the page never waits. */
@Injectable({ providedIn: 'root' })
export class Planner {
  private readonly worker = new AskedWorker<PlanQuestion, PlanAnswer>(
    () => new Worker(new URL('../workers/plan.worker', import.meta.url), { type: 'module' }),
    'The planner could not be loaded; reload the page.',
  );

  async plan(input: PlanInput): Promise<Plan> {
    return (await this.worker.ask({ input })).plan;
  }
}
