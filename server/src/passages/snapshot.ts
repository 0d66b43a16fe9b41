import { InvariantError } from '@vivid-cue/core/base';
import { passageLadder, type LadderStep, type Rung } from '@vivid-cue/core/climb';
import { UNSTARTED, withRep, type Aim, type PlayedRep, type Progress } from '@vivid-cue/core/readiness';
import type { Studio } from '../db/studio.js';
import {
  checkpointBefore,
  repRows,
  writeCheckpoint,
  writeSnapshot,
  type RepPlace,
  type RepRow,
} from './repository.js';
import type { PassageRow } from '../practice/passage-row.js';

/** The part of a passage that its ladder and record depend on. */
export type Ladderable = Pick<
  PassageRow,
  'target_bpm' | 'target_unit' | 'step_kind' | 'step_size' | 'rule' | 'slip_rule'
>;

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
  return {
    targetBpm: passage.target_bpm,
    unit: passage.target_unit,
    rungBpms,
    rule: passage.rule,
    slipRule: passage.slip_rule,
  };
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
    optimism: rep.optimism,
  };
}

/** So many reps lie between two checkpoints (our own). */
const CHECKPOINT_REPS = 100;

/** Whether a checkpoint is kept where a passage stands now. */
export function isCheckpointDue({ record }: Progress): boolean {
  return record.reps % CHECKPOINT_REPS === 0;
}

/** Keeps a checkpoint where one is due. */
export async function keepCheckpoint(
  studio: Studio,
  passageId: string,
  { at, id, progress }: RepPlace & { readonly progress: Progress },
): Promise<void> {
  if (isCheckpointDue(progress)) await writeCheckpoint(studio, passageId, { at, id, progress });
}

/**
 * Counts a passage's snapshot anew from its facts and stores it: from the last checkpoint before the rep that came or
 * went, or from the first where the passage itself changed. The passage's row must be locked, or a rep that comes in
 * between is lost from it.
 * Shape:  the new snapshot
 */
export async function rebuildSnapshot(
  studio: Studio,
  passageId: string,
  { passage, since }: { readonly passage: Ladderable; readonly since: RepPlace | null },
): Promise<Progress> {
  const aim = aimOf(passage);
  const known = await checkpointBefore(studio, passageId, since);
  let progress = known?.progress ?? UNSTARTED;
  for (const rep of await repRows(studio, passageId, known)) {
    progress = withRep(progress, playedRep(rep), aim);
    await keepCheckpoint(studio, passageId, { at: rep.at, id: rep.id, progress });
  }
  await writeSnapshot(studio, passageId, progress);
  return progress;
}
