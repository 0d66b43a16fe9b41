import type { RungRule, SlipRule } from './rung-rules.js';

/**
 * How a passage reaches its tempo: a steady climb, one measure at full tempo that grows longer, or the whole first.
 * Source: the design: teachers disagree, each school is offered
 */
export type ClimbSchool = 'steady' | 'reach' | 'whole';

/** What a school does, and why somebody would take it. */
export interface SchoolFacts {
  readonly name: string;
  /** One line for the choice. */
  readonly why: string;
  /** What the desk asks before the rung's own reps; "" for nothing. */
  readonly first: string;
  /** How much earlier all parts are put together, as a share of the usual time before the day. */
  readonly assembly: number;
}

/** The three schools. Source: the design; the shares are our own. */
export const CLIMB_SCHOOLS: Readonly<Record<ClimbSchool, SchoolFacts>> = Object.freeze({
  steady: {
    name: 'Steady climb',
    why: 'From half tempo up, a rung when it is secure: the evidence stays cleanest.',
    first: '',
    assembly: 1,
  },
  reach: {
    name: 'Reach and return',
    why: 'One beat or measure at full tempo early, then longer: the hands learn the motion they will need.',
    first: 'First one measure at the target, twice; then back to the rung.',
    assembly: 1,
  },
  whole: {
    name: 'Whole first',
    why: 'Play everything through, put it together early, then repair: the line comes before the detail.',
    first: 'First the whole passage once, whatever happens; then the rung.',
    assembly: 1.5,
  },
});

/** What is set at one level: nothing is what the level above says. */
export interface SchoolSettings {
  readonly climbSchool: ClimbSchool | null;
  readonly rungRule: RungRule | null;
  readonly slipRule: SlipRule | null;
}

/**
 * What holds for a passage: its own word before the student's, and that before the studio's.
 * Shape:  levels from the nearest to the farthest; the usual where none speaks
 * Source: the design: steady climb, three in a row, two slips a rung down
 */
export function schoolOf(levels: readonly SchoolSettings[]): {
  readonly climbSchool: ClimbSchool;
  readonly rungRule: RungRule;
  readonly slipRule: SlipRule;
} {
  return {
    climbSchool: levels.find(({ climbSchool }) => climbSchool !== null)?.climbSchool ?? 'steady',
    rungRule: levels.find(({ rungRule }) => rungRule !== null)?.rungRule ?? 'three-in-a-row',
    slipRule: levels.find(({ slipRule }) => slipRule !== null)?.slipRule ?? 'two-down',
  };
}
