import { passageSentence, standingAt, withRep, type Aim, type Progress } from '@vivid-cue/core/readiness';
import type { PassageView, RepInput } from '@vivid-cue/contract';
import { dayNumber } from '@vivid-cue/contract/zones';

/** Where and when the reps are counted. Units: milliseconds since 1970. */
export interface CountingPlace {
  readonly zone: string;
  readonly nowMs: number;
}

/**
 * A passage as it will stand when the server has the waiting reps: the same computation, made here, so that number,
 * tempo and state change at once.
 * Shape:  reps in the order played
 */
export function withWaitingReps(
  view: PassageView,
  reps: readonly RepInput[],
  { zone, nowMs }: CountingPlace,
): PassageView {
  if (reps.length === 0) return view;
  const { target, rungs, rule, slipRule, isAsked } = view;
  const rungBpms = rungs.map(({ bpm }) => bpm);
  const aim: Aim = { targetBpm: target.bpm, unit: target.beatUnit, rungBpms, rule, slipRule };
  const progress = reps.reduce<Progress>((before, rep) => {
    const atMs = Date.parse(rep.at);
    return withRep(before, { ...rep, atMs, day: dayNumber(atMs, zone) }, aim);
  }, view);
  const standing = standingAt(progress, aim, nowMs);
  const { record, ladder } = progress;
  return {
    ...view,
    record,
    ladder,
    ...standing,
    sentence: passageSentence({ ...standing, ...aim, isAsked }),
  };
}
