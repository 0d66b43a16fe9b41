import { quarterBpm } from '@vivid-cue/core/music';
import type { Target } from '@vivid-cue/contract';
import type { Studio } from '../db/studio.js';
import { programPartRows, type ProgramPartRow } from './part-row.js';
import type { Practice } from './passage-row.js';

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

/**
 * The tempo that a student practises a score at: the fastest of the programs that ask for it.
 * Shape:  null where no program gives one
 * Units:  beats of the unit per minute
 */
export async function practiceTarget(studio: Studio, practice: Practice): Promise<Target | null> {
  if (practice.score_id === null) return null;
  const parts = await programPartRows(studio, {
    practice: { student_id: practice.student_id, score_id: practice.score_id },
  });
  const targets = parts.map((part) => effectiveTarget(part)).filter((target) => target !== null);
  return targets.reduce<Target | null>(
    (fastest, next) =>
      fastest === null || quarterBpm(next.bpm, next.beatUnit) > quarterBpm(fastest.bpm, fastest.beatUnit)
        ? next
        : fastest,
    null,
  );
}
