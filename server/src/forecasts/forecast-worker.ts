import { parentPort } from 'node:worker_threads';
import { makePlan, plannedReps, type PlanInput } from '@vivid-cue/core/plan';
import { forecast, FORECAST_SEED, type LearningRate, type PassageVoice } from '@vivid-cue/core/readiness';

/** A program to look ahead for. Units: `day` from today; −ln of a chance */
export interface ProgramAhead {
  readonly id: string;
  readonly day: number;
  readonly voices: readonly PassageVoice[];
  readonly restHazard: number;
}

/** What the thread is asked: a student's plan and the programs that it serves. */
export interface ForecastWish {
  readonly input: PlanInput;
  readonly rate: LearningRate;
  readonly programs: readonly ProgramAhead[];
}

/** How each program stands on its day. */
export type ForecastAnswer = readonly {
  readonly id: string;
  readonly chance: number;
  readonly low: number;
  readonly high: number;
  readonly ready: number;
}[];

/** Paths enough to know a chance within three hundredths (binomial). */
const PATHS = 400;
/** Plans a student's practice and plays it on. */
export function lookAhead({ input, rate, programs }: ForecastWish): ForecastAnswer {
  const plan = makePlan(input);
  const reps = new Map(input.passages.map((passage) => [passage.id, plannedReps(plan, passage)]));
  return programs.map(({ id, day, voices, restHazard }) => {
    const ahead = forecast({
      passages: voices.map(({ id: passageId, ...voice }) => ({ ...voice, reps: reps.get(passageId) ?? [] })),
      ...{ days: day, rate, restHazard, seed: FORECAST_SEED, paths: PATHS },
    });
    const { chance = 0, low = 0, high = 0, ready = 0 } = ahead.at(-1) ?? {};
    return { id, chance, low, high, ready };
  });
}

parentPort?.on('message', (wish: ForecastWish) => parentPort?.postMessage(lookAhead(wish)));
