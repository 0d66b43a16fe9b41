import type { DeskView, TaskTick } from '@vivid-cue/contract';

/** A desk on which a task is ticked, or no longer. */
export function ticked(desk: DeskView, { subjectId, kind, doneOn }: TaskTick): DeskView {
  const tasks = desk.plan.tasks.map((one) =>
    one.subjectId === subjectId && one.kind === kind ? { ...one, doneOn } : one,
  );
  return { ...desk, plan: { ...desk.plan, tasks } };
}
