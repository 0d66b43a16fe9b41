import { rowsOf, type Studio } from '../db/studio.js';
import { Problem } from '../http/problem.js';

/** Scores of one studio (our own limit). */
const MOST_SCORES = 2000;
const MEGABYTE = 1024 * 1024;

/**
 * Refuses more scores and pages to a studio that has as many, or as large ones, as it may have.
 * Units:  bytes as stored
 * Errors: Problem too-large
 */
export async function refuseFullStudio(studio: Studio, mostBytes: number): Promise<void> {
  const [scores, pages] = await Promise.all([stored(studio, 'scores'), stored(studio, 'pages')]);
  const has =
    scores.count >= MOST_SCORES
      ? `${MOST_SCORES} scores`
      : scores.bytes + pages.bytes >= mostBytes
        ? `${Math.round(mostBytes / MEGABYTE)} MB of scores and pages`
        : null;
  if (has !== null)
    throw new Problem(
      'too-large',
      `This studio has ${has}, as many as it may have; erase students who have left, and what only they played from goes along.`,
    );
}

/** How many rows of a table a studio has, and how much room they take. Units: bytes as stored */
async function stored(
  studio: Studio,
  table: string,
): Promise<{ readonly count: number; readonly bytes: number }> {
  const [row] = (await rowsOf(studio, table)
    .count({ count: '*' })
    .sum({ bytes: 'stored_bytes' })) as unknown as { count: number; bytes: string | number | null }[];
  return { count: Number(row?.count), bytes: Number(row?.bytes ?? 0) };
}
