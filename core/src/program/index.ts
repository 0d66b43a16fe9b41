export {
  breaksOf,
  diffRevisions,
  type PartMove,
  type RevisedPart,
  type RevisionDifference,
  type TrackedPassage,
} from './breaks.js';
export {
  choiceText,
  clockText,
  judgeAnswer,
  judgeChoice,
  judgeProgram,
  type PartAnswer,
  type Taken,
  type TempoPolicy,
  type Verdict,
  type VerdictStatus,
} from './verdict.js';
