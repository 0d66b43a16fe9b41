import { passageSentence, standingAt } from '@vivid-cue/core/readiness';
import type { PassageView, RepView } from '@vivid-cue/contract';
import type { RepRow } from './repository.js';
import { aimOf, rungsOf, stepOf } from './snapshot.js';
import { snapshotOf, type PassageRow } from '../practice/passage-row.js';

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
  const progress = snapshotOf(row);
  const rungs = rungsOf(row);
  const aim = aimOf(row, rungs);
  const standing = standingAt(progress, aim, nowMs);
  const isOwnAsked = isAsked && row.has_own_target === 0;
  return {
    id: row.id,
    name: row.name,
    from: row.span_from,
    to: row.span_to,
    fromIndex: row.from_index,
    endIndex: row.end_index,
    target: { bpm: aim.targetBpm, beatUnit: aim.unit },
    hasOwnTarget: row.has_own_target === 1,
    isSeam: row.is_seam === 1,
    step: stepOf(row),
    rule: row.rule,
    slipRule: row.slip_rule,
    school: row.climb_school,
    rungs,
    ...progress,
    ...standing,
    isAsked: isOwnAsked,
    sentence: passageSentence({ ...standing, ...aim, isAsked: isOwnAsked }),
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
    witness: row.witness,
  };
}
