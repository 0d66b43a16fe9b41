import { groupBy } from '@vivid-cue/core/base';
import { quarterBpm } from '@vivid-cue/core/music';
import type { Target } from '@vivid-cue/contract';
import type { Studio } from '../db/studio.js';
import { practiceKey, programPartRows, type Practice, type ProgramPartRow } from './part-row.js';

/**
 * The tempo a part aims at: the student's own where one was set, else the sheet's number. Of a range or a lower bound
 * the slower end is taken, which is enough to satisfy the sheet.
 * Shape:  null where the sheet gives no number and none was set
 * Units:  beats of the unit per minute
 */
export function effectiveTarget(part: ProgramPartRow): Target | null {
  if (part.target_bpm !== null && part.target_unit !== null)
    return { bpm: part.target_bpm, beatUnit: part.target_unit };
  const bpm = part.bpm_min ?? part.bpm_max;
  return bpm === null || part.beat_unit === null ? null : { bpm, beatUnit: part.beat_unit };
}

/** Whether a part's target is the sheet's own number. */
export function isAskedTarget(part: ProgramPartRow): boolean {
  return part.target_bpm === null && effectiveTarget(part) !== null;
}

/** What a score is practised at: the tempo, and whether it is a sheet's own number. */
export interface PracticeTarget extends Target {
  readonly isAsked: boolean;
}

/**
 * The tempos that students practise scores at: the fastest of the programs that ask for them and take the part.
 * Shape:  by practiceKey; nothing for a practice that no program gives a tempo
 * Units:  beats of the unit per minute
 */
export async function practiceTargets(
  studio: Studio,
  practices: readonly Practice[],
): Promise<ReadonlyMap<string, PracticeTarget>> {
  const parts = (await programPartRows(studio, { practices, withoutMusic: true })).filter(
    ({ is_taken: isTaken }) => isTaken === 1,
  );
  const targets = new Map<string, PracticeTarget>();
  for (const [key, own] of groupBy(parts, practiceKey)) {
    const fastest = own
      .flatMap((part) => {
        const target = effectiveTarget(part);
        return target ? [{ ...target, isAsked: isAskedTarget(part) }] : [];
      })
      .reduce<PracticeTarget | null>(
        (first, next) =>
          first === null || quarterBpm(next.bpm, next.beatUnit) > quarterBpm(first.bpm, first.beatUnit)
            ? next
            : first,
        null,
      );
    if (fastest) targets.set(key, fastest);
  }
  return targets;
}

/** The tempo of one practice, or null. */
export async function practiceTarget(studio: Studio, practice: Practice): Promise<PracticeTarget | null> {
  return (await practiceTargets(studio, [practice])).get(practiceKey(practice)) ?? null;
}
