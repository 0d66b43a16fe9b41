import type { BeatUnit, Bpm } from '@vivid-cue/core/music';
import type {
  DeskNoteInput,
  DeskNoteView,
  FromStudentView,
  StudentRecord,
  SurpriseInput,
  SurpriseView,
} from '@vivid-cue/contract';
import { insertOnce, rowsOf, type Studio } from '../db/studio.js';
import { keepLesson } from './lessons.js';
import { addPlan } from './plans.js';

interface SurpriseRow {
  readonly id: string;
  readonly passage_id: string;
  readonly measure_index: number;
  readonly bpm: Bpm;
  readonly beat_unit: BeatUnit;
  readonly text: string;
  readonly at: Date;
  readonly name: string;
  readonly span_from: string;
  readonly from_index: number;
  readonly span_to: string;
}

interface NoteRow {
  readonly id: string;
  readonly passage_id: string | null;
  readonly text: string;
  readonly at: Date;
  readonly seen_at: Date | null;
  readonly name: string | null;
}

/** So many notes are shown; older ones are in the record. */
const SHOWN_NOTES = 30;

/** Surprises of a student that nobody has looked at yet, newest first. */
export async function openSurprises(studio: Studio, studentId: string): Promise<SurpriseView[]> {
  const rows = (await rowsOf(studio, 'surprises as x')
    .join('passages as p', 'p.id', 'x.passage_id')
    .where('p.student_id', studentId)
    .whereNull('p.deleted_at')
    .whereNull('x.cleared_at')
    .orderBy('x.at', 'desc')
    .select(
      ...['x.id', 'x.passage_id', 'x.measure_index', 'x.bpm', 'x.beat_unit', 'x.text', 'x.at'],
      ...['p.name', 'p.span_from', 'p.span_to', 'p.from_index'],
    )) as unknown as SurpriseRow[];
  return rows.map((row) => ({
    id: row.id,
    passageId: row.passage_id,
    passageName: row.name,
    measureIndex: row.measure_index,
    measure: measureOf(row),
    bpm: row.bpm,
    beatUnit: row.beat_unit,
    text: row.text,
    at: row.at.toISOString(),
  }));
}

/** The printed number of a measure, counted from the passage's first; numbers that are none are told by the passage. */
function measureOf({ span_from: from, from_index: first, measure_index: index }: SurpriseRow): string {
  const number = Number(from);
  return Number.isInteger(number) ? String(number + index - first) : from;
}

/** What a student sent that the instructor has not looked at yet. */
export async function fromStudent(studio: Studio, studentId: string): Promise<FromStudentView> {
  const notes = (await rowsOf(studio, 'student_notes as x')
    .leftJoin('passages as p', 'p.id', 'x.passage_id')
    .where('x.student_id', studentId)
    .whereNull('x.seen_at')
    .orderBy('x.at', 'desc')
    .limit(SHOWN_NOTES)
    .select('x.id', 'x.passage_id', 'x.text', 'x.at', 'x.seen_at', 'p.name')) as unknown as NoteRow[];
  return { surprises: await openSurprises(studio, studentId), notes: notes.map(noteView) };
}

/** How much of a student nobody has looked at. */
export interface SentCounts {
  readonly surprises: number;
  readonly notes: number;
}

/** Nothing. */
export const NOTHING_SENT: SentCounts = Object.freeze({ surprises: 0, notes: 0 });

/** How much nobody has looked at, of each student who sent something. */
export async function sentCounts(studio: Studio): Promise<ReadonlyMap<string, SentCounts>> {
  const surprises = (await rowsOf(studio, 'surprises as x')
    .join('passages as p', 'p.id', 'x.passage_id')
    .whereNull('p.deleted_at')
    .whereNull('x.cleared_at')
    .groupBy('p.student_id')
    .select({ id: 'p.student_id' })
    .count({ count: 'x.id' })) as unknown as CountRow[];
  const notes = (await rowsOf(studio, 'student_notes')
    .whereNull('seen_at')
    .groupBy('student_id')
    .select({ id: 'student_id' })
    .count({ count: 'id' })) as unknown as CountRow[];
  const counts = new Map(
    surprises.map(({ id, count }): [string, SentCounts] => [id, { surprises: Number(count), notes: 0 }]),
  );
  for (const { id, count } of notes)
    counts.set(id, { ...(counts.get(id) ?? NOTHING_SENT), notes: Number(count) });
  return counts;
}

interface CountRow {
  readonly id: string;
  readonly count: number;
}

