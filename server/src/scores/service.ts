import { createHash } from 'node:crypto';
import { withoutAbc } from '@vivid-cue/core/abc';
import type { Issue } from '@vivid-cue/core/base';
import {
  digestScore,
  readScore,
  renumbered,
  resolveSpan,
  type NumberRestart,
  type ScoreDigest,
} from '@vivid-cue/core/score';
import { measuresText } from '@vivid-cue/core/music';
import { v7 as newId } from 'uuid';
import { together, type Studio } from '../db/studio.js';
import { notFound, Problem } from '../http/problem.js';
import { cuesOfScore, placeCue, type CueRow } from '../cues/repository.js';
import { moveMarks } from '../findings/repository.js';
import { passagesOfScore, placePassage, type PassageRow } from '../passages/repository.js';
import { findProgramPart, instrumentOf } from '../programs/service.js';
import { studioFacts } from '../season/repository.js';
import { attachScore, findFile, insertScore, readNumbering, updateDigest, workIdFor } from './repository.js';

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
  const file = asMusicXml(upload.bytes);
  const digest = read(file, {
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
      { id: upload.id, workId, fileName: upload.fileName, file, sha256, digest },
      now,
    );
    if (part.score_id !== null)
      await moveMarksOver(inside, digest, { from: part.score_id, to: upload.id, studentId: part.student_id });
    await attachScore(inside, part, upload.id);
  });
}

/** ABC notation is kept as MusicXML, so that it is engraved and read like every other score. */
function asMusicXml(bytes: Buffer): Buffer {
  const file = withoutAbc(bytes);
  if (file.ok) return Buffer.from(file.value);
  throw refused(file.issues.map((issue) => ({ ...issue, where: 'file' })));
}

function refused(issues: readonly Issue[]): Problem {
  return new Problem('score-refused', issues[0]?.message ?? 'The file cannot be read.', {
    issues: issues.map(({ where, message }) => ({ where, message })),
  });
}

function read(
  bytes: Uint8Array,
  options: { readonly partId: string | null; readonly instrument: string | null },
  numbering: readonly NumberRestart[] = [],
): ScoreDigest {
  const score = readScore(bytes, options);
  if (score.ok) return digestScore(renumbered(score.value, numbering));
  throw refused(score.issues);
}

/**
 * Passages and cues follow their printed numbers into a corrected file, removed ones too, so that Undo finds them in
 * place; decisions about findings go along. If a passage or cue cannot, the file is not taken.
 */
async function moveMarksOver(
  studio: Studio,
  digest: ScoreDigest,
  move: { readonly from: string; readonly to: string; readonly studentId: string | null },
): Promise<void> {
  const { from, to, studentId } = move;
  const lost: string[] = [];
  const follow = async (
    row: PassageRow | CueRow,
    name: string,
    place: typeof placePassage,
  ): Promise<void> => {
    const span = resolveSpan(digest.measures, { from: row.span_from, to: row.span_to });
    const indexes = span.ok ? { from_index: span.value.fromIndex, end_index: span.value.endIndex } : null;
    if (indexes) await place(studio, row.id, { score_id: to, ...indexes });
    else if (!row.deleted_at) lost.push(`${name} (${row.span_from}–${row.span_to})`);
  };
  for (const passage of await passagesOfScore(studio, from, studentId))
    await follow(passage, passage.name, placePassage);
  for (const cue of await cuesOfScore(studio, from, studentId))
    await follow(cue, `the cue “${cue.text}”`, placeCue);
  await moveMarks(studio, move);
  if (lost.length === 0) return;
  const message = `The new file lacks measures of ${lost.join(', ')}; move or remove ${lost.length === 1 ? 'it' : 'them'} first, or choose another file.`;
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
  const { scoreId, stored } = await storedScore(studio, programPartId);
  const numbering = readNumbering(stored.numbering);
  const digest = read(stored.file, { partId, instrument: null }, numbering);
  await together(studio, async (inside) => {
    await moveMarksOver(inside, digest, { from: scoreId, to: scoreId, studentId: null });
    await updateDigest(inside, scoreId, { digest, numbering });
  });
}

async function storedScore(
  studio: Studio,
  programPartId: string,
): Promise<{ readonly scoreId: string; readonly stored: NonNullable<Awaited<ReturnType<typeof findFile>>> }> {
  const { score_id: scoreId } = await findProgramPart(studio, programPartId);
  const stored = scoreId === null ? null : await findFile(studio, scoreId);
  if (!stored || scoreId === null)
    throw new Problem('score-missing', 'This part has no score yet; upload one first.');
  return { scoreId, stored };
}

/**
 * Numbers the measures as the instructor says. Passages and cues stay at their measures and are named by the new numbers.
 * Shape:  an empty list returns to the printed numbers
 * Units:  measure indexes, printed numbers
 * Errors: Problem not-found, score-missing
 * Source: none
 */
export async function changeNumbering(
  studio: Studio,
  programPartId: string,
  numbering: readonly NumberRestart[],
): Promise<void> {
  const { scoreId, stored } = await storedScore(studio, programPartId);
  const digest = read(stored.file, { partId: stored.part_id, instrument: null }, numbering);
  const numbers = ({ from_index: from, end_index: end }: PassageRow | CueRow) => ({
    span_from: digest.measures[from]?.number ?? '',
    span_to: digest.measures[end - 1]?.number ?? '',
  });
  const { vocabulary } = await studioFacts(studio);
  await together(studio, async (inside) => {
    for (const passage of await passagesOfScore(inside, scoreId, null)) {
      const next = numbers(passage);
      const isPlain = passage.name === measuresText(passage.span_from, passage.span_to, vocabulary);
      const name = isPlain ? { name: measuresText(next.span_from, next.span_to, vocabulary) } : {};
      await placePassage(inside, passage.id, { ...next, ...name });
    }
    for (const cue of await cuesOfScore(inside, scoreId, null)) await placeCue(inside, cue.id, numbers(cue));
    await updateDigest(inside, scoreId, { digest, numbering });
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
