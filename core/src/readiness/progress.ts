import {
  advance,
  LADDER_START,
  placeOf,
  type LadderOf,
  type LadderPlace,
  type LadderState,
} from '../climb/index.js';
import { convertBpm, quarterBpm, type BeatUnit, type Bpm } from '../music/index.js';
import type { RepContext } from './belief.js';
import {
  addRep,
  chanceInterval,
  readinessAt,
  reliableShareAt,
  UNOPENED_RECORD,
  type PassageReadiness,
  type PassageRecord,
} from './passage-record.js';

/** What a passage's reps add up to: what is believed of it, and where its ladder stands. */
export interface Progress {
  readonly record: PassageRecord;
  readonly ladder: LadderState;
}

/** A passage that nobody has played. */
export const UNSTARTED: Progress = Object.freeze({ record: UNOPENED_RECORD, ladder: LADDER_START });

/** A rep as it was played. Units: milliseconds since 1970; `bpm` in beats of its own unit per minute. */
export interface PlayedRep {
  readonly atMs: number;
  readonly day: number;
  readonly bpm: Bpm;
  readonly beatUnit: BeatUnit;
  readonly context: RepContext;
  readonly isClean: boolean;
  /** How much more its witness reports than is heard, in logits; nothing where it was heard. */
  readonly optimism?: number;
}

/** What a passage aims at, and the ladder that leads there. Units: beats of `unit` per minute. */
export interface Aim extends LadderOf {
  readonly targetBpm: Bpm;
  readonly unit: BeatUnit;
}

/**
 * The progress after one more rep: the only place that counts one, for server, page and command line.
 * Shape:  reps in the order played
 */
export function withRep({ record, ladder }: Progress, rep: PlayedRep, aim: Aim): Progress {
  const { atMs, day, context, isClean, optimism = 0 } = rep;
  const fact = { atMs, day, quarterBpm: quarterBpm(rep.bpm, rep.beatUnit), context, isClean, optimism };
  const step = { bpm: convertBpm(rep.bpm, rep.beatUnit, aim.unit), isClean, day };
  return {
    record: addRep(record, fact, quarterBpm(aim.targetBpm, aim.unit)),
    ladder: advance(ladder, step, aim),
  };
}

/** Where a passage stands. Shape: no estimate where nobody has played. Units: beats of the aim's unit per minute. */
export interface Standing {
  readonly readiness: PassageReadiness;
  readonly interval: { readonly low: number; readonly high: number } | null;
  readonly place: LadderPlace;
  readonly playedCleanBpm: Bpm | null;
  readonly reliableBpm: Bpm | null;
}

/**
 * Where a passage stands at an instant.
 * Units:  milliseconds since 1970
 */
export function standingAt({ record, ladder }: Progress, aim: Aim, nowMs: number): Standing {
  const isPlayed = record.reps > 0;
  return {
    readiness: readinessAt(record, nowMs),
    interval: isPlayed ? chanceInterval(record, nowMs) : null,
    place: placeOf(ladder, aim.rule),
    playedCleanBpm: ladder.cleanBpm,
    reliableBpm: isPlayed ? reliableShareAt(record, nowMs) * aim.targetBpm : null,
  };
}
