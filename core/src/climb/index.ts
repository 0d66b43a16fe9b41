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
  placeOf,
  type LadderOf,
  type LadderPlace,
  type LadderRep,
  type LadderState,
  type RungRule,
} from './rung-rules.js';
