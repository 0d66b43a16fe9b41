export {
  afterDays,
  afterRep,
  chanceOfClean,
  difficulty,
  halfLifeDays,
  logistic,
  PRIOR,
  type Belief,
  type BeliefAtSteepness,
  type HeardRep,
  type RepContext,
} from './belief.js';
export {
  addRep,
  beliefAt,
  beliefReliableAt,
  chanceInterval,
  readinessAt,
  recordAt,
  reliableShare,
  reliableShareAt,
  STATES,
  UNOPENED_RECORD,
  type PassageReadiness,
  type PassageRecord,
  type ReadinessState,
  type Rep,
} from './passage-record.js';
export {
  partReadinessAt,
  partVoicesAt,
  type MeasureToJudge,
  type PartReadiness,
  type PartToJudge,
  type PassageVoice,
  type TrackedPassage,
} from './part-readiness.js';
export {
  standingAt,
  UNSTARTED,
  withRep,
  type Aim,
  type PlayedRep,
  type Progress,
  type Standing,
} from './progress.js';
export { SimulatedPlayer, type PlayerTraits } from './player.js';
export {
  partSentence,
  passageSentence,
  SLIPS_LEAD_BELOW,
  STATE_WORDS,
  type PartMover,
  type PartSentenceFacts,
  type PassageSentenceFacts,
  type PassageTempos,
} from './sentences.js';
export { MODEL, STATE_KNEES } from './model.data.js';
export {
  forecast,
  tempoFan,
  FORECAST_PATHS,
  FORECAST_SEED,
  learningRate,
  practisedBy,
  RATE_PRIOR,
  type ForecastDay,
  type FanDay,
  type ForecastOptions,
  type LearnedPassage,
  type LearningRate,
  type PassageAhead,
} from './forecast.js';
export { cleanShare, type ShareRange } from './wilson.js';
export {
  OPTIMISM_PRIOR,
  optimismOf,
  optimismText,
  PAIR_DAYS,
  witnessPairs,
  type Optimism,
  type Witness,
  type WitnessedRep,
  type WitnessPair,
} from './witness.js';
