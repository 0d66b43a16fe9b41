import { placeText, type BreathPlan } from '../air/index.js';
import type { CueKind } from '../cue-kinds/index.js';
import { CUE_REASON_LIMIT, CUE_SIGN_LIMIT } from '../cues/index.js';
import {
  cueKindOf,
  handSign,
  handText,
  worthWriting,
  type HandPath,
  type HandSolver,
} from '../hands/index.js';

/** A cue that air or hands worked out. Shape: `note` its ordinal in the measure, from 1 */
export interface SettledCue {
  readonly kind: CueKind;
  readonly measureIndex: number;
  readonly note: number;
  readonly sign: string;
  readonly text: string;
  readonly reason: string;
}

/** A breath, as a comma over the staff. */
const BREATH_SIGN = '’';

/** The breaths of a plan as cues: those in rests need none. */
export function breathCues({ breaths }: BreathPlan): SettledCue[] {
  return breaths
    .filter(({ place }) => place.kind !== 'rest')
    .map(({ place }) => ({
      kind: 'breath',
      measureIndex: place.after.measureIndex,
      note: place.after.ordinal,
      sign: BREATH_SIGN,
      text: 'Breathe here',
      reason: placeText(place),
    }));
}

/** The way of the hands as cues, where it is worth writing. */
export function handCues(solver: HandSolver, path: HandPath): SettledCue[] {
  return worthWriting(solver, path).map(({ measureIndex, ordinal, choice }) => ({
    kind: cueKindOf(solver),
    measureIndex,
    note: ordinal,
    sign: handSign(solver, choice).slice(0, CUE_SIGN_LIMIT),
    text: handText(solver, choice),
    reason: path.because.slice(0, CUE_REASON_LIMIT),
  }));
}