function noteView(row: NoteRow): DeskNoteView {
  return {
    id: row.id,
    passageId: row.passage_id,
    passageName: row.name,
    text: row.text,
    at: row.at.toISOString(),
    isSeen: row.seen_at !== null,
  };
}

/** Adds a surprise once. */
export function insertSurprise(studio: Studio, passageId: string, input: SurpriseInput): Promise<boolean> {
  return insertOnce(studio, 'surprises', {
    id: input.id,
    passage_id: passageId,
    measure_index: input.measureIndex,
    bpm: input.bpm,
    beat_unit: input.beatUnit,
    text: input.text,
    at: new Date(input.at),
  });
}

/** Adds a note once. */
export function insertNote(studio: Studio, studentId: string, input: DeskNoteInput): Promise<boolean> {
  return insertOnce(studio, 'student_notes', {
    id: input.id,
    student_id: studentId,
    passage_id: input.passageId,
    text: input.text,
    at: new Date(input.at),
  });
}

/** A surprise was looked at: the rung is free again. Shape: false where there is none */
export async function clearSurprise(studio: Studio, id: string, now: Date): Promise<boolean> {
  return (await rowsOf(studio, 'surprises').where({ id }).update({ cleared_at: now })) === 1;
}

/** A note was read. Shape: false where there is none */
export async function seeNote(studio: Studio, id: string, now: Date): Promise<boolean> {
  return (await rowsOf(studio, 'student_notes').where({ id }).update({ seen_at: now })) === 1;
}

/** What a student flagged and wrote, with what became of it, and that there are links: for the record. */
export async function recordedFromStudent(
  studio: Studio,
  studentId: string,
): Promise<Required<Pick<StudentRecord, 'surprises' | 'notes' | 'studentLinks'>>> {
  const surprises = (await rowsOf(studio, 'surprises as x')
    .join('passages as p', 'p.id', 'x.passage_id')
    .where('p.student_id', studentId)
    .orderBy(['x.at', 'x.id'])
    .select(
      ...[
        'x.id',
        'x.passage_id',
        'x.measure_index',
        'x.bpm',
        'x.beat_unit',
        'x.text',
        'x.at',
        'x.cleared_at',
      ],
    )) as unknown as (SurpriseRow & { readonly cleared_at: Date | null })[];
  return {
    surprises: surprises.map((row) => ({
      id: row.id,
      passageId: row.passage_id,
      measureIndex: row.measure_index,
      bpm: row.bpm,
      beatUnit: row.beat_unit,
      text: row.text,
      at: row.at.toISOString(),
      isOpen: row.cleared_at === null,
    })),
    ...(await recordedLines(studio, studentId)),
  };
}

async function recordedLines(
  studio: Studio,
  studentId: string,
): Promise<Required<Pick<StudentRecord, 'notes' | 'studentLinks'>>> {
  const notes = (await rowsOf(studio, 'student_notes')
    .where({ student_id: studentId })
    .orderBy(['at', 'id'])
    .select('id', 'passage_id', 'text', 'at', 'seen_at')) as NoteRow[];
  const links = (await rowsOf(studio, 'student_links')
    .where({ student_id: studentId })
    .orderBy('created_at')
    .select('id', 'created_at')) as { readonly id: string; readonly created_at: Date }[];
  return {
    notes: notes.map(({ id, passage_id: passageId, text, at, seen_at: seen }) => ({
      ...{ id, passageId, text },
      at: at.toISOString(),
      isSeen: seen !== null,
    })),
    studentLinks: links.map(({ id, created_at: at }) => ({ id, createdAt: at.toISOString() })),
  };
}

/** Reads what a record holds of it back in, lessons and the plan too; links are told, not taken. */
export async function addFromStudent(
  studio: Studio,
  {
    surprises = [],
    notes = [],
    lessons = [],
    plan,
    student,
  }: Pick<StudentRecord, 'surprises' | 'notes' | 'lessons' | 'plan' | 'student'>,
  now: Date,
): Promise<void> {
  for (const { passageId, isOpen, ...surprise } of surprises) {
    await insertSurprise(studio, passageId, surprise);
    if (!isOpen) await clearSurprise(studio, surprise.id, now);
  }
  for (const lesson of lessons) await keepLesson(studio, student.id, lesson);
  if (plan) await addPlan(studio, student.id, plan);
  for (const { isSeen, ...note } of notes) {
    await insertNote(studio, student.id, note);
    if (isSeen) await seeNote(studio, note.id, now);
  }
}
