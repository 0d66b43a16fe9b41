import type { Knex } from 'knex';
import type { DeskEntry, StudentLinkInput, StudentLinkView } from '@vivid-cue/contract';
import { insertOnce, rowsOf, type Studio } from '../db/studio.js';
import { codeHash, freshCode, shownCode } from '../http/link-codes.js';
import { goodLink, linkLimit, openLink, type LinkKind } from '../http/link-entry.js';
import { notFound, Problem } from '../http/problem.js';
import { findStudent } from '../students/repository.js';

/** A link is good for a season and a bit. Units: milliseconds (our own) */
const LINK_MS = 200 * 86_400_000;

/** A link as stored. */
interface LinkRow {
  readonly id: string;
  readonly studio_id: string;
  readonly student_id: string;
  readonly code_hash: string;
  readonly created_at: Date;
  readonly expires_at: Date;
  readonly last_used_at: Date | null;
  readonly revoked_at: Date | null;
}

/** Who came by a link. */
export interface DeskCaller {
  readonly studioId: string;
  readonly studentId: string;
  readonly linkId: string;
}

function viewOf({ id, created_at, expires_at, last_used_at }: LinkRow, code: string | null): StudentLinkView {
  return {
    id,
    code,
    createdAt: created_at.toISOString(),
    expiresAt: expires_at.toISOString(),
    lastUsedAt: last_used_at?.toISOString() ?? null,
    path: `/desk/${id}`,
  };
}

/** The links of a student that are good, newest first; codes are not known any more. Errors: Problem not-found */
export async function listStudentLinks(
  studio: Studio,
  studentId: string,
  nowMs: number,
): Promise<StudentLinkView[]> {
  if (!(await findStudent(studio, studentId))) throw notFound('student');
  const rows = (await rowsOf(studio, 'student_links')
    .where({ student_id: studentId })
    .whereNull('revoked_at')
    .where('expires_at', '>', new Date(nowMs))
    .orderBy('created_at', 'desc')
    .select()) as LinkRow[];
  return rows.map((row) => viewOf(row, null));
}

/**
 * Makes a link with a code; the code is told now and never again. A repeated request tells no code.
 * Units:  milliseconds since 1970
 * Errors: Problem not-found, id-taken
 */
export async function addStudentLink(
  studio: Studio,
  studentId: string,
  {
    input,
    secret,
    nowMs,
  }: { readonly input: StudentLinkInput; readonly secret: string; readonly nowMs: number },
): Promise<StudentLinkView> {
  if (!(await findStudent(studio, studentId))) throw notFound('student');
  const code = freshCode();
  const isNew = await insertOnce(studio, 'student_links', {
    id: input.id,
    student_id: studentId,
    code_hash: codeHash(secret, { purpose: 'desk', linkId: input.id, code }),
    created_at: new Date(nowMs),
    expires_at: new Date(nowMs + LINK_MS),
  });
  const row = (await rowsOf(studio, 'student_links')
    .where({ id: input.id, student_id: studentId })
    .first()) as LinkRow | undefined;
  if (!row) throw new Problem('id-taken', 'This link could not be made; reload the page and try again.');
  return viewOf(row, isNew ? shownCode(code) : null);
}

/** Takes a link back: whoever came by it is out at once. Errors: Problem not-found */
export async function revokeStudentLink(studio: Studio, linkId: string, nowMs: number): Promise<void> {
  const isThere = await rowsOf(studio, 'student_links')
    .where({ id: linkId })
    .update({ revoked_at: new Date(nowMs) });
  if (isThere !== 1) throw notFound('link');
}

const DESK_LINKS: LinkKind<LinkRow> = {
  ...{ purpose: 'desk', table: 'student_links', limit: linkLimit('student-link'), find: liveLink },
  wrong:
    'That is not the code of this link. Type the eight letters and digits that stand beside the picture your teacher gave you.',
  gone: 'This link is not good any more: it was taken back, or its time is over. Ask your teacher for a new one; what you logged on this device is kept.',
};

/**
 * Who a link and its code let in. Only wrong tries count, by link and by address.
 * Units:  milliseconds since 1970
 * Errors: Problem link-wrong, the same for a link that is not there and a wrong code; link-gone; too-many
 */
export async function enterByLink(
  db: Knex,
  entry: DeskEntry,
  caller: { readonly secret: string; readonly address: string; readonly nowMs: number },
): Promise<DeskCaller> {
  const row = await openLink(db, DESK_LINKS, { ...entry, ...caller });
  return { studioId: row.studio_id, studentId: row.student_id, linkId: row.id };
}

/** A link of a student and studio that are there; null for any other. */
async function liveLink(db: Knex, linkId: string): Promise<LinkRow | null> {
  const row: unknown = await db('student_links as l')
    .join('students as st', { 'st.id': 'l.student_id', 'st.studio_id': 'l.studio_id' })
    .join('studios as s', 's.id', 'l.studio_id')
    .where('l.id', linkId)
    .whereNull('st.deleted_at')
    .whereNull('s.deleted_at')
    .first('l.*');
  return (row as LinkRow | undefined) ?? null;
}

/**
 * Whether a link still lets its student in: asked at every request, so that one taken back holds nobody in.
 * Units:  milliseconds since 1970
 * Errors: Problem link-gone
 */
export async function refuseGoneLink(
  db: Knex,
  { linkId, studentId }: DeskCaller,
  nowMs: number,
): Promise<void> {
  await goodLink(db, DESK_LINKS, { linkId, isOwn: (link) => link.student_id === studentId, nowMs });
}
