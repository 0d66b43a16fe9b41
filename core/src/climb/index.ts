export {
  buildLadder,
  DEFAULT_START_PERCENT,
  DEFAULT_STEP,
  passageLadder,
  type LadderCode,
  type LadderOptions,
  type LadderStep,
  type Rung,
} from './ladder.js';
export {
  NO_SURPRISES,
  placeOnLadder,
  type LadderPlace,
  type LadderRep,
  type RungRule,
} from './rung-rules.js';
