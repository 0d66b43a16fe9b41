import type { PlayedDay } from '@vivid-cue/core/plan';
import type { DeskView } from './desk.js';
import type { KeptPlan } from './plans.js';

/** All that the page of a student's plan needs. */
export interface PlanView {
  readonly desk: DeskView;
  readonly kept: KeptPlan;
  readonly played: readonly PlayedDay[];
  /** The slowest share of its target that a sheet allows, where all of them allow one; else 1. */
  readonly slowestShare: number;
}
