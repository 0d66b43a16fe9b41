import { v7 as newId } from 'uuid';
import type { SheetPart } from '@vivid-cue/core/sheet';
import type { AskedQuestion, ChoiceInput, DeadlineInput, SheetChange, SheetInput } from '@vivid-cue/contract';
import { insertOnce, rowsOf, type Studio } from '../db/studio.js';
import {
  isSamePart,
  PART_COLUMNS,
  partRow,
  partView,
  type PartRow,
  type RevisionPlace,
} from './sheet-part.js';

/** A sheet with the revision that holds now. */
export interface SheetRow {
  readonly id: string;
  readonly body: string;
  readonly year: string;
  readonly division: string;
  readonly instrument: string;
  readonly version: number;
  readonly revision_id: string;
}

/** A date of a revision. */
export interface DeadlineRow extends DeadlineInput {
  readonly revision_id: string;
  readonly endDate: string | null;
  readonly text: string | null;
}

/** What of a revision is neither date nor part. */
export interface Extras {
  readonly choices: readonly ChoiceInput[];
  readonly notes: readonly { readonly kind: string; readonly text: string }[];
  readonly questions: readonly AskedQuestion[];
  readonly told?: SheetChange['told'];
}

/** A revision without its children. */
export interface RevisionRow {
  readonly id: string;
  readonly sheet_id: string;
  readonly number: number;
  readonly issued_on: string | null;
  readonly note: string;
  readonly published_text: string | null;
  readonly extras: Extras;
}

const SHEET_COLUMNS = [
  'id',
  'body',
  'year',
  'division',
  'instrument',
  'version',
  { revision_id: 'current_revision_id' },
];

/** The sheet's own columns, null where it is removed; `lock` holds its row until the transaction ends. */
export async function findSheetRow(studio: Studio, id: string, lock = false): Promise<SheetRow | null> {
  const query = rowsOf(studio, 'sheets').where({ id }).whereNull('deleted_at').first(SHEET_COLUMNS);
  return ((await (lock ? query.forUpdate() : query)) as SheetRow | undefined) ?? null;
}

/** All sheets of the studio, by body. */
export async function listSheetRows(studio: Studio): Promise<SheetRow[]> {
  return (await rowsOf(studio, 'sheets')
    .whereNull('deleted_at')
    .orderBy(['body', 'division', 'instrument'])
    .select(SHEET_COLUMNS)) as unknown as SheetRow[];
}

/** How many programs stand on each revision. */
export async function countPrograms(studio: Studio): Promise<ReadonlyMap<string, number>> {
  const counts = (await rowsOf(studio, 'programs as p')
    .join('students as st', 'st.id', 'p.student_id')
    .whereNull('p.deleted_at')
    .whereNull('st.deleted_at')
    .groupBy('p.revision_id')
    .select('p.revision_id')
    .count({ n: '*' })) as unknown as { revision_id: string; n: number }[];
  return new Map(counts.map(({ revision_id, n }) => [revision_id, Number(n)]));
}

/** The revisions of some sheets, oldest first. */
export function revisionsOf(studio: Studio, sheetIds: readonly string[]): Promise<RevisionRow[]> {
  return revisionRows(studio, 'sheet_id', sheetIds);
}

/** Some revisions by their identifiers. */
export function revisionsById(studio: Studio, ids: readonly string[]): Promise<RevisionRow[]> {
  return revisionRows(studio, 'id', ids);
}

async function revisionRows(
  studio: Studio,
  column: 'id' | 'sheet_id',
  ids: readonly string[],
): Promise<RevisionRow[]> {
  const rows = (await rowsOf(studio, 'sheet_revisions')
    .whereIn(column, ids)
    .orderBy('number')
    .select('id', 'sheet_id', 'number', 'issued_on', 'note', 'published_text', 'extras')) as unknown as (Omit<
    RevisionRow,
    'extras'
  > & { readonly extras: string })[];
  return rows.map((row) => ({ ...row, extras: JSON.parse(row.extras) as Extras }));
}

