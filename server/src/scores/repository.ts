import type { NumberRestart } from '@vivid-cue/core/score';
import { packed, unpacked } from '../db/packed.js';
import { insertOnce, rowsOf, type Studio } from '../db/studio.js';
import { Problem } from '../http/problem.js';
import { writeMeasureMap, type StoredDigest } from '../practice/measure-map.js';

/** A score without its file. */
export interface ScoreRow {
  readonly id: string;
  readonly file_name: string;
  readonly part_id: string;
  readonly digest: string;
  readonly numbering: string | null;
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
  readonly file: Uint8Array;
  readonly sha256: string;
  readonly digest: StoredDigest;
  readonly numbering?: readonly NumberRestart[];
}

/**
 * Stores a score as uploaded and as parsed, once.
 * Errors: Problem id-taken where the identifier stands for other music, or for another studio's
 */
export async function insertScore(studio: Studio, score: NewScore, now: Date): Promise<void> {
  const isNew = await insertOnce(studio, 'scores', {
    id: score.id,
    work_id: score.workId,
    file_name: score.fileName,
    file: await packed(score.file),
    file_sha256: score.sha256,
    ...parsedColumns(score.digest),
    numbering: numberingText(score.numbering ?? []),
    created_at: now,
  });
  if (isNew) return;
  const known: unknown = await rowsOf(studio, 'scores')
    .where({ id: score.id, file_sha256: score.sha256 })
    .first('id');
  if (known === undefined)
    throw new Problem('id-taken', 'This score could not be stored; reload the page and try again.');
}

/** Stores another reading of the same file: another part, or another numbering. */
export async function updateDigest(
  studio: Studio,
  id: string,
  { digest, numbering }: { readonly digest: StoredDigest; readonly numbering: readonly NumberRestart[] },
): Promise<void> {
  await rowsOf(studio, 'scores')
    .where({ id })
    .update({ ...parsedColumns(digest), numbering: numberingText(numbering) });
}

function numberingText(restarts: readonly NumberRestart[]): string | null {
  return restarts.length === 0 ? null : JSON.stringify(restarts.map(({ index, number }) => [index, number]));
}

/** The numbering as stored, read back. */
export function readNumbering(text: string | null): NumberRestart[] {
  if (text === null) return [];
  return (JSON.parse(text) as [number, number][]).map(([index, number]) => ({ index, number }));
}

function parsedColumns(digest: StoredDigest): Readonly<Record<string, unknown>> {
  return {
    part_id: digest.partId,
    title: digest.title?.slice(0, 200) ?? null,
    digest: JSON.stringify(digest),
    measure_map: writeMeasureMap(digest),
  };
}

/** Some scores by their identifiers. */
export async function findScores(
  studio: Studio,
  ids: readonly string[],
): Promise<ReadonlyMap<string, ScoreRow>> {
  const rows = (await rowsOf(studio, 'scores')
    .whereIn('id', ids)
    .select('id', 'file_name', 'part_id', 'digest', 'numbering')) as ScoreRow[];
  return new Map(rows.map((row) => [row.id, row]));
}

/** One score, or null. */
export async function findScore(studio: Studio, id: string): Promise<ScoreRow | null> {
  return (await findScores(studio, [id])).get(id) ?? null;
}

/** A score's file, and how it is read. */
export interface StoredFile {
  readonly file: Buffer;
  readonly file_name: string;
  readonly part_id: string;
  readonly numbering: string | null;
}

/** The file as uploaded, or null. */
export async function findFile(studio: Studio, id: string): Promise<StoredFile | null> {
  const row = (await rowsOf(studio, 'scores')
    .where({ id })
    .first('file', 'file_name', 'part_id', 'numbering')) as StoredFile | undefined;
  return row ? { ...row, file: await unpacked(row.file) } : null;
}

/** Gives a score to one part of one program. */
export async function attachTo(studio: Studio, programPartId: string, scoreId: string): Promise<void> {
  await rowsOf(studio, 'program_parts').where({ id: programPartId }).update({ score_id: scoreId });
}

/**
 * Gives a score to a program's part, to every part in which the student practised the score before, and to the same sheet
 * part of other programs that have none yet.
 */
export async function attachScore(
  studio: Studio,
  part: {
    readonly program_part_id: string;
    readonly id: string;
    readonly score_id: string | null;
    readonly student_id: string;
  },
  scoreId: string,
): Promise<void> {
  await attachTo(studio, part.program_part_id, scoreId);
  if (part.score_id !== null)
    await rowsOf(studio, 'program_parts')
      .where({ score_id: part.score_id })
      .whereIn('program_id', rowsOf(studio, 'programs').where({ student_id: part.student_id }).select('id'))
      .update({ score_id: scoreId });
  await rowsOf(studio, 'program_parts')
    .where({ sheet_part_id: part.id })
    .whereNull('score_id')
    .update({ score_id: scoreId });
}

/** The scores of the studio by title, newest first. */
export async function listScores(
  studio: Studio,
): Promise<
  { readonly id: string; readonly title: string | null; readonly file_name: string; readonly work: string }[]
> {
  return (await rowsOf(studio, 'scores as sc')
    .join('works as w', 'w.id', 'sc.work_id')
    .orderBy('sc.created_at', 'desc')
    .limit(200)
    .select('sc.id', 'sc.title', 'sc.file_name', { work: 'w.title' })) as unknown as {
    id: string;
    title: string | null;
    file_name: string;
    work: string;
  }[];
}
