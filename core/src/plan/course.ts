import { SECONDS_BEFORE_A_REP } from '../climb/index.js';
import {
  chanceOfClean,
  halfLifeDays,
  MODEL,
  practisedBy,
  reliableShare,
  type Belief,
} from '../readiness/index.js';
import type { PassageToPlan, Plan } from './plan.js';
import { PLAN } from './plan.data.js';

/** How many reps of a passage so many minutes hold. Units: seconds of one rep; not rounded */
function repsIn(minutes: number, seconds: number): number {
  return (minutes * 60) / (seconds + SECONDS_BEFORE_A_REP);
}

/** How many reps of a passage a plan has on each of its days. */
export function plannedReps(
  { days }: Plan,
  { id, seconds }: Pick<PassageToPlan, 'id' | 'seconds'>,
): number[] {
  return days.map(({ blocks }) => {
    const minutes = blocks.find(({ passageId }) => passageId === id)?.minutes ?? 0;
    return Math.round(repsIn(minutes, seconds));
  });
}

/**
 * A passage on its way: what its skill is expected to be, day by day.
 * Shape:  changes with every call
 * Units:  logits; days from today
 */
export class Course {
  private belief: Belief;
  private practiceDays: number;
  private lastDay: number | null;
  private today = 0;
  /** What was reckoned of the present belief. */
  private known: { chance?: number; share?: number } = {};

  constructor(
    readonly passage: PassageToPlan,
    private readonly rate: number,
  ) {
    // What is not known of a skill today is no reason to expect less of the plan: its middle is followed.
    this.belief = passage.belief.map((one) => ({ ...one, sd: Math.min(one.sd, PLAN.sd) }));
    this.practiceDays = passage.practiceDays;
    this.lastDay = passage.idleDays === null ? null : -passage.idleDays;
  }

  /** Days since it was last played; null for never. */
  idle(): number | null {
    return this.lastDay === null ? null : this.today - this.lastDay;
  }

  get days(): number {
    return this.practiceDays;
  }

  /** A night goes by. */
  sleep(): void {
    this.today += 1;
    const kept = 2 ** (-1 / halfLifeDays(this.practiceDays));
    this.belief = this.belief.map((one) => {
      const prior = one.steepness * Math.log(MODEL.priorShare);
      return { ...one, mean: prior + (one.mean - prior) * kept };
    });
    this.known = {};
  }

  /** Practises so many minutes today. */
  practise(minutes: number): void {
    this.belief = this.after(minutes);
    this.known = {};
    this.practiceDays += 1;
    this.lastDay = this.today;
  }

  /** The belief after so many minutes of this day. */
  private after(minutes: number): Belief {
    const reps = this.effectiveReps(minutes);
    return this.belief.map((one) => {
      const gain = this.rate * MODEL.gainPerRep * (one.steepness / 12) ** MODEL.gainGrowth;
      return { ...one, mean: practisedBy(one.mean, { reps, gain }) };
    });
  }

  /** Reps of one sitting help less and less: a day has only so much to give. */
  private effectiveReps(minutes: number): number {
    const reps = repsIn(minutes, this.passage.seconds);
    return PLAN.repsOfADay * (1 - Math.exp(-reps / PLAN.repsOfADay));
  }

  /** Chance of clean at target in a run. */
  chance(): number {
    return (this.known.chance ??= chanceOfClean(this.belief, 1, 'run'));
  }

  /** The share of the target that is reliable alone. */
  share(): number {
    return (this.known.share ??= reliableShare(this.belief));
  }

  /**
   * What so many minutes today are worth: how much of the part's hazard they take off, weighed by what the part counts.
   * Shape:  rising in the minutes and concave
   */
  worth(minutes: number): number {
    if (minutes <= 0) return 0;
    const before = Math.log(this.chance());
    return this.passage.weight * (Math.log(chanceOfClean(this.after(minutes), 1, 'run')) - before);
  }
}
