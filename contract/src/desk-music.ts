import { convertBpm, quarterBpm, secondsAt, type Bpm, type Seconds } from '@vivid-cue/core/music';
import { indexesOf, inRuns, spanQuarters } from '@vivid-cue/core/spans';
import type { DeskPart, DeskPassage, DeskScore, DeskView } from './desk.js';

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

/** What of a passage a run looks at. */
export type RunPassage = Pick<DeskPassage, 'target' | 'fromIndex' | 'endIndex'>;

/** A passage as it came out in a run. Units: beats of its own unit a minute */
export interface RunRep<Passage extends RunPassage> {
  readonly passage: Passage;
  readonly bpm: Bpm;
  readonly isClean: boolean;
}

/**
 * What a run of a part says of its passages: each was played once in context, clean where no measure of it slipped.
 * Units:  `share` of the first passage's target, 1 for the target itself; measure indexes of the score
 */
export function runReps<Passage extends RunPassage>(
  passages: readonly Passage[],
  { slips, share }: { readonly slips: ReadonlySet<number>; readonly share: number },
): RunRep<Passage>[] {
  const target = passages[0]?.target;
  return passages.map((passage) => {
    const bpm = target
      ? convertBpm(target.bpm, target.beatUnit, passage.target.beatUnit) * share
      : passage.target.bpm;
    return {
      passage,
      bpm: Math.round(bpm * 100) / 100,
      isClean: indexesOf([passage]).every((index) => !slips.has(index)),
    };
  });
}

/** The measures that a part asks for, in order; all of the score where it names none. */
export function measuresOfPart(
  { runs }: Pick<DeskPart, 'runs'>,
  { digest: { measures } }: Pick<DeskScore, 'digest'>,
): readonly (typeof measures)[number][] {
  return runs.length === 0 ? measures : indexesOf(runs).flatMap((index) => measures[index] ?? []);
}
