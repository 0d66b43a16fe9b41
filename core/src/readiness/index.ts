export {
  afterDays,
  afterRep,
  chanceOfClean,
  difficulty,
  halfLifeDays,
  logistic,
  PRIOR,
  type Belief,
  type RepContext,
} from './belief.js';
export {
  addRep,
  beliefAt,
  cleanShareOf,
  readinessAt,
  recordAt,
  recordOf,
  STATES,
  UNOPENED_RECORD,
  type PassageReadiness,
  type PassageRecord,
  type ReadinessState,
  type Rep,
} from './passage-record.js';
export {
  partReadinessAt,
  type PartReadiness,
  type PartToJudge,
  type TrackedPassage,
} from './part-readiness.js';
export { SimulatedPlayer } from './player.js';
export {
  partSentence,
  passageSentence,
  STATE_WORDS,
  type PartSentenceFacts,
  type PassageSentenceFacts,
} from './sentences.js';
export { MODEL, STATE_KNEES } from './model.data.js';
