import { v7 as newId } from 'uuid';
import { NO_WISHES, type KeptDay, type PlanWishes } from '@vivid-cue/core/plan';
import type { KeptPlan, OwnTask, PlanToKeep, RecordPlan, TaskTick } from '@vivid-cue/contract';
import { rowsOf, together, type Studio } from '../db/studio.js';

interface PlanRow {
  readonly version: number;
  readonly made_at: Date;
  readonly wishes: string;
  readonly own_tasks: string;
}

/** A student's plan as it was kept. Shape: version 0 where none was; days from `since` on, in order. Units: ISO dates */
export async function keptPlan(studio: Studio, studentId: string, since = ''): Promise<KeptPlan> {
  const row = (await rowsOf(studio, 'plans')
    .where({ id: studentId })
    .first('version', 'made_at', 'wishes', 'own_tasks')) as PlanRow | undefined;
  if (!row) return { version: 0, madeAt: null, wishes: NO_WISHES, ownTasks: [], days: [] };
  const days = (await rowsOf(studio, 'planned_days')
    .where({ student_id: studentId })
    .where('date', '>=', since)
    .orderBy('date')
    .select('date', 'planned')) as { readonly date: string; readonly planned: string }[];
  return {
    version: row.version,
    madeAt: row.made_at.toISOString(),
    wishes: JSON.parse(row.wishes) as PlanWishes,
    ownTasks: JSON.parse(row.own_tasks) as OwnTask[],
    days: days.map(({ date, planned }) => ({ ...(JSON.parse(planned) as Omit<KeptDay, 'date'>), date })),
  };
}

/**
 * Keeps a plan: its days from `from` on take the place of those that stood there; what is past stays as it was planned.
 * Shape:  false where another plan was kept since the version that this one was made on
 */
export function keepPlan(
  studio: Studio,
  studentId: string,
  { now, ...plan }: PlanToKeep & { readonly now: Date },
): Promise<boolean> {
  return together(studio, async (inside) => {
    // The student's row is the lock of two who keep a first plan at once.
    await rowsOf(inside, 'students').where({ id: studentId }).forUpdate().first('id');
    const known = (await rowsOf(inside, 'plans').where({ id: studentId }).first('version')) as
      { readonly version: number } | undefined;
    if ((known?.version ?? 0) !== plan.version) return false;
    const row = {
      version: plan.version + 1,
      made_at: now,
      wishes: JSON.stringify(plan.wishes),
      own_tasks: JSON.stringify(plan.ownTasks),
    };
    if (known) await rowsOf(inside, 'plans').where({ id: studentId }).update(row);
    else await inside.db('plans').insert({ id: studentId, studio_id: inside.id, ...row });
    await rowsOf(inside, 'planned_days')
      .where({ student_id: studentId })
      .where('date', '>=', plan.from)
      .delete();
    await insertDays(inside, studentId, plan.days);
    return true;
  });
}

async function insertDays(studio: Studio, studentId: string, days: readonly KeptDay[]): Promise<void> {
  if (days.length === 0) return;
  await studio.db('planned_days').insert(
    days.map(({ date, ...planned }) => ({
      ...{ id: newId(), studio_id: studio.id, student_id: studentId, date },
      planned: JSON.stringify(planned),
    })),
  );
}

/** What was ticked of a student's tasks. */
export async function taskTicks(studio: Studio, studentId: string): Promise<TaskTick[]> {
  return (await rowsOf(studio, 'task_ticks')
    .where({ student_id: studentId })
    .orderBy('id')
    .select({ subjectId: 'subject_id', kind: 'kind', doneOn: 'done_on' })) as unknown as TaskTick[];
}

/** Programs whose forms are ticked as in. */
export async function formsIn(studio: Studio): Promise<ReadonlySet<string>> {
  const rows = (await rowsOf(studio, 'task_ticks').where({ kind: 'forms' }).select('subject_id')) as {
    readonly subject_id: string;
  }[];
  return new Set(rows.map(({ subject_id: id }) => id));
}

/** Ticks a task, or takes the tick back; the same again changes nothing. */
export async function tickTask(
  studio: Studio,
  studentId: string,
  { subjectId, kind, doneOn }: TaskTick,
): Promise<void> {
  const task = { student_id: studentId, subject_id: subjectId, kind };
  if (doneOn === null) {
    await rowsOf(studio, 'task_ticks').where(task).delete();
    return;
  }
  await studio
    .db('task_ticks')
    .insert({ id: newId(), studio_id: studio.id, ...task, done_on: doneOn })
    .onConflict(['student_id', 'subject_id', 'kind'])
    .merge(['done_on']);
}

/** A student's plan for the record; null where none was kept and nothing ticked. */
export async function recordedPlan(studio: Studio, studentId: string): Promise<RecordPlan | null> {
  const { madeAt, wishes, ownTasks, days } = await keptPlan(studio, studentId);
  const ticks = await taskTicks(studio, studentId);
  if (madeAt === null && ticks.length === 0) return null;
  return { wishes, ownTasks, madeAt: madeAt ?? '', days, ticks } as RecordPlan;
}

/** Reads a recorded plan back in. */
export async function addPlan(
  studio: Studio,
  studentId: string,
  { wishes, ownTasks, madeAt, days, ticks }: RecordPlan,
): Promise<void> {
  if (madeAt !== '') {
    await studio.db('plans').insert({
      ...{ id: studentId, studio_id: studio.id, version: 1, made_at: new Date(madeAt) },
      wishes: JSON.stringify(wishes),
      own_tasks: JSON.stringify(ownTasks),
    });
    await insertDays(studio, studentId, days);
  }
  for (const tick of ticks) await tickTask(studio, studentId, tick);
}
