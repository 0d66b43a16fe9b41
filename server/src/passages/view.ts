import { placeOf } from '@vivid-cue/core/climb';
import { chanceInterval, passageSentence, readinessAt, reliableShareAt } from '@vivid-cue/core/readiness';
import type { PassageView, RepView } from '@vivid-cue/contract';
import { type RepRow } from './repository.js';
import { rungsOf, stepOf } from './snapshot.js';
import { type PassageRow, snapshotOf } from '../practice/passage-row.js';

/** What a passage's view needs beside its row. Units: milliseconds since 1970. */
export interface ViewFacts {
  readonly nowMs: number;
  /** Whether the target that it is practised at is a sheet's own number. */
  readonly isAsked: boolean;
}

/**
 * A passage as its panel shows it.
 * Units:  milliseconds since 1970
 */
export function passageView(row: PassageRow, { nowMs, isAsked }: ViewFacts): PassageView {
  const { record, ladder } = snapshotOf(row);
  const rungs = rungsOf(row);
  const place = placeOf(ladder, row.rule);
  const readiness = readinessAt(record, nowMs);
  const tempos = {
    playedCleanBpm: ladder.cleanBpm,
    reliableBpm: record.reps === 0 ? null : reliableShareAt(record, nowMs) * row.target_bpm,
    isAsked: isAsked && row.has_own_target === 0,
  };
  const target = { bpm: row.target_bpm, beatUnit: row.target_unit };
  const rungBpms = rungs.map(({ bpm }) => bpm);
  const aim = { rule: row.rule, rungBpms, targetBpm: target.bpm, unit: target.beatUnit };
  return {
    id: row.id,
    name: row.name,
    from: row.span_from,
    to: row.span_to,
    fromIndex: row.from_index,
    endIndex: row.end_index,
    target,
    hasOwnTarget: row.has_own_target === 1,
    isSeam: row.is_seam === 1,
    step: stepOf(row),
    rule: row.rule,
    rungs,
    ladder,
    place,
    record,
    readiness,
    interval: record.reps === 0 ? null : chanceInterval(record, nowMs),
    ...tempos,
    sentence: passageSentence({ ...tempos, ...aim, readiness, place }),
    version: row.version,
    writes: row.writes ?? 0,
  };
}

/** A rep as the contract shows it. */
export function repView(row: RepRow): RepView {
  return {
    id: row.id,
    at: row.at.toISOString(),
    day: row.day,
    bpm: row.bpm,
    beatUnit: row.beat_unit,
    context: row.context,
    isClean: row.is_clean === 1,
  };
}
