import { SECONDS_BEFORE_A_REP } from '@vivid-cue/core/climb';
import { convertBpm, quarterBpm, type BeatUnit, type Bpm } from '@vivid-cue/core/music';
import { dateOfDay, type PlayedDay } from '@vivid-cue/core/plan';
import {
  dayNumber,
  type DeskPassage,
  type DeskView,
  type PlanToKeep,
  type PlanView,
  type TaskTick,
} from '@vivid-cue/contract';
import { targetSeconds } from '@vivid-cue/contract/desk-music';
import { rowsOf, type Studio } from '../db/studio.js';
import { notFound, Problem } from '../http/problem.js';
import type { ProgramPartRow } from '../practice/part-row.js';
import { effectiveTarget } from '../practice/target.js';
import { findStudent } from '../students/repository.js';
import { keepPlan, keptPlan, tickTask } from '../students/plans.js';
import { deskOf } from './view.js';

/** What is shown of the days behind. Units: days */
const SHOWN_DAYS = 120;

/**
 * All that the page of a student's plan needs: what is practised, what was kept and what happened.
 * Units:  milliseconds since 1970
 * Errors: Problem not-found
 */
export async function planView(studio: Studio, studentId: string, nowMs: number): Promise<PlanView> {
  const { desk, parts } = await deskOf(studio, studentId, nowMs);
  const today = dayNumber(nowMs, desk.studio.zone);
  const kept = await keptPlan(studio, studentId, dateOfDay(today - SHOWN_DAYS));
  return {
    desk,
    kept,
    played: await playedDays(studio, desk, today - SHOWN_DAYS),
    slowestShare: slowestShare(parts),
  };
}

/**
 * Keeps a plan.
 * Shape:  as planView
 * Errors: Problem not-found; version-stale where another was kept meanwhile
 */
export async function keepStudentPlan(
  studio: Studio,
  studentId: string,
  { plan, nowMs }: { readonly plan: PlanToKeep; readonly nowMs: number },
): Promise<PlanView> {
  if (!(await findStudent(studio, studentId))) throw notFound('student');
  if (!(await keepPlan(studio, studentId, { ...plan, now: new Date(nowMs) })))
    throw new Problem(
      'version-stale',
      'This plan was changed in another window since; what stands there is shown now. Make your change again.',
      {
        current: await planView(studio, studentId, nowMs),
      },
    );
  return planView(studio, studentId, nowMs);
}

interface PlayedRow {
  readonly passage_id: string;
  readonly day: number;
  readonly beat_unit: BeatUnit;
  readonly reps: number;
  readonly clean: number;
  readonly bpm: Bpm;
  readonly clean_bpm: Bpm | null;
}

/** What was played of each passage on each day, in the passage's own unit. */
async function playedDays(studio: Studio, desk: DeskView, since: number): Promise<PlayedDay[]> {
  const passages = new Map(desk.passages.map((passage) => [passage.id, passage]));
  const rows = (await rowsOf(studio, 'reps as x')
    .leftJoin('rep_retractions as t', 't.rep_id', 'x.id')
    .whereIn('x.passage_id', [...passages.keys()])
    .where('x.day', '>=', since)
    .whereNull('t.id')
    .groupBy('x.passage_id', 'x.day', 'x.beat_unit')
    .orderBy('x.day')
    .select('x.passage_id', 'x.day', 'x.beat_unit')
    .count({ reps: 'x.id' })
    .sum({ clean: 'x.is_clean' })
    .max({ bpm: 'x.bpm' })
    .select(
      studio.db.raw('MAX(CASE WHEN x.is_clean = 1 THEN x.bpm END) AS clean_bpm'),
    )) as unknown as PlayedRow[];
  return rows.flatMap((row) => {
    const passage = passages.get(row.passage_id);
    return passage ? [playedDay(row, passage, desk)] : [];
  });
}

function playedDay(row: PlayedRow, passage: DeskPassage, desk: DeskView): PlayedDay {
  const unit = passage.target.beatUnit;
  const bpm = convertBpm(row.bpm, row.beat_unit, unit);
  const seconds =
    targetSeconds(passage, desk) * (quarterBpm(passage.target.bpm, unit) / quarterBpm(bpm, unit));
  return {
    date: dateOfDay(row.day),
    passageId: row.passage_id,
    reps: Number(row.reps),
    clean: Number(row.clean),
    minutes: (Number(row.reps) * (SECONDS_BEFORE_A_REP + seconds)) / 60,
    bpm,
    cleanBpm: row.clean_bpm === null ? null : convertBpm(row.clean_bpm, row.beat_unit, unit),
  };
}

/** The slowest share of its target that every sheet allows; nothing is too slow for a sheet that states no number. */
function slowestShare(parts: readonly ProgramPartRow[]): number {
  const shares = parts.flatMap((part) => {
    const target = part.is_taken === 1 && part.score_id !== null ? effectiveTarget(part) : null;
    if (!target) return [];
    if (part.bpm_min === null || part.beat_unit === null) return [0];
    return [quarterBpm(part.bpm_min, part.beat_unit) / quarterBpm(target.bpm, target.beatUnit)];
  });
  return Math.min(1, Math.max(0, ...shares));
}

/**
 * Ticks a task of a student: one of a program, or one that the instructor added.
 * Errors: Problem not-found for anybody else's
 */
export async function tickOwnTask(
  { studio, studentId }: { readonly studio: Studio; readonly studentId: string },
  tick: TaskTick,
): Promise<void> {
  const program: unknown = await rowsOf(studio, 'programs')
    .where({ id: tick.subjectId, student_id: studentId })
    .first('id');
  const own = program === undefined ? (await keptPlan(studio, studentId, NO_DAYS)).ownTasks : [];
  if (program === undefined && !own.some(({ id }) => id === tick.subjectId)) throw notFound('task');
  await tickTask(studio, studentId, tick);
}

/** After every day that there is. */
const NO_DAYS = '9999-12-31';
