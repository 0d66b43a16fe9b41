import { createHmac } from 'node:crypto';
import ical, { ICalAlarmType, ICalCalendarMethod } from 'ical-generator';
import {
  dueMoment,
  instantOf,
  type CalendarLinkInput,
  type CalendarLinkView,
  type TimelineEntry,
} from '@vivid-cue/contract';
import type { Knex } from 'knex';
import { sha256 } from '../db/sha256.js';
import { insertOnce, rowsOf, type Studio } from '../db/studio.js';
import { notFound, Problem } from '../http/problem.js';
import { findStudent } from '../students/repository.js';
import { timeline } from './timeline.js';

const WORDS: Readonly<Record<string, string>> = {
  registration: 'Registration closes',
  'late registration': 'Late registration closes',
  recording: 'Recording upload closes',
  audition: 'Audition day',
  results: 'Results',
  other: 'Date',
};
/** All parts are strung together so long before the audition. Units: days. Source: product design. */
const ASSEMBLY_DAYS = 21;
const DAY_MS = 86_400_000;

/**
 * The dates of a studio or a student as an iCalendar file. The studio's file names students; a student's names nobody.
 * Shape:  a whole-day event where the sheet states no time, else an instant in UTC
 * Source: RFC 5545
 */
export function calendarText(
  entries: readonly TimelineEntry[],
  {
    name,
    namesStudents,
    nowMs,
  }: { readonly name: string; readonly namesStudents: boolean; readonly nowMs: number },
): string {
  const calendar = ical({
    name,
    prodId: { company: 'Vivid Cue', product: 'Vivid Cue', language: 'EN' },
    method: ICalCalendarMethod.PUBLISH,
  });
  for (const entry of entries) {
    const students = namesStudents ? `: ${entry.students.map((student) => student.name).join(', ')}` : '';
    addEvent(calendar, entry, {
      summary: `${WORDS[entry.what] ?? 'Date'} · ${entry.sheetTitle}${students}`,
      nowMs,
    });
    if (entry.what === 'audition') addAssembly(calendar, entry, nowMs);
  }
  return calendar.toString();
}

function addEvent(
  calendar: ReturnType<typeof ical>,
  entry: TimelineEntry,
  { summary, nowMs }: { readonly summary: string; readonly nowMs: number },
): void {
  const moment = dueMoment({ kind: entry.what, ...entry });
  if (!moment) return;
  const description = `${entry.date}${entry.endDate === null ? '' : ` to ${entry.endDate}`}${entry.time === null ? '' : ` ${entry.time}`}, ${entry.zone}`;
  const shared = { id: `${entry.deadlineId}@vivid-cue`, summary, description, stamp: new Date(nowMs) };
  const event =
    entry.time === null
      ? calendar.createEvent({
          ...shared,
          start: day(moment.date),
          end: day(entry.endDate ?? moment.date, 1),
          allDay: true,
        })
      : calendar.createEvent({
          ...shared,
          start: new Date(instantOf(moment)),
          end: new Date(instantOf(moment)),
        });
  event.createAlarm({ type: ICalAlarmType.display, trigger: 7 * 86_400, description: summary });
}

/** The day on which all parts are strung together. */
function addAssembly(calendar: ReturnType<typeof ical>, entry: TimelineEntry, nowMs: number): void {
  calendar.createEvent({
    id: `${entry.deadlineId}-assembly@vivid-cue`,
    summary: `Assembly date · ${entry.sheetTitle}`,
    description: 'From here on all parts are played through in their order.',
    stamp: new Date(nowMs),
    start: day(entry.localDate, -ASSEMBLY_DAYS),
    end: day(entry.localDate, 1 - ASSEMBLY_DAYS),
    allDay: true,
  });
}

function day(date: string, plus = 0): Date {
  return new Date(Date.parse(`${date}T00:00:00Z`) + plus * DAY_MS);
}

/** The secret part of an address: the same for a repeated request, and known to nobody without the server's secret. */
function tokenOf(secret: string, studio: Studio, linkId: string): string {
  return createHmac('sha256', secret)
    .update(`calendar ${studio.id} ${linkId}`)
    .digest('base64url')
    .slice(0, 32);
}

/**
 * Makes a private calendar address; only its hash is stored, so it is shown once.
 * Shape:  the link with its path
 * Errors: Problem not-found, id-taken
 */
export async function addCalendarLink(
  studio: Studio,
  input: CalendarLinkInput,
  { secret, nowMs }: { readonly secret: string; readonly nowMs: number },
): Promise<CalendarLinkView> {
  const student = input.studentId === null ? null : await findStudent(studio, input.studentId);
  if (input.studentId !== null && !student) throw notFound('student');
  const token = tokenOf(secret, studio, input.id);
  const row = { id: input.id, student_id: input.studentId, token_sha256: sha256(token) };
  const isMade =
    (await insertOnce(studio, 'calendar_links', { ...row, created_at: new Date(nowMs) })) ||
    (await rowsOf(studio, 'calendar_links').where(row).first('id')) !== undefined;
  if (!isMade) throw new Problem('id-taken', 'This address was made already; revoke it and make another.');
  return {
    id: input.id,
    studentName: student?.name ?? null,
    createdAt: new Date(nowMs).toISOString(),
    path: `/api/calendar/${token}`,
  };
}

/** The calendar addresses that hold, newest first; their paths are not known any more. */
export async function listCalendarLinks(studio: Studio): Promise<CalendarLinkView[]> {
  const rows = (await rowsOf(studio, 'calendar_links as l')
    .leftJoin('students as st', 'st.id', 'l.student_id')
    .orderBy('l.created_at', 'desc')
    .select('l.id', 'l.created_at', 'st.name')) as unknown as {
    id: string;
    created_at: Date;
    name: string | null;
  }[];
  return rows.map(({ id, created_at: createdAt, name }) => ({
    id,
    studentName: name,
    createdAt: createdAt.toISOString(),
    path: null,
  }));
}

/** Takes a calendar address away; false where it is not there. */
export async function revokeCalendarLink(studio: Studio, id: string): Promise<boolean> {
  return (await rowsOf(studio, 'calendar_links').where({ id }).delete()) === 1;
}

/**
 * What a private address answers.
 * Shape:  iCalendar text
 * Errors: Problem not-found for an address that was revoked or never was
 * Source: RFC 5545
 */
export async function calendarOf(db: Knex, token: string, nowMs: number): Promise<string> {
  const link = (await db('calendar_links as l')
    .join('studios as s', 's.id', 'l.studio_id')
    .where({ 'l.token_sha256': sha256(token), 's.deleted_at': null })
    .first('l.studio_id', 'l.student_id')) as { studio_id: string; student_id: string | null } | undefined;
  if (!link) throw notFound('calendar');
  const studio = { db, id: link.studio_id };
  const student = link.student_id === null ? null : await findStudent(studio, link.student_id);
  if (link.student_id !== null && !student) throw notFound('calendar');
  const { entries } = await timeline(studio, nowMs, link.student_id);
  return calendarText(entries, {
    name: student ? 'Audition dates' : 'Studio audition dates',
    namesStudents: student === null,
    nowMs,
  });
}
