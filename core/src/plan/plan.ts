import type { ClimbSchool, LadderPlace } from '../climb/index.js';
import type { BeatUnit, Bpm, Seconds } from '../music/index.js';
import type { Belief } from '../readiness/index.js';

/**
 * A passage as the planner takes it.
 * Shape:  `weight` what the part is worth on the sheet, all parts of a program together 1; `deadline` the day on which it
 *         must be ready, counted from today; `after` passages that must climb first, the two sides of a seam
 * Units:  seconds at the target tempo; beats of `unit` a minute
 */
export interface PassageToPlan {
  readonly id: string;
  readonly name: string;
  readonly partId: string;
  readonly belief: Belief;
  readonly practiceDays: number;
  /** Days since it was last played; null where nobody has. */
  readonly idleDays: number | null;
  readonly seconds: Seconds;
  readonly weight: number;
  readonly deadline: number;
  /** The last day for which it is needed, where a later date asks for it again; its deadline or later. */
  readonly until?: number;
  readonly targetBpm: Bpm;
  readonly unit: BeatUnit;
  readonly rungBpms: readonly Bpm[];
  readonly place: LadderPlace;
  readonly school: ClimbSchool;
  readonly after: readonly string[];
  /** Days on which the instructor wants it, and days on which not. */
  readonly pinned: readonly number[];
  readonly barred: readonly number[];
}

/** A part that is put together and run; one with several dates stands once for each. Units: seconds of a run at its target; days from today. */
export interface PartToPlan {
  readonly id: string;
  readonly name: string;
  readonly seconds: Seconds;
  readonly deadline: number;
}

/**
 * What a plan is made from.
 * Shape:  `weekday` of today, 0 Sunday; `restDays` weekdays; `skipped` days from today without practice; `minutes` of a
 *         usual day, never above `cap`; `minutesOf` days that have others
 * Units:  minutes; days from today
 */
export interface PlanInput {
  readonly weekday: number;
  readonly minutes: number;
  readonly cap: number;
  readonly restDays: readonly number[];
  readonly skipped: readonly number[];
  readonly minutesOf: Readonly<Record<number, number>>;
  readonly passages: readonly PassageToPlan[];
  readonly parts: readonly PartToPlan[];
  /** Days on which a mock is set; where there are none, mocks stand so long before each deadline as is usual. */
  readonly mocks?: readonly number[];
  /** When all is put together, where the instructor has said so; days from today, negative where it was. */
  readonly assembly: number | null;
  /** How long ago the season began, in days. */
  readonly begunDaysAgo: number;
  /** How fast the student learns, 1 as the model supposes. */
  readonly rate: number;
}

/** Why a passage is there on a day. */
export type BlockReason = 'climb' | 'review' | 'seam' | 'pinned';

/** Minutes with one passage. Units: minutes, beats of the passage's unit a minute. */
export interface PlannedBlock {
  readonly passageId: string;
  readonly minutes: number;
  readonly bpm: Bpm;
  readonly rungIndex: number;
  readonly reason: BlockReason;
}

/** What is played as a whole on a day. Shape: `partIds` in their order */
export interface PlannedRun {
  readonly kind: 'first-run' | 'run' | 'assembly' | 'mock' | 'take';
  readonly partIds: readonly string[];
  readonly minutes: number;
}

/** A day of the plan. Shape: `day` 0 is today; blocks in the order to play them; `breakAfter` blocks after which to rest */
export interface PlannedDay {
  readonly day: number;
  readonly minutes: number;
  readonly isRest: boolean;
  readonly isLight: boolean;
  readonly blocks: readonly PlannedBlock[];
  readonly runs: readonly PlannedRun[];
  readonly breakAfter: readonly number[];
}

/** Where a passage will be. Shape: `readyDay` is when it is reliable at its target, null for not before its deadline */
export interface PassageCourse {
  readonly passageId: string;
  readonly readyDay: number | null;
  readonly minutes: number;
  /** Chance of clean at target in a run, on its deadline. */
  readonly chance: number;
  /** Share of the target that is reliable on the deadline. */
  readonly share: number;
}

/** A plan. Shape: one day for each until the last deadline; `tightest` the passage with the least to spare */
export interface Plan {
  readonly days: readonly PlannedDay[];
  readonly assembly: number | null;
  readonly holds: boolean;
  readonly courses: readonly PassageCourse[];
  readonly tightest: string | null;
  readonly minutes: number;
}
