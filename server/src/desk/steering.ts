import { groupBy } from '@vivid-cue/core/base';
import { dateOfDay } from '@vivid-cue/core/plan';
import { dayNumber, dueMoment, type DeskPlan, type ProgramView } from '@vivid-cue/contract';
import type { ProgramDate } from '@vivid-cue/contract/playing-dates';
import type { Studio } from '../db/studio.js';
import { mockDates } from '../mocks/repository.js';
import type { ProgramPartRow } from '../practice/part-row.js';
import type { ProgramRow } from '../programs/repository.js';
import { deadlinesOf } from '../published/repository.js';
import { keptPlan, taskTicks } from '../students/plans.js';
import { tasksOfStudent } from './tasks.js';

const DAY_MS = 86_400_000;
/** A kept plan steers the desk so long; after that the desk plans by what has happened since (our own). Units: days */
const STEERING_DAYS = 7;
/** Days ahead that a desk without a connection may need. */
const DESK_DAYS = 14;

/** What a desk is told of the plan: what was settled, the kept days while they are fresh, and the tasks. */
export async function deskPlan(
  studio: Studio,
  studentId: string,
  facts: {
    readonly instrument: string;
    readonly zone: string;
    readonly nowMs: number;
    readonly programs: readonly ProgramView[];
    readonly rows: readonly ProgramRow[];
    readonly parts: readonly ProgramPartRow[];
  },
): Promise<DeskPlan> {
  const today = dayNumber(facts.nowMs, facts.zone);
  const kept = await keptPlan(studio, studentId, dateOfDay(today));
  const dates = await datesOf(studio, facts.rows);
  const isFresh = kept.madeAt !== null && facts.nowMs - Date.parse(kept.madeAt) < STEERING_DAYS * DAY_MS;
  return {
    madeAt: kept.madeAt,
    wishes: kept.wishes,
    days: isFresh ? kept.days.slice(0, DESK_DAYS) : [],
    tasks: tasksOfStudent({
      ...facts,
      dates,
      ownTasks: kept.ownTasks,
      ticks: await taskTicks(studio, studentId),
    }),
    mocks: await mockDates(studio, studentId, dateOfDay(today)),
    dates,
  };
}

/** Every date of some programs, soonest first. */
export async function datesOf(studio: Studio, programs: readonly ProgramRow[]): Promise<ProgramDate[]> {
  const deadlines = await deadlinesOf(
    studio,
    programs.map(({ revision_id: id }) => id),
  );
  const byRevision = groupBy(deadlines, ({ revision_id: id }) => id);
  const dates = programs.flatMap(({ id, body, revision_id: revision }) =>
    (byRevision.get(revision) ?? []).flatMap((deadline) => {
      const moment = dueMoment(deadline);
      return moment ? [{ programId: id, sheetTitle: body, what: deadline.kind, date: moment.date }] : [];
    }),
  );
  return dates.sort((a, b) => a.date.localeCompare(b.date));
}

/** How many days ago a student's season began: with the first sheet that was given. */
export function begunDaysAgo(programs: readonly ProgramRow[], nowMs: number, zone: string): number {
  const begun = programs.map(({ created_at: at }) => dayNumber(at.getTime(), zone));
  return begun.length === 0 ? 0 : Math.max(0, dayNumber(nowMs, zone) - Math.min(...begun));
}
