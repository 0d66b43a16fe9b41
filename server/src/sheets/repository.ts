import type { TempoBound, BeatUnit } from '@vivid-cue/core/music';
import type { DeadlineInput, SheetChange, SheetInput, SheetPartInput, SheetView } from '@vivid-cue/contract';
import { insertOnce, rowsOf, type Studio } from '../db/studio.js';

interface SheetRow {
  readonly id: string;
  readonly body: string;
  readonly year: string;
  readonly division: string;
  readonly instrument: string;
  readonly version: number;
}

interface PartRow {
  readonly id: string;
  readonly sheet_id: string;
  readonly kind: SheetPartInput['kind'];
  readonly label: string;
  readonly work_title: string;
  readonly span_from: string | null;
  readonly span_to: string | null;
  readonly beat_unit: BeatUnit | null;
  readonly bpm_min: number | null;
  readonly bpm_max: number | null;
  readonly bound: TempoBound;
  readonly tempo_words: string | null;
}

interface DeadlineRow extends DeadlineInput {
  readonly sheet_id: string;
}

/** The sheet's own columns. */
export async function findSheetRow(studio: Studio, id: string): Promise<SheetRow | null> {
  const columns = ['id', 'body', 'year', 'division', 'instrument', 'version'];
  return (
    ((await rowsOf(studio, 'sheets').where({ id }).whereNull('deleted_at').first(columns)) as
      SheetRow | undefined) ?? null
  );
}

/** A whole sheet, or null. */
export async function findSheet(studio: Studio, id: string): Promise<SheetView | null> {
  const row = await findSheetRow(studio, id);
  if (!row) return null;
  const [deadlines, parts] = [await deadlinesOf(studio, [id]), await partsOf(studio, [id])];
  return { ...row, deadlines: deadlines.map(deadlineView), parts: parts.map(partView) };
}

/** All sheets of the studio, by body. */
export async function listSheetRows(studio: Studio): Promise<SheetRow[]> {
  return (await rowsOf(studio, 'sheets')
    .whereNull('deleted_at')
    .orderBy(['body', 'division', 'instrument'])
    .select('id', 'body', 'year', 'division', 'instrument', 'version')) as SheetRow[];
}

/** How many programs each sheet has. */
export async function countPrograms(studio: Studio): Promise<ReadonlyMap<string, number>> {
  const counts = (await rowsOf(studio, 'programs')
    .whereNull('deleted_at')
    .groupBy('sheet_id')
    .select('sheet_id')
    .count({ n: '*' })) as unknown as { sheet_id: string; n: number }[];
  return new Map(counts.map(({ sheet_id, n }) => [sheet_id, Number(n)]));
}

/** The dates of some sheets in their order. */
export async function deadlinesOf(studio: Studio, sheetIds: readonly string[]): Promise<DeadlineRow[]> {
  return (await rowsOf(studio, 'deadlines')
    .whereIn('sheet_id', sheetIds)
    .orderBy('position')
    .select('id', 'sheet_id', 'kind', 'date', 'time', 'zone')) as DeadlineRow[];
}

/** The parts of some sheets in their order. */
export async function partsOf(studio: Studio, sheetIds: readonly string[]): Promise<PartRow[]> {
  const columns = [
    'id',
    'sheet_id',
    'kind',
    'label',
    'work_title',
    'span_from',
    'span_to',
    'beat_unit',
    'bpm_min',
    'bpm_max',
    'bound',
    'tempo_words',
  ];
  return (await rowsOf(studio, 'sheet_parts')
    .whereIn('sheet_id', sheetIds)
    .whereNull('deleted_at')
    .orderBy('position')
    .select(columns)) as PartRow[];
}

function deadlineView({ id, kind, date, time, zone }: DeadlineRow): DeadlineInput {
  return { id, kind, date, time, zone };
}

/** A part as the contract shows it. */
export function partView(row: PartRow): SheetPartInput {
  return {
    id: row.id,
    kind: row.kind,
    label: row.label,
    workTitle: row.work_title,
    from: row.span_from,
    to: row.span_to,
    tempo: {
      beatUnit: row.beat_unit,
      bpmMin: row.bpm_min,
      bpmMax: row.bpm_max,
      bound: row.bound,
      words: row.tempo_words,
    },
  };
}

/** Adds a sheet once, with its dates and parts. Call inside a transaction. */
export async function insertSheet(studio: Studio, input: SheetInput, now: Date): Promise<boolean> {
  const { id, body, year, division, instrument } = input;
  const isNew = await insertOnce(studio, 'sheets', { id, body, year, division, instrument, created_at: now });
  if (isNew) await writeChildren(studio, id, input, now);
  return isNew;
}

/** Changes a sheet made on a version; false when that version is not the current one. Call inside a transaction. */
export async function updateSheet(
  studio: Studio,
  id: string,
  version: number,
  change: SheetChange,
  now: Date,
): Promise<boolean> {
  const { body, year, division, instrument } = change;
  const changed = await rowsOf(studio, 'sheets')
    .where({ id, version })
    .whereNull('deleted_at')
    .update({ body, year, division, instrument, version: version + 1 });
  if (changed !== 1) return false;
  await rowsOf(studio, 'deadlines').where({ sheet_id: id }).delete();
  await writeChildren(studio, id, change, now);
  return true;
}

async function writeChildren(studio: Studio, sheetId: string, sheet: SheetChange, now: Date): Promise<void> {
  const deadlines = sheet.deadlines.map(({ id, kind, date, time, zone }, position) => ({
    id,
    studio_id: studio.id,
    sheet_id: sheetId,
    position,
    kind,
    date,
    time,
    zone,
  }));
  await studio.db('deadlines').insert(deadlines);
  const rows = sheet.parts.map((part, position) => partRow(studio, sheetId, part, position));
  // A part that another sheet owns is never taken over: the key clashes and its sheet does not match.
  const owned = (await rowsOf(studio, 'sheet_parts').where({ sheet_id: sheetId }).select('id')) as {
    id: string;
  }[];
  const known = new Set(owned.map(({ id }) => id));
  for (const row of rows) {
    if (known.has(row.id))
      await rowsOf(studio, 'sheet_parts')
        .where({ id: row.id, sheet_id: sheetId })
        .update({ ...row, deleted_at: null });
    else await studio.db('sheet_parts').insert(row);
  }
  await rowsOf(studio, 'sheet_parts')
    .where({ sheet_id: sheetId })
    .whereNotIn(
      'id',
      rows.map(({ id }) => id),
    )
    .update({ deleted_at: now });
}

function partRow(
  studio: Studio,
  sheetId: string,
  part: SheetPartInput,
  position: number,
): { readonly id: string } & Record<string, unknown> {
  const { tempo } = part;
  return {
    id: part.id,
    studio_id: studio.id,
    sheet_id: sheetId,
    position,
    kind: part.kind,
    label: part.label,
    work_title: part.workTitle,
    span_from: part.from,
    span_to: part.to,
    beat_unit: tempo.beatUnit,
    bpm_min: tempo.bpmMin,
    bpm_max: tempo.bpmMax,
    bound: tempo.bound,
    tempo_words: tempo.words,
  };
}

export type { DeadlineRow, PartRow, SheetRow };
