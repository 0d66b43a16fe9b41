import type { DraftView } from '@vivid-cue/contract';
import { insertOnce, rowsOf, together, type Studio } from '../db/studio.js';
import { notFound, Problem } from '../http/problem.js';
import { findSheetRow } from '../published/repository.js';

interface DraftRow {
  readonly sheet_id: string;
  readonly version: number;
  readonly saved_at: Date;
  readonly state: string;
}

/**
 * What stands on the desk of a sheet, or of a new one under the studio's own identifier.
 * Shape:  null where nothing is kept
 * Errors: Problem not-found
 */
export async function readDraft(studio: Studio, sheetId: string): Promise<DraftView | null> {
  await refuseStrangers(studio, sheetId);
  return current(studio, sheetId);
}

/**
 * Keeps what stands on a desk over what was kept at that version; any where nothing was.
 * Shape:  the draft without waiting for anything else
 * Units:  milliseconds since 1970
 * Errors: Problem not-found; version-stale where another desk was faster, with its draft
 */
export async function keepDraft(
  studio: Studio,
  { sheetId, version, state }: { readonly sheetId: string; readonly version: number; readonly state: string },
  nowMs: number,
): Promise<DraftView> {
  await refuseStrangers(studio, sheetId);
  return together(studio, async (inside) => {
    const before = await current(inside, sheetId, true);
    if (before !== null && before.version !== version) throw stale(before);
    const next = before === null ? 1 : before.version + 1;
    const row = { version: next, saved_at: new Date(nowMs), state };
    if (before === null) {
      const isNew = await insertOnce(inside, 'sheet_drafts', { sheet_id: sheetId, ...row });
      if (!isNew) throw stale(await current(inside, sheetId));
    } else await rowsOf(inside, 'sheet_drafts').where({ sheet_id: sheetId }).update(row);
    return { sheetId, version: next, savedAt: nowMs, state };
  });
}

/**
 * Throws a draft away: it was saved, or is not wanted.
 * Errors: Problem not-found
 */
export async function dropDraft(studio: Studio, sheetId: string): Promise<void> {
  await refuseStrangers(studio, sheetId);
  await rowsOf(studio, 'sheet_drafts').where({ sheet_id: sheetId }).delete();
}

function stale(draft: DraftView | null): Problem {
  return new Problem('version-stale', 'Somebody else worked at this desk; theirs and yours are both kept.', {
    current: draft,
  });
}

async function refuseStrangers(studio: Studio, sheetId: string): Promise<void> {
  if (sheetId !== studio.id && (await findSheetRow(studio, sheetId)) === null) throw notFound('sheet');
}

async function current(studio: Studio, sheetId: string, lock = false): Promise<DraftView | null> {
  const query = rowsOf<DraftRow>(studio, 'sheet_drafts').where({ sheet_id: sheetId }).first();
  const row = (await (lock ? query.forUpdate() : query)) as DraftRow | undefined;
  return row
    ? { sheetId: row.sheet_id, version: row.version, savedAt: row.saved_at.getTime(), state: row.state }
    : null;
}
