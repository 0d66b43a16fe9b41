import type { ClimbSchool, LadderStep, RungRule, SlipRule } from '@vivid-cue/core/climb';
import type { BeatUnit, Bpm } from '@vivid-cue/core/music';
import { PRIOR, UNSTARTED, type Belief, type Progress } from '@vivid-cue/core/readiness';
import { rowsOf, type Studio } from '../db/studio.js';
import { practicePairs, type Practice } from './part-row.js';

/** A passage with what its reps add up to. */
export interface PassageRow {
  readonly id: string;
  readonly student_id: string;
  readonly score_id: string;
  readonly name: string;
  readonly span_from: string;
  readonly span_to: string;
  readonly from_index: number;
  readonly end_index: number;
  readonly target_bpm: Bpm;
  readonly target_unit: BeatUnit;
  readonly has_own_target: number;
  /** Whether the target that its practice follows is a sheet's own number; null where that was not looked at yet. */
  readonly is_asked: number | null;
  readonly is_seam: number;
  readonly step_kind: LadderStep['kind'];
  readonly step_size: number | null;
  readonly rule: RungRule;
  readonly slip_rule: SlipRule;
  readonly climb_school: ClimbSchool | null;
  readonly version: number;
  readonly belief: Buffer | null;
  readonly reps: number | null;
  readonly joined_reps: number | null;
  readonly run_reps: number | null;
  readonly practice_days: number | null;
  readonly first_day: number | null;
  readonly last_day: number | null;
  readonly last_at: Date | null;
  readonly rung_index: number | null;
  readonly streak: number | null;
  readonly streak_days: number | null;
  readonly streak_bpm: Bpm | null;
  readonly rung_day: number | null;
  readonly top_rung: number | null;
  readonly slips: number | null;
  readonly is_first_sight: number | null;
  readonly clean_bpm: Bpm | null;
  readonly is_done: number | null;
  readonly writes: number | null;
  readonly deleted_at?: Date | null;
}

/** Columns of a passage and its snapshot. */
export const PASSAGE_COLUMNS = [
  'p.id',
  'p.student_id',
  'p.score_id',
  'p.name',
  'p.span_from',
  'p.span_to',
  'p.from_index',
  'p.end_index',
  'p.target_bpm',
  'p.target_unit',
  'p.has_own_target',
  'p.is_asked',
  'p.is_seam',
  'p.step_kind',
  'p.step_size',
  'p.rule',
  'p.slip_rule',
  'p.climb_school',
  'p.version',
  'r.belief',
  'r.reps',
  'r.joined_reps',
  'r.run_reps',
  'r.practice_days',
  'r.first_day',
  'r.last_day',
  'r.last_at',
  'r.rung_index',
  'r.streak',
  'r.streak_days',
  'r.streak_bpm',
  'r.rung_day',
  'r.top_rung',
  'r.slips',
  'r.is_first_sight',
  'r.clean_bpm',
  'r.is_done',
  'r.writes',
];

/** Passages of some students' scores, in the order of the music. */
export async function passageRows(studio: Studio, practices: readonly Practice[]): Promise<PassageRow[]> {
  const pairs = practicePairs(practices);
  if (pairs.length === 0) return [];
  return (await rowsOf(studio, 'passages as p')
    .leftJoin('readiness_snapshots as r', 'r.id', 'p.id')
    .whereIn(['p.student_id', 'p.score_id'], pairs)
    .whereNull('p.deleted_at')
    .orderBy(['p.from_index', 'p.end_index'])
    .select(PASSAGE_COLUMNS)) as PassageRow[];
}

/** Passages of a score, whoever practises it, or of one student; removed ones included. */
export async function passagesOfScore(
  studio: Studio,
  scoreId: string,
  studentId: string | null,
): Promise<PassageRow[]> {
  const query = rowsOf(studio, 'passages as p')
    .leftJoin('readiness_snapshots as r', 'r.id', 'p.id')
    .where('p.score_id', scoreId)
    .orderBy(['p.from_index', 'p.end_index'])
    .select(...PASSAGE_COLUMNS, 'p.deleted_at');
  return (await (studentId === null ? query : query.where('p.student_id', studentId))) as PassageRow[];
}

/** The snapshot that a row carries; the start where there is none yet. */
export function snapshotOf(row: PassageRow): Progress {
  if (row.belief === null) return UNSTARTED;
  return {
    record: {
      belief: readBelief(row.belief),
      reps: row.reps ?? 0,
      joinedReps: row.joined_reps ?? 0,
      runReps: row.run_reps ?? 0,
      practiceDays: row.practice_days ?? 0,
      firstDay: row.first_day,
      lastDay: row.last_day,
      lastAtMs: row.last_at?.getTime() ?? null,
    },
    ladder: {
      rungIndex: row.rung_index ?? 0,
      streak: row.streak ?? 0,
      streakDays: row.streak_days ?? 0,
      streakBpm: row.streak_bpm,
      lastDay: row.rung_day,
      topRung: row.top_rung ?? -1,
      slips: row.slips ?? 0,
      isFirstSight: row.is_first_sight === 1,
      cleanBpm: row.clean_bpm,
      isDone: row.is_done === 1,
    },
  };
}

/** Floats of a belief in a row: weight, mean and width at each steepness of the model, in its order. */
const FLOATS = 3;
const FLOAT_BYTES = 8;

/** A belief as bytes: exact, small, and read back in no time for a thousand passages. */
export function writeBelief(belief: Belief): Buffer {
  const bytes = Buffer.alloc(belief.length * FLOATS * FLOAT_BYTES);
  belief
    .flatMap(({ weight, mean, sd }) => [weight, mean, sd])
    .forEach((value, n) => bytes.writeDoubleLE(value, n * FLOAT_BYTES));
  return bytes;
}

function readBelief(bytes: Buffer): Belief {
  const float = (n: number): number => bytes.readDoubleLE(n * FLOAT_BYTES);
  return PRIOR.map(({ steepness }, n) => ({
    steepness,
    weight: float(n * FLOATS),
    mean: float(n * FLOATS + 1),
    sd: float(n * FLOATS + 2),
  }));
}
