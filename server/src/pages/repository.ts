import type { Knex } from 'knex';
import type { PageSize } from '@vivid-cue/contract';
import { insertOnce, rowsOf, type Studio } from '../db/studio.js';
import type { PagePictures } from './pictures.js';

/** So much of a picture goes into one statement. Units: bytes (our own) */
const CHUNK_BYTES = 512 * 1024;

/** A page that is to be kept. */
export interface NewPage {
  readonly id: string;
  readonly programPartId: string;
  readonly pictures: PagePictures;
  readonly sha256: string;
}

/** Keeps a page. Shape: false where the identifier stands for one already */
export async function insertPage(
  studio: Studio,
  { id, programPartId, pictures: { width, height, files }, sha256 }: NewPage,
  now: Date,
): Promise<boolean> {
  const sizes = Object.entries(files);
  const isNew = await insertOnce(studio, 'pages', {
    ...{ id, program_part_id: programPartId, width, height, sha256 },
    stored_bytes: sizes.reduce((sum, [, { length }]) => sum + length, 0),
    created_at: now,
  });
  if (!isNew) return false;
  for (const [size, file] of sizes)
    for (let n = 0; n * CHUNK_BYTES < file.length; n += 1) {
      const data = file.subarray(n * CHUNK_BYTES, (n + 1) * CHUNK_BYTES);
      await studio.db('page_chunks').insert({ page_id: id, studio_id: studio.id, size, n, data });
    }
  return true;
}

/** A page without its pictures. Units: pixels */
export interface PageRow {
  readonly id: string;
  readonly width: number;
  readonly height: number;
  readonly sha256: string;
}

/** One page, or null. */
export async function findPage(studio: Studio, id: string): Promise<PageRow | null> {
  const row = (await rowsOf(studio, 'pages').where({ id }).first('id', 'width', 'height', 'sha256')) as
    PageRow | undefined;
  return row ?? null;
}

/** A page's picture in one size, or null. Shape: JPEG */
export async function findPicture(studio: Studio, id: string, size: PageSize): Promise<Buffer | null> {
  const chunks = (await rowsOf(studio, 'page_chunks')
    .where({ page_id: id, size })
    .orderBy('n')
    .select('data')) as { readonly data: Buffer }[];
  return chunks.length === 0 ? null : Buffer.concat(chunks.map(({ data }) => data));
}

/** Which of some pages the studio has. */
export async function knownPages(studio: Studio, ids: readonly string[]): Promise<ReadonlySet<string>> {
  const rows = (await rowsOf(studio, 'pages').whereIn('id', ids).select('id')) as { readonly id: string }[];
  return new Set(rows.map(({ id }) => id));
}

/** Gives pages to a score. */
export async function givePages(studio: Studio, scoreId: string, pageIds: readonly string[]): Promise<void> {
  for (const id of new Set(pageIds))
    await insertOnce(studio, 'score_pages', { score_id: scoreId, page_id: id });
}

/** Pages that were brought for a part and belong to no score yet. Units: bytes as stored */
export async function waitingPages(
  studio: Studio,
  programPartId: string,
): Promise<{ readonly count: number; readonly bytes: number }> {
  const [row] = (await unused(rowsOf(studio, 'pages').where({ program_part_id: programPartId }))
    .count({ count: '*' })
    .sum({ bytes: 'stored_bytes' })) as unknown as { count: number; bytes: string | null }[];
  return { count: Number(row?.count), bytes: Number(row?.bytes ?? 0) };
}

/** The pages of some scores. Shape: `links` are rows of score_pages */
export async function pagesOfScores(
  links: Knex.QueryBuilder,
  scoreIds: readonly string[],
): Promise<string[]> {
  const rows = (await links.whereIn('score_id', scoreIds).distinct('page_id')) as unknown as {
    readonly page_id: string;
  }[];
  return rows.map(({ page_id: id }) => id);
}

/** Deletes those of some pages that belong to no score, with their pictures. */
export function dropUnusedPages(pages: Knex.QueryBuilder): Promise<number> {
  return unused(pages).delete() as unknown as Promise<number>;
}

function unused(pages: Knex.QueryBuilder): Knex.QueryBuilder {
  return pages.whereRaw('NOT EXISTS (SELECT 1 FROM score_pages WHERE score_pages.page_id = pages.id)');
}
