export {
  breaksOf,
  diffRevisions,
  markText,
  type RevisedPart,
  type RevisionDifference,
  type TrackedPassage,
} from './breaks.js';
export {
  clockText,
  judgeAnswer,
  judgeChoice,
  judgeProgram,
  type PartAnswer,
  type TempoPolicy,
  type Verdict,
  type VerdictStatus,
} from './verdict.js';
