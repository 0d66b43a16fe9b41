import type { LadderState, LadderStep, RungRule } from '@vivid-cue/core/climb';
import type { BeatUnit } from '@vivid-cue/core/music';
import { PRIOR, type PassageRecord } from '@vivid-cue/core/readiness';
import { rowsOf, type Studio } from '../db/studio.js';

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
  readonly target_bpm: number;
  readonly target_unit: BeatUnit;
  readonly has_own_target: number;
  readonly is_seam: number;
  readonly step_kind: LadderStep['kind'];
  readonly step_size: number | null;
  readonly rule: RungRule;
  readonly version: number;
  readonly mean: number | null;
  readonly sd: number | null;
  readonly reps: number | null;
  readonly practice_days: number | null;
  readonly first_day: number | null;
  readonly last_day: number | null;
  readonly last_at: Date | null;
  readonly rung_index: number | null;
  readonly streak: number | null;
  readonly streak_days: number | null;
  readonly rung_day: number | null;
  readonly is_done: number | null;
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
  'p.is_seam',
  'p.step_kind',
  'p.step_size',
  'p.rule',
  'p.version',
  'r.mean',
  'r.sd',
  'r.reps',
  'r.practice_days',
  'r.first_day',
  'r.last_day',
  'r.last_at',
  'r.rung_index',
  'r.streak',
  'r.streak_days',
  'r.rung_day',
  'r.is_done',
];

/** A student with a score: one body of practice, in however many programs the score stands. */
export interface Practice {
  readonly student_id: string;
  readonly score_id: string | null;
}

/** One text for a student and a score. */
export function practiceKey({ student_id: studentId, score_id: scoreId }: Practice): string {
  return `${studentId} ${scoreId ?? ''}`;
}

/** Passages of some students' scores, in the order of the music. */
export async function passageRows(studio: Studio, practices: readonly Practice[]): Promise<PassageRow[]> {
  const pairs = [
    ...new Map(
      practices.filter(({ score_id: id }) => id !== null).map((one) => [practiceKey(one), one]),
    ).values(),
  ];
  if (pairs.length === 0) return [];
  return (await rowsOf(studio, 'passages as p')
    .leftJoin('readiness_snapshots as r', 'r.id', 'p.id')
    .whereIn(
      ['p.student_id', 'p.score_id'],
      pairs.map(({ student_id: studentId, score_id: scoreId }) => [studentId, scoreId ?? '']),
    )
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

/** What is stored of a passage's reps. */
export interface Snapshot {
  readonly record: PassageRecord;
  readonly ladder: LadderState;
}

/** The snapshot that a row carries; the start where there is none yet. */
export function snapshotOf(row: PassageRow): Snapshot {
  return {
    record: {
      belief: { mean: row.mean ?? PRIOR.mean, sd: row.sd ?? PRIOR.sd },
      reps: row.reps ?? 0,
      practiceDays: row.practice_days ?? 0,
      firstDay: row.first_day,
      lastDay: row.last_day,
      lastAtMs: row.last_at?.getTime() ?? null,
    },
    ladder: {
      rungIndex: row.rung_index ?? 0,
      streak: row.streak ?? 0,
      streakDays: row.streak_days ?? 0,
      lastDay: row.rung_day,
      isDone: row.is_done === 1,
    },
  };
}