/** The dates of some revisions in their order. */
export async function deadlinesOf(studio: Studio, revisionIds: readonly string[]): Promise<DeadlineRow[]> {
  return (await rowsOf(studio, 'deadlines')
    .whereIn('revision_id', revisionIds)
    .orderBy('position')
    .select(
      'id',
      'revision_id',
      'kind',
      'date',
      { endDate: 'end_date' },
      'time',
      'zone',
      'text',
    )) as unknown as DeadlineRow[];
}

/** The parts of some revisions in their order. */
export async function partsOf(studio: Studio, revisionIds: readonly string[]): Promise<PartRow[]> {
  return (await rowsOf(studio, 'sheet_parts')
    .whereIn('revision_id', revisionIds)
    .whereNull('deleted_at')
    .orderBy('position')
    .select(PART_COLUMNS)) as PartRow[];
}

/** A date as the contract shows it. */
export function deadlineView({ id, kind, date, endDate, time, zone, text }: DeadlineRow): DeadlineInput {
  return { id, kind, date, endDate, time, zone, text };
}

/** Adds a sheet once, with its first revision. Call inside a transaction. */
export async function insertSheet(
  studio: Studio,
  input: SheetInput,
  { revisionId, now }: { readonly revisionId: string; readonly now: Date },
): Promise<boolean> {
  const { id, body, year, division, instrument } = input;
  const head = { id, body, year, division, instrument, current_revision_id: revisionId, created_at: now };
  if (!(await insertOnce(studio, 'sheets', head))) return false;
  await insertRevision(
    studio,
    { id: revisionId, sheetId: id, number: 1, issuedOn: null, note: '' },
    { sheet: input, now },
  );
  return true;
}

/** A revision to add. */
export interface NewRevision {
  readonly id: string;
  readonly sheetId: string;
  readonly number: number;
  readonly issuedOn: string | null;
  readonly note: string;
}

/** Adds a revision with its dates and parts. Call inside a transaction. */
export async function insertRevision(
  studio: Studio,
  { id, sheetId, number, issuedOn, note }: NewRevision,
  { sheet, now }: { readonly sheet: SheetChange; readonly now: Date },
): Promise<boolean> {
  const isNew = await insertOnce(studio, 'sheet_revisions', {
    id,
    sheet_id: sheetId,
    number,
    issued_on: issuedOn,
    note,
    published_text: sheet.publishedText ?? null,
    extras: extrasText(sheet),
    created_at: now,
  });
  if (!isNew) return false;
  await writeDeadlines(studio, sheetId, { revisionId: id, deadlines: sheet.deadlines });
  await insertParts(
    studio,
    { sheetId, revisionId: id },
    sheet.parts.map((part, position) => ({ part, position })),
  );
  return true;
}

async function insertParts(
  studio: Studio,
  place: RevisionPlace,
  parts: readonly { readonly part: SheetPart; readonly position: number }[],
): Promise<void> {
  const rows = parts.map(({ part, position }) => ({
    id: newId(),
    ...partRow(studio, place, { part, position }),
  }));
  if (rows.length > 0) await studio.db('sheet_parts').insert(rows);
}

function extrasText({ choices, notes, questions, told }: SheetChange): string {
  return JSON.stringify({
    choices: choices ?? [],
    notes: notes ?? [],
    questions: questions ?? [],
    told: told ?? null,
  });
}

/** Sets the heading of a sheet and the revision that holds; false when the version is not the current one. */
export async function updateSheet(
  studio: Studio,
  { id, version, revisionId }: { readonly id: string; readonly version: number; readonly revisionId: string },
  { body, year, division, instrument }: SheetChange,
): Promise<boolean> {
  const changed = await rowsOf(studio, 'sheets')
    .where({ id, version })
    .whereNull('deleted_at')
    .update({ body, year, division, instrument, current_revision_id: revisionId, version: version + 1 });
  return changed === 1;
}

