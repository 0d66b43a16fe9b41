import { InvariantError } from '@vivid-cue/core/base';
import { passageLadder, type LadderStep, type Rung } from '@vivid-cue/core/climb';
import { UNSTARTED, withRep, type Aim, type PlayedRep, type Progress } from '@vivid-cue/core/readiness';
import type { Studio } from '../db/studio.js';
import { repRows, writeSnapshot, type RepRow } from './repository.js';
import type { PassageRow } from '../practice/passage-row.js';

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

/** What a passage aims at, and the rungs that lead there. Units: beats of the target's unit per minute */
export function aimOf(passage: Ladderable, rungs: readonly Rung[] = rungsOf(passage)): Aim {
  const rungBpms = rungs.map(({ bpm }) => bpm);
  return { targetBpm: passage.target_bpm, unit: passage.target_unit, rungBpms, rule: passage.rule };
}

/** A stored rep as it was played. */
function playedRep(rep: RepRow): PlayedRep {
  return {
    atMs: rep.at.getTime(),
    day: rep.day,
    bpm: rep.bpm,
    beatUnit: rep.beat_unit,
    context: rep.context,
    isClean: rep.is_clean === 1,
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
): Promise<Progress> {
  const aim = aimOf(passage);
  const reps = await repRows(studio, passageId);
  const snapshot = reps.reduce<Progress>((before, rep) => withRep(before, playedRep(rep), aim), UNSTARTED);
  await writeSnapshot(studio, passageId, snapshot);
  return snapshot;
}
