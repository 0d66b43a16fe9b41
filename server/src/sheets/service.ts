import { v7 as newId } from 'uuid';
import { groupBy } from '@vivid-cue/core/base';
import {
  daysLeft,
  dueMoment,
  type SheetChange,
  type SheetInput,
  type SheetLine,
  type SheetRemovalView,
  type SheetView,
} from '@vivid-cue/contract';
import { together, type Studio } from '../db/studio.js';
import { notFound, Problem } from '../http/problem.js';
import { addMissingParts, withTargets } from '../programs/service.js';
import {
  countPrograms,
  deadlinesOf,
  findSheetRow,
  insertSheet,
  listSheetRows,
  markSheet,
  partsOf,
  programsOnSheet,
  revisionsOf,
  rewriteRevision,
  updateSheet,
} from '../published/repository.js';
import { nextDeadline, readSheet, sheetTitle } from '../published/sheet-view.js';
import { studioFacts } from '../studio/facts.js';

/**
 * All sheets with what they count and their next date.
 * Shape:  by body
 * Units:  milliseconds since 1970
 */
export async function listSheets(studio: Studio, nowMs: number): Promise<SheetLine[]> {
  const rows = await listSheetRows(studio);
  const current = rows.map(({ revision_id }) => revision_id);
  const [deadlines, parts, revisions, programs, { zone }] = [
    groupBy(await deadlinesOf(studio, current), ({ revision_id }) => revision_id),
    groupBy(await partsOf(studio, current), ({ revision_id }) => revision_id),
    groupBy(
      await revisionsOf(
        studio,
        rows.map(({ id }) => id),
      ),
      ({ sheet_id }) => sheet_id,
    ),
    await countPrograms(studio),
    await studioFacts(studio),
  ];
  return rows.map((row) => {
    const next = nextDeadline(deadlines.get(row.revision_id) ?? [], nowMs);
    const moment = next && dueMoment(next);
    const own = revisions.get(row.id) ?? [];
    const all = own.reduce((sum, { id }) => sum + (programs.get(id) ?? 0), 0);
    const now = own.find(({ id }) => id === row.revision_id);
    return {
      id: row.id,
      title: sheetTitle(row),
      instrument: row.instrument,
      parts: parts.get(row.revision_id)?.length ?? 0,
      programs: all,
      revision: now?.number ?? 1,
      behind: all - (programs.get(row.revision_id) ?? 0),
      openQuestions: now?.extras.questions.filter(({ answer }) => answer === null).length ?? 0,
      next: next && moment && { what: next.kind, daysLeft: daysLeft(moment, nowMs, zone) },
    };
  });
}

/**
 * Adds a sheet; the same identifier twice makes one.
 * Shape:  the sheet as stored
 * Units:  milliseconds since 1970
 * Errors: Problem input-invalid, id-taken
 */
export async function addSheet(studio: Studio, input: SheetInput, nowMs: number): Promise<SheetView> {
  if (await findSheetRow(studio, input.id)) return readSheet(studio, input.id);
  refuseRepeatedIds(input);
  await together(studio, (inside) =>
    insertSheet(inside, input, { revisionId: newId(), now: new Date(nowMs) }),
  );
  if (!(await findSheetRow(studio, input.id)))
    throw new Problem('id-taken', 'This sheet could not be added; reload the page and try again.');
  return readSheet(studio, input.id);
}

/** An edit with the version it was made on. */
export interface SheetEdit {
  readonly id: string;
  readonly version: number;
  readonly change: SheetChange;
}

/**
 * Corrects the current revision of a sheet; its programs get parts that are new and follow tempos that moved.
 * Shape:  the sheet as stored
 * Units:  milliseconds since 1970
 * Errors: Problem not-found, version-stale, input-invalid
 */
export async function changeSheet(studio: Studio, edit: SheetEdit, nowMs: number): Promise<SheetView> {
  const { id, version, change } = edit;
  const before = await readSheet(studio, id);
  refuseRepeatedIds(change);
  const revisionId = before.revision.id;
  const isChanged = await together(studio, async (inside) => {
    if (!(await updateSheet(inside, { id, version, revisionId }, change))) return false;
    await withTargets(inside, { revisionId }, async () => {
      await rewriteRevision(inside, { sheetId: id, revisionId }, { sheet: change, now: new Date(nowMs) });
      await addMissingParts(inside, revisionId);
    });
    return true;
  });
  const current = await readSheet(studio, id);
  if (!isChanged) throw staleSheet(current);
  return current;
}

/** The refusal of an edit made on an older version. */
export function staleSheet(current: SheetView): Problem {
  return new Problem(
    'version-stale',
    'This sheet was changed in another window meanwhile; look at both and save again.',
    { current },
  );
}

/**
 * Removes a sheet with its programs, until it is restored.
 * Shape:  whose programs go along
 * Units:  milliseconds since 1970
 * Errors: Problem not-found
 */
export async function removeSheet(studio: Studio, id: string, nowMs: number): Promise<SheetRemovalView> {
  if (!(await findSheetRow(studio, id))) throw notFound('sheet');
  const programs = await programsOnSheet(studio, id);
  await markWithPractices(studio, id, new Date(nowMs));
  return { programs: programs.map(({ student_name: studentName }) => ({ studentName })) };
}

/**
 * Takes the removal of a sheet back.
 * Errors: Problem not-found
 */
export function restoreSheet(studio: Studio, id: string): Promise<void> {
  return markWithPractices(studio, id, null);
}

/** What a removed sheet asked no longer counts for its programs' passages, and counts again when it comes back. */
async function markWithPractices(studio: Studio, id: string, deletedAt: Date | null): Promise<void> {
  await together(studio, async (inside) => {
    const programIds = (await programsOnSheet(inside, id)).map((program) => program.id);
    await withTargets(inside, { programIds }, async () => {
      if (!(await markSheet(inside, id, deletedAt))) throw notFound('sheet');
    });
  });
}

/** Refuses a sheet of which two lines carry one identifier. */
export function refuseRepeatedIds({ deadlines, parts }: SheetChange): void {
  for (const list of [deadlines, parts]) {
    if (new Set(list.map(({ id }) => id)).size !== list.length)
      throw new Problem(
        'input-invalid',
        'Two lines of the sheet carry the same identifier; reload the page and try again.',
      );
  }
}
