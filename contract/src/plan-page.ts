import type { PlayedDay } from '@vivid-cue/core/plan';
import type { DeskView } from './desk.js';
import type { KeptPlan, TaskView } from './plans.js';

/** A date that the line of time shows. */
export interface PlanPost {
  readonly what: string;
  readonly sheetTitle: string;
  readonly date: string;
}

/** All that the page of a student's plan needs. */
export interface PlanView {
  readonly desk: DeskView;
  readonly kept: KeptPlan;
  readonly played: readonly PlayedDay[];
  readonly tasks: readonly TaskView[];
  readonly posts: readonly PlanPost[];
  /** The slowest share of its target that a sheet allows, where all of them allow one; else 1. */
  readonly slowestShare: number;
}
