import { createHash } from 'node:crypto';
import { digestScore, readScore, resolveSpan, type ScoreDigest } from '@vivid-cue/core/score';
import { v7 as newId } from 'uuid';
import { together, type Studio } from '../db/studio.js';
import { notFound, Problem } from '../http/problem.js';
import { passagesOfScore, placePassage } from '../passages/repository.js';
import { findProgramPart, instrumentOf } from '../programs/service.js';
import { attachScore, findFile, insertScore, updateDigest, workIdFor } from './repository.js';

/** What an upload brings. */
export interface Upload {
  readonly id: string;
  readonly fileName: string;
  readonly partId: string | null;
  readonly bytes: Buffer;
}

/**
 * Reads an uploaded file and gives it to a program's part; nothing is stored of a file that cannot be read.
 * Shape:  none
 * Units:  milliseconds since 1970
 * Errors: Problem not-found; score-refused with the reader's sentence; span-refused when passages name measures that the
 *         new file lacks
 * Source: none
 */
export async function uploadScore(
  studio: Studio,
  programPartId: string,
  upload: Upload,
  nowMs: number,
): Promise<void> {
  const part = await findProgramPart(studio, programPartId);
  const digest = read(upload.bytes, {
    partId: upload.partId,
    instrument: await instrumentOf(studio, programPartId),
  });
  const now = new Date(nowMs);
  await together(studio, async (inside) => {
    const title = (part.work_title || digest.title || upload.fileName).slice(0, 160);
    const workId = await workIdFor(inside, title, { id: newId(), now });
    const sha256 = createHash('sha256').update(upload.bytes).digest('hex');
    await insertScore(
      inside,
      { id: upload.id, workId, fileName: upload.fileName, file: upload.bytes, sha256, digest },
      now,
    );
    if (part.score_id !== null)
      await movePassages(inside, digest, { from: part.score_id, to: upload.id, studentId: part.student_id });
    await attachScore(inside, part, upload.id);
  });
}

function read(
  bytes: Uint8Array,
  options: { readonly partId: string | null; readonly instrument: string | null },
): ScoreDigest {
  const score = readScore(bytes, options);
  if (score.ok) return digestScore(score.value);
  const message = score.issues[0]?.message ?? 'The file cannot be read.';
  throw new Problem('score-refused', message, {
    issues: score.issues.map((issue) => ({ where: issue.where, message: issue.message })),
  });
}

/**
 * Passages follow their printed numbers into a corrected file, removed ones too, so that Undo finds them in place; if one
 * cannot, the file is not taken.
 */
async function movePassages(
  studio: Studio,
  digest: ScoreDigest,
  { from, to, studentId }: { readonly from: string; readonly to: string; readonly studentId: string | null },
): Promise<void> {
  const lost: string[] = [];
  for (const passage of await passagesOfScore(studio, from, studentId)) {
    const span = resolveSpan(digest.measures, { from: passage.span_from, to: passage.span_to });
    const place = span.ok ? { from_index: span.value.fromIndex, end_index: span.value.endIndex } : null;
    if (place) await placePassage(studio, passage.id, { score_id: to, ...place });
    else if (passage.deleted_at === null)
      lost.push(`${passage.name} (${passage.span_from}–${passage.span_to})`);
  }
  if (lost.length === 0) return;
  const message = `The new file lacks measures of ${lost.join(', ')}; move or remove ${lost.length === 1 ? 'that passage' : 'those passages'} first, or choose another file.`;
  throw new Problem('span-refused', message, { issues: [{ where: 'file', message }] });
}

/**
 * Chooses another part of the file that is already there.
 * Shape:  none
 * Units:  none
 * Errors: Problem not-found, score-missing, score-refused, span-refused
 * Source: none
 */
export async function chooseScorePart(studio: Studio, programPartId: string, partId: string): Promise<void> {
  const part = await findProgramPart(studio, programPartId);
  const stored = part.score_id === null ? null : await findFile(studio, part.score_id);
  if (!stored || part.score_id === null)
    throw new Problem('score-missing', 'This part has no score yet; upload one first.');
  const scoreId = part.score_id;
  const digest = read(stored.file, { partId, instrument: null });
  await together(studio, async (inside) => {
    await movePassages(inside, digest, { from: scoreId, to: scoreId, studentId: null });
    await updateDigest(inside, scoreId, digest);
  });
}

/**
 * The file as uploaded.
 * Shape:  none
 * Units:  none
 * Errors: Problem not-found
 * Source: none
 */
export async function scoreFile(
  studio: Studio,
  id: string,
): Promise<{ readonly file: Buffer; readonly file_name: string }> {
  const stored = await findFile(studio, id);
  if (!stored) throw notFound('score');
  return stored;
}
