import type { CueKind } from '@vivid-cue/core/cue-kinds';
import type { ScoreSign } from './score-marks';

/** Where a cue's sign stands: a breath after its note, a bow above it, all else below. */
export function signPlace(kind: CueKind): ScoreSign['place'] {
  if (kind === 'breath') return 'after';
  return kind === 'bow' ? 'above' : 'below';
}
