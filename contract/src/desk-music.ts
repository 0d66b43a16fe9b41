import { quarterBpm, secondsAt, type Seconds } from '@vivid-cue/core/music';
import { indexesOf, inRuns, spanQuarters } from '@vivid-cue/core/score';
import type { DeskPart, DeskPassage, DeskView } from './desk.js';

/** How a part is called: its work, or else its label. */
export function deskPartName({ workTitle, label }: Pick<DeskPart, 'workTitle' | 'label'>): string {
  return workTitle === '' ? label : workTitle;
}

/** Whether a passage lies in what a part asks for. */
export function isInPart(passage: DeskPassage, { scoreId, runs }: DeskPart): boolean {
  return scoreId === passage.scoreId && indexesOf([passage]).some((index) => inRuns(runs, index));
}

/** The passages that a seam joins: those over its first and its last measure. */
export function sidesOf(seam: DeskPassage, passages: readonly DeskPassage[]): DeskPassage[] {
  return passages.filter(
    ({ isSeam, scoreId, fromIndex, endIndex }) =>
      !isSeam && scoreId === seam.scoreId && fromIndex < seam.endIndex && endIndex > seam.fromIndex,
  );
}

/** How long a passage lasts at its target. Shape: 0 where its score is not among the scores. Units: seconds */
export function targetSeconds(passage: DeskPassage, { scores }: Pick<DeskView, 'scores'>): Seconds {
  const measures = scores.find(({ id }) => id === passage.scoreId)?.digest.measures ?? [];
  return secondsAt(spanQuarters(measures, passage), quarterBpm(passage.target.bpm, passage.target.beatUnit));
}
