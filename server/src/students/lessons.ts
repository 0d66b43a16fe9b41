import type { LessonInput } from '@vivid-cue/contract';
import { rowsOf, type Studio } from '../db/studio.js';

interface LessonRow {
  readonly id: string;
  readonly at: Date;
  readonly minutes: number;
  readonly notes: string;
  readonly asks: string;
}

/** A student's lessons, newest first. */
export async function lessonsOf(studio: Studio, studentId: string, limit = 1000): Promise<LessonInput[]> {
  const rows = (await rowsOf(studio, 'lessons')
    .where({ student_id: studentId })
    .orderBy([
      { column: 'at', order: 'desc' },
      { column: 'id', order: 'desc' },
    ])
    .limit(limit)
    .select('id', 'at', 'minutes', 'notes', 'asks')) as LessonRow[];
  return rows.map(({ id, at, minutes, notes, asks }) => ({
    ...{ id, minutes, notes },
    at: at.toISOString(),
    asks: JSON.parse(asks) as LessonInput['asks'],
  }));
}

/**
 * Keeps a lesson; the same identifier again changes what was noted, as a lesson is written while it is held.
 * Shape:  `rungs` on which rung each passage stands by its identifier; false where the lesson's identifier is another
 *         student's
 */
export async function keepLesson(
  studio: Studio,
  studentId: string,
  { rungs = null, ...lesson }: LessonInput & { readonly rungs?: Readonly<Record<string, number>> | null },
): Promise<boolean> {
  const row = {
    rungs: rungs && JSON.stringify(rungs),
    at: new Date(lesson.at),
    minutes: lesson.minutes,
    notes: lesson.notes,
    asks: JSON.stringify(lesson.asks),
  };
  const changed = await rowsOf(studio, 'lessons').where({ id: lesson.id, student_id: studentId }).update(row);
  if (changed === 1) return true;
  try {
    await studio.db('lessons').insert({ id: lesson.id, studio_id: studio.id, student_id: studentId, ...row });
    return true;
  } catch (error) {
    if ((error as { code?: string }).code === 'ER_DUP_ENTRY') return false;
    throw error;
  }
}

/** On which rung each passage stood at the end of the last lesson. Shape: null where there was none, or it is not known */
export async function rungsAtLastLesson(
  studio: Studio,
  studentId: string,
): Promise<Readonly<Record<string, number>> | null> {
  const row = (await rowsOf(studio, 'lessons')
    .where({ student_id: studentId })
    .orderBy([
      { column: 'at', order: 'desc' },
      { column: 'id', order: 'desc' },
    ])
    .first('rungs')) as { readonly rungs: string | null } | undefined;
  return row?.rungs == null ? null : (JSON.parse(row.rungs) as Record<string, number>);
}
