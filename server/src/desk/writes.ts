import type { DeskNoteInput, PassageView, RepInput, SurpriseInput } from '@vivid-cue/contract';
import { rowsOf, type Studio } from '../db/studio.js';
import { notFound, Problem } from '../http/problem.js';
import { logReps, takeRepBack } from '../passages/reps.js';
import { storedOptimism } from '../practice/reports.js';
import { insertNote, insertSurprise } from '../students/from-student.js';

/** A student at the desk. Units: milliseconds since 1970 */
export interface AtDesk {
  readonly studio: Studio;
  readonly studentId: string;
  readonly nowMs: number;
}

/** A student's own passage. Errors: Problem not-found for anybody else's */
async function ownPassage({ studio, studentId }: AtDesk, passageId: string): Promise<void> {
  const row: unknown = await rowsOf(studio, 'passages')
    .where({ id: passageId, student_id: studentId })
    .whereNull('deleted_at')
    .first('id');
  if (row === undefined) throw notFound('passage');
}

/**
 * Logs reps that a student reports, once however often they are sent.
 * Errors: as logReps; Problem not-found for another student's passage
 */
export async function reportReps(
  desk: AtDesk,
  passageId: string,
  reps: readonly RepInput[],
): Promise<PassageView> {
  await ownPassage(desk, passageId);
  const optimism = await storedOptimism(desk.studio, desk.studentId);
  return logReps(desk.studio, passageId, {
    reps,
    nowMs: desk.nowMs,
    said: { witness: 'student', optimism },
  });
}

/**
 * Takes back a rep that the student reported.
 * Errors: Problem not-found for another student's, and for one that the instructor heard
 */
export async function takeReportBack(desk: AtDesk, repId: string): Promise<PassageView> {
  const row = (await rowsOf(desk.studio, 'reps')
    .where({ id: repId, witness: 'student' })
    .first('passage_id')) as { readonly passage_id: string } | undefined;
  if (!row) throw notFound('rep');
  await ownPassage(desk, row.passage_id);
  return takeRepBack(desk.studio, repId, desk.nowMs);
}

/** Flags a measure that surprised, once. Errors: Problem not-found, id-taken */
export async function flagSurprise(desk: AtDesk, passageId: string, input: SurpriseInput): Promise<void> {
  await ownPassage(desk, passageId);
  if (await insertSurprise(desk.studio, passageId, input)) return;
  await refuseTaken(desk.studio, 'surprises', { id: input.id, passage_id: passageId });
}

/** Sends a line to the instructor, once. Errors: Problem not-found, id-taken */
export async function sendNote(desk: AtDesk, input: DeskNoteInput): Promise<void> {
  if (input.passageId !== null) await ownPassage(desk, input.passageId);
  if (await insertNote(desk.studio, desk.studentId, input)) return;
  await refuseTaken(desk.studio, 'student_notes', { id: input.id, student_id: desk.studentId });
}

/** A repeated request changes nothing; an identifier of somebody else's is refused. */
async function refuseTaken(
  studio: Studio,
  table: string,
  own: Readonly<Record<string, string>>,
): Promise<void> {
  if ((await rowsOf(studio, table).where(own).first('id')) === undefined)
    throw new Problem('id-taken', 'This could not be kept; reload the page and try again.');
}

/** Refuses a score or page that is not of the student's own music. Errors: Problem not-found */
export async function refuseForeignScore({ studio, studentId }: AtDesk, scoreId: string): Promise<void> {
  const row: unknown = await ownScores(studio, studentId).where('pp.score_id', scoreId).first('pp.id');
  if (row === undefined) throw notFound('score');
}

/** The same for a page. Errors: Problem not-found */
export async function refuseForeignPage({ studio, studentId }: AtDesk, pageId: string): Promise<void> {
  const row: unknown = await ownScores(studio, studentId)
    .join('score_pages as g', 'g.score_id', 'pp.score_id')
    .where('g.page_id', pageId)
    .first('pp.id');
  if (row === undefined) throw notFound('page');
}

function ownScores(studio: Studio, studentId: string): ReturnType<typeof rowsOf> {
  return rowsOf(studio, 'program_parts as pp')
    .join('programs as p', 'p.id', 'pp.program_id')
    .where('p.student_id', studentId)
    .whereNull('p.deleted_at');
}
