export {
  buildLadder,
  DEFAULT_START_PERCENT,
  DEFAULT_STEP,
  MIN_STEP_BPM,
  USUAL_PERCENTS,
  passageLadder,
  type LadderCode,
  type LadderOptions,
  type LadderStep,
  type Rung,
} from './ladder.js';
export {
  advance,
  LADDER_START,
  NO_SURPRISES,
  heldPlace,
  placeOf,
  repsNeeded,
  SLIPS_DOWN,
  type LadderOf,
  type LadderPlace,
  type LadderRep,
  type LadderState,
  type RungRule,
  type SlipRule,
} from './rung-rules.js';
export {
  CLIMB_SCHOOLS,
  schoolOf,
  type ClimbSchool,
  type SchoolFacts,
  type SchoolSettings,
} from './schools.js';
export { likelyClimb, SECONDS_BEFORE_A_REP, type LikelyClimb } from './likely-climb.js';
export { clickSeconds, clickTimes, type Click, type ClickSettings } from './click.js';
export { CLICK_PATTERNS, clickPatternsOf, type ClickPattern } from './click-patterns.js';
export { renderClick, CLICK_SOUNDS } from './click-sound.js';
