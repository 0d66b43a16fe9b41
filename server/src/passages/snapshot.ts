import { advance, LADDER_START, passageLadder, type LadderStep, type Rung } from '@vivid-cue/core/climb';
import { InvariantError } from '@vivid-cue/core/base';
import { convertBpm, quarterBpm } from '@vivid-cue/core/music';
import { addRep, UNOPENED_RECORD } from '@vivid-cue/core/readiness';
import type { Studio } from '../db/studio.js';
import { repRows, writeSnapshot, type RepRow } from './repository.js';
import type { PassageRow, Snapshot } from '../practice/passage-row.js';

/** The part of a passage that its ladder and record depend on. */
export type Ladderable = Pick<PassageRow, 'target_bpm' | 'target_unit' | 'step_kind' | 'step_size' | 'rule'>;

/** The step of a passage's ladder. */
export function stepOf({ step_kind: kind, step_size: size }: Ladderable): LadderStep {
  return kind === 'dial' || kind === 'usual' ? { kind } : { kind, size: size ?? 4 };
}

/**
 * The rungs of a passage; the usual ones where a slower target has made its step too fine.
 * Shape:  rising
 * Units:  beats of the target's unit per minute
 * Errors: InvariantError when what is stored makes no ladder
 */
export function rungsOf(passage: Ladderable): readonly Rung[] {
  const own = passageLadder(passage.target_bpm, passage.target_unit, stepOf(passage));
  const ladder = own.ok ? own : passageLadder(passage.target_bpm, passage.target_unit);
  if (!ladder.ok) throw new InvariantError(ladder.issues[0]?.message ?? 'no ladder');
  return ladder.value;
}

/** The snapshot after one more rep. */
export function withRep(
  before: Snapshot,
  rep: RepRow,
  { passage, rungBpms }: { readonly passage: Ladderable; readonly rungBpms: readonly number[] },
): Snapshot {
  const isClean = rep.is_clean === 1;
  return {
    record: addRep(
      before.record,
      {
        atMs: rep.at.getTime(),
        day: rep.day,
        quarterBpm: quarterBpm(rep.bpm, rep.beat_unit),
        context: rep.context,
        isClean,
      },
      quarterBpm(passage.target_bpm, passage.target_unit),
    ),
    ladder: advance(
      before.ladder,
      { bpm: convertBpm(rep.bpm, rep.beat_unit, passage.target_unit), isClean, day: rep.day },
      { rungBpms, rule: passage.rule },
    ),
  };
}

/**
 * Counts a passage's snapshot anew from its facts and stores it. The passage's row must be locked, or a rep that comes
 * in between is lost from it.
 * Shape:  the new snapshot
 */
export async function rebuildSnapshot(
  studio: Studio,
  passageId: string,
  passage: Ladderable,
): Promise<Snapshot> {
  const rungBpms = rungsOf(passage).map(({ bpm }) => bpm);
  let snapshot: Snapshot = { record: UNOPENED_RECORD, ladder: LADDER_START };
  for (const rep of await repRows(studio, passageId))
    snapshot = withRep(snapshot, rep, { passage, rungBpms });
  await writeSnapshot(studio, passageId, snapshot);
  return snapshot;
}
