import type { ScoreDigest } from '@vivid-cue/core/score';
import { insertOnce, rowsOf, type Studio } from '../db/studio.js';
import { writeMeasureMap } from './measure-map.js';

/** A score without its file. */
export interface ScoreRow {
  readonly id: string;
  readonly file_name: string;
  readonly part_id: string;
  readonly digest: string;
}

/** A work by its title, made on first use. Gives its identifier. */
export async function workIdFor(
  studio: Studio,
  title: string,
  fresh: { readonly id: string; readonly now: Date },
): Promise<string> {
  await insertOnce(studio, 'works', { id: fresh.id, title, created_at: fresh.now });
  const row = (await rowsOf(studio, 'works').where({ title }).first('id')) as { id: string } | undefined;
  return row?.id ?? fresh.id;
}

/** What an upload brings. */
export interface NewScore {
  readonly id: string;
  readonly workId: string;
  readonly fileName: string;
  readonly file: Buffer;
  readonly sha256: string;
  readonly digest: ScoreDigest;
}

/** Stores a score as uploaded and as parsed, once. */
export function insertScore(studio: Studio, score: NewScore, now: Date): Promise<boolean> {
  return insertOnce(studio, 'scores', {
    id: score.id,
    work_id: score.workId,
    file_name: score.fileName,
    file: score.file,
    file_sha256: score.sha256,
    ...parsedColumns(score.digest),
    created_at: now,
  });
}

/** Stores another part of the same file as the chosen one. */
export async function updateDigest(studio: Studio, id: string, digest: ScoreDigest): Promise<void> {
  await rowsOf(studio, 'scores').where({ id }).update(parsedColumns(digest));
}

function parsedColumns(digest: ScoreDigest): Readonly<Record<string, unknown>> {
  return {
    part_id: digest.partId,
    title: digest.title?.slice(0, 200) ?? null,
    digest: JSON.stringify(digest),
    measure_map: writeMeasureMap(digest),
  };
}

/** One score, or null. */
export async function findScore(studio: Studio, id: string): Promise<ScoreRow | null> {
  return (
    ((await rowsOf(studio, 'scores').where({ id }).first('id', 'file_name', 'part_id', 'digest')) as
      ScoreRow | undefined) ?? null
  );
}

/** The file as uploaded, or null. */
export async function findFile(
  studio: Studio,
  id: string,
): Promise<{ readonly file: Buffer; readonly file_name: string } | null> {
  return (
    ((await rowsOf(studio, 'scores').where({ id }).first('file', 'file_name')) as
      { file: Buffer; file_name: string } | undefined) ?? null
  );
}

/** Gives a score to a program's part, and to the same sheet part of other programs that have none yet. */
export async function attachScore(
  studio: Studio,
  programPartId: string,
  sheetPartId: string,
  scoreId: string,
): Promise<void> {
  await rowsOf(studio, 'program_parts').where({ id: programPartId }).update({ score_id: scoreId });
  await rowsOf(studio, 'program_parts')
    .where({ sheet_part_id: sheetPartId })
    .whereNull('score_id')
    .update({ score_id: scoreId });
}
