import { rowsOf, type Studio } from '../db/studio.js';
import { Problem } from '../http/problem.js';

/** Scores of one studio (our own limit). */
const MOST_SCORES = 2000;
const MEGABYTE = 1024 * 1024;

/**
 * Refuses more scores to a studio that has as many, or as large ones, as it may have.
 * Units:  bytes as stored
 * Errors: Problem too-large
 */
export async function refuseFullStudio(studio: Studio, mostBytes: number): Promise<void> {
  const [row] = (await rowsOf(studio, 'scores')
    .count({ scores: '*' })
    .sum({ bytes: 'stored_bytes' })) as unknown as { scores: number; bytes: string | number | null }[];
  const has =
    Number(row?.scores) >= MOST_SCORES
      ? `${MOST_SCORES} scores`
      : Number(row?.bytes) >= mostBytes
        ? `${Math.round(mostBytes / MEGABYTE)} MB of scores`
        : null;
  if (has !== null)
    throw new Problem(
      'too-large',
      `This studio has ${has}, as many as it may have; erase students who have left, and what only they played from goes along.`,
    );
}