/** Writes dates, parts and the rest over those of a revision. Call inside a transaction. */
export async function rewriteRevision(
  studio: Studio,
  { sheetId, revisionId }: { readonly sheetId: string; readonly revisionId: string },
  { sheet, now }: { readonly sheet: SheetChange; readonly now: Date },
): Promise<void> {
  const extras: Record<string, unknown> = { extras: extrasText(sheet) };
  if (sheet.publishedText !== undefined) extras['published_text'] = sheet.publishedText;
  await rowsOf(studio, 'sheet_revisions').where({ id: revisionId }).update(extras);
  await rowsOf(studio, 'deadlines').where({ revision_id: revisionId }).delete();
  await writeDeadlines(studio, sheetId, { revisionId, deadlines: sheet.deadlines });
  await rewriteParts(studio, { sheetId, revisionId }, { parts: sheet.parts, now });
}

/** Rows of parts that stay are changed where they differ, new ones added, the others marked as removed. */
async function rewriteParts(
  studio: Studio,
  place: RevisionPlace,
  { parts, now }: { readonly parts: readonly SheetPart[]; readonly now: Date },
): Promise<void> {
  const { revisionId } = place;
  const owned = (await rowsOf(studio, 'sheet_parts')
    .where({ revision_id: revisionId })
    .select(...PART_COLUMNS, 'position', 'deleted_at')) as (PartRow & {
    readonly position: number;
    readonly deleted_at: Date | null;
  })[];
  const known = new Map(owned.map((row) => [row.origin_id, row]));
  const fresh: { part: SheetPart; position: number }[] = [];
  for (const [position, part] of parts.entries()) {
    const row = known.get(part.id);
    if (!row) fresh.push({ part, position });
    else if (row.deleted_at !== null || row.position !== position || !isSamePart(partView(row), part))
      await rowsOf(studio, 'sheet_parts')
        .where({ id: row.id, revision_id: revisionId })
        .update({ ...partRow(studio, place, { part, position }), deleted_at: null });
  }
  await insertParts(studio, place, fresh);
  await rowsOf(studio, 'sheet_parts')
    .where({ revision_id: revisionId })
    .whereNull('deleted_at')
    .whereNotIn(
      'origin_id',
      parts.map(({ id }) => id),
    )
    .update({ deleted_at: now });
}

async function writeDeadlines(
  studio: Studio,
  sheetId: string,
  { revisionId, deadlines }: { readonly revisionId: string; readonly deadlines: readonly DeadlineInput[] },
): Promise<void> {
  const rows = deadlines.map(({ id, kind, date, endDate, time, zone, text }, position) => ({
    id,
    studio_id: studio.id,
    sheet_id: sheetId,
    revision_id: revisionId,
    position,
    kind,
    date,
    end_date: endDate ?? null,
    time,
    zone,
    text: text ?? null,
  }));
  if (rows.length > 0) await studio.db('deadlines').insert(rows);
}

/** Removes a sheet, or takes the removal back; false where it is not there. */
export async function markSheet(studio: Studio, id: string, deletedAt: Date | null): Promise<boolean> {
  return (await rowsOf(studio, 'sheets').where({ id }).update({ deleted_at: deletedAt })) === 1;
}

/** A program on a sheet with its student and the revision it stands on. */
export interface ProgramOnSheet {
  readonly id: string;
  readonly student_id: string;
  readonly student_name: string;
  readonly revision_id: string;
}

/** The programs of a sheet that are not removed. */
export async function programsOnSheet(studio: Studio, sheetId: string): Promise<ProgramOnSheet[]> {
  return (await rowsOf(studio, 'programs as p')
    .join('students as st', 'st.id', 'p.student_id')
    .where('p.sheet_id', sheetId)
    .whereNull('p.deleted_at')
    .whereNull('st.deleted_at')
    .orderBy('st.name')
    .select(
      'p.id',
      'p.student_id',
      { student_name: 'st.name' },
      'p.revision_id',
    )) as unknown as ProgramOnSheet[];
}
