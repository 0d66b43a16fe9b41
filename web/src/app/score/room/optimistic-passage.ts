import { advance, placeOf } from '@vivid-cue/core/climb';
import { convertBpm, quarterBpm } from '@vivid-cue/core/music';
import {
  addRep,
  chanceInterval,
  passageSentence,
  readinessAt,
  reliableShareAt,
} from '@vivid-cue/core/readiness';
import { dayNumber, type PassageView, type RepInput } from '@vivid-cue/contract';

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
  const { beatUnit: unit, bpm: targetBpm } = view.target;
  const rungBpms = view.rungs.map(({ bpm }) => bpm);
  let { record, ladder } = view;
  for (const rep of reps) {
    const atMs = Date.parse(rep.at);
    const day = dayNumber(atMs, zone);
    const { context, isClean } = rep;
    const fact = { atMs, day, quarterBpm: quarterBpm(rep.bpm, rep.beatUnit), context, isClean };
    record = addRep(record, fact, quarterBpm(targetBpm, unit));
    const step = { bpm: convertBpm(rep.bpm, rep.beatUnit, unit), isClean, day };
    ladder = advance(ladder, step, { rungBpms, rule: view.rule });
  }
  const readiness = readinessAt(record, nowMs);
  const place = placeOf(ladder, view.rule);
  const tempos = {
    playedCleanBpm: ladder.cleanBpm,
    reliableBpm: reliableShareAt(record, nowMs) * targetBpm,
    isAsked: view.isAsked,
  };
  return {
    ...view,
    record,
    ladder,
    readiness,
    place,
    interval: chanceInterval(record, nowMs),
    ...tempos,
    sentence: passageSentence({ ...tempos, readiness, place, rungBpms, targetBpm, unit, rule: view.rule }),
  };
}
