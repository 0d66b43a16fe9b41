import { resolveSpan, type NumberRestart, type ScoreDigest, type Span } from '@vivid-cue/core/score';
import { measuresText, type Vocabulary } from '@vivid-cue/core/music';
import { followedSpan, type FollowedMusic } from '@vivid-cue/core/reading';
import { v7 as newId } from 'uuid';
import { sha256 } from '../db/sha256.js';
import { together, type Studio } from '../db/studio.js';
import { notFound, Problem } from '../http/problem.js';
import { bringCues } from '../cues/bring-cues.js';
import { cuesOfScore, placeCue, type CueRow } from '../cues/repository.js';
import { moveMarks } from '../findings/repository.js';
import { givePages } from '../pages/repository.js';
import { refuseUnknownPages } from '../pages/service.js';
import { placePassage } from '../passages/repository.js';
import { findProgramPart } from '../practice/part-row.js';
import { type PassageRow, passagesOfScore } from '../practice/passage-row.js';
import { studioFacts } from '../studio/facts.js';
import { readFile } from './reader.js';
import type { ReadingWish } from './reading-worker.js';
import {
  attachScore,
  findFile,
  insertScore,
  readNumbering,
  updateDigest,
  workIdFor,
  type StoredFile,
} from './repository.js';

/** What an upload brings. */
export interface Upload {
  readonly id: string;
  readonly fileName: string;
  readonly partId: string | null;
  readonly bytes: Buffer;
}

/**
 * Reads an uploaded file and gives it to a program's part; nothing is stored of a file that cannot be read.
 * Units:  milliseconds since 1970
 * Errors: Problem not-found; score-refused with the reader's sentence; page-refused where one of its pages is not there;
 *         span-refused when passages name measures that the new file lacks
 */
export async function uploadScore(
  studio: Studio,
  programPartId: string,
  { upload, nowMs }: { readonly upload: Upload; readonly nowMs: number },
): Promise<void> {
  const part = await findProgramPart(studio, programPartId);
  const known = part.score_id;
  const stored = known === null ? null : await findFile(studio, known);
  // Both files are read and compared before the transaction, which holds its rows for the writing alone.
  const { file, digest, numbering, followed, pages, cues } = await readFile(studio.id, {
    bytes: upload.bytes,
    partId: upload.partId,
    instrument: part.instrument,
    numbering: [],
    before: stored && {
      bytes: stored.file,
      partId: stored.part_id,
      numbering: readNumbering(stored.numbering),
    },
  });
  await refuseUnknownPages(studio, pages);
  const now = new Date(nowMs);
  await together(studio, async (inside) => {
    const title = (part.work_title || digest.title || upload.fileName).slice(0, 160);
    const workId = await workIdFor(inside, title, { id: newId(), now });
    const { id, fileName, bytes } = upload;
    const score = { id, workId, fileName, file, sha256: sha256(bytes), digest, numbering };
    await insertScore(inside, score, now);
    await givePages(inside, id, pages);
    if (known !== null) {
      const move = { from: known, to: id, studentId: part.student_id };
      await moveMarksOver(inside, digest, { ...move, place: byMusic(digest, followed) });
    }
    await attachScore(inside, part, id);
    const owner = { id: programPartId, studentId: part.student_id, scoreId: id };
    await bringCues(inside, owner, { cues, digest, now });
  });
}

/** Where the measures of a passage or cue stand in another file; null where it lacks them. */
type Place = (row: PassageRow | CueRow) => Span | null;

/** By printed numbers, as the row has them. */
function byNumber({ measures }: ScoreDigest): Place {
  return ({ span_from: from, span_to: to }) => {
    const span = resolveSpan(measures, { from, to });
    return span.ok ? span.value : null;
  };
}

/** By the music itself, whatever its numbers are now; by number where the music does not come back. */
function byMusic(digest: ScoreDigest, followed: FollowedMusic | null): Place {
  const numbered = byNumber(digest);
  return (row) =>
    (followed && followedSpan(followed, { fromIndex: row.from_index, endIndex: row.end_index })) ??
    numbered(row);
}

/**
 * Passages and cues go along into a corrected file, removed ones too, so that Undo finds them in place, and so do
 * decisions about findings. If a passage or cue cannot, the file is not taken.
 */
async function moveMarksOver(
  studio: Studio,
  digest: ScoreDigest,
  {
    place,
    ...move
  }: {
    readonly from: string;
    readonly to: string;
    readonly studentId: string | null;
    readonly place: Place;
  },
): Promise<void> {
  const { from, to, studentId } = move;
  const { vocabulary } = await studioFacts(studio);
  const lost: string[] = [];
  const placed = (row: PassageRow | CueRow, name: string) => {
    const span = place(row);
    if (!span && !row.deleted_at) lost.push(`${name} (${row.span_from}–${row.span_to})`);
    if (!span) return null;
    const indexes = { from_index: span.fromIndex, end_index: span.endIndex };
    return { score_id: to, ...indexes, ...numbersOf(digest, indexes) };
  };
  for (const passage of await passagesOfScore(studio, from, studentId)) {
    const next = placed(passage, passage.name);
    if (next) await placePassage(studio, passage.id, { ...next, ...plainName(passage, next, vocabulary) });
  }
  for (const cue of await cuesOfScore(studio, from, studentId)) {
    const next = placed(cue, `the cue “${cue.text}”`);
    if (next) await placeCue(studio, cue.id, next);
  }
  await moveMarks(studio, move);
  if (lost.length === 0) return;
  const message = `The new file lacks measures of ${lost.join(', ')}; move or remove ${lost.length === 1 ? 'it' : 'them'} first, or choose another file.`;
  throw new Problem('span-refused', message, { issues: [{ where: 'file', message }] });
}

type Numbers = Pick<PassageRow, 'span_from' | 'span_to'>;

/** The first and last number of measures as a file has them. */
function numbersOf(
  { measures }: ScoreDigest,
  { from_index: from, end_index: end }: Pick<PassageRow, 'from_index' | 'end_index'>,
): Numbers {
  return { span_from: measures[from]?.number ?? '', span_to: measures[end - 1]?.number ?? '' };
}

/** A passage that was named by its numbers is named by the new ones. */
function plainName(passage: PassageRow, next: Numbers, vocabulary: Vocabulary): { readonly name?: string } {
  return passage.name === measuresText(passage.span_from, passage.span_to, vocabulary)
    ? { name: measuresText(next.span_from, next.span_to, vocabulary) }
    : {};
}

/**
 * Chooses another part of the file that is already there.
 * Errors: Problem not-found, score-missing, score-refused, span-refused
 */
export async function chooseScorePart(studio: Studio, programPartId: string, partId: string): Promise<void> {
  const { scoreId, stored } = await storedScore(studio, programPartId);
  const numbering = readNumbering(stored.numbering);
  const { digest } = await readFile(studio.id, again(stored, { partId, numbering }));
  await together(studio, async (inside) => {
    const move = { from: scoreId, to: scoreId, studentId: null };
    await moveMarksOver(inside, digest, { ...move, place: byNumber(digest) });
    await updateDigest(inside, scoreId, { digest, numbering });
  });
}

/** The same file read otherwise. */
function again(
  { file }: StoredFile,
  { partId, numbering }: { readonly partId: string; readonly numbering: readonly NumberRestart[] },
): ReadingWish {
  return { bytes: file, partId, instrument: null, numbering, before: null };
}

async function storedScore(
  studio: Studio,
  programPartId: string,
): Promise<{ readonly scoreId: string; readonly stored: StoredFile }> {
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
 */
export async function changeNumbering(
  studio: Studio,
  programPartId: string,
  numbering: readonly NumberRestart[],
): Promise<void> {
  const { scoreId, stored } = await storedScore(studio, programPartId);
  const { digest } = await readFile(studio.id, again(stored, { partId: stored.part_id, numbering }));
  const { vocabulary } = await studioFacts(studio);
  await together(studio, async (inside) => {
    for (const passage of await passagesOfScore(inside, scoreId, null)) {
      const next = numbersOf(digest, passage);
      await placePassage(inside, passage.id, { ...next, ...plainName(passage, next, vocabulary) });
    }
    for (const cue of await cuesOfScore(inside, scoreId, null))
      await placeCue(inside, cue.id, numbersOf(digest, cue));
    await updateDigest(inside, scoreId, { digest, numbering });
  });
}

/**
 * The file as uploaded.
 * Errors: Problem not-found
 */
export async function scoreFile(
  studio: Studio,
  id: string,
): Promise<{ readonly file: Buffer; readonly file_name: string }> {
  const stored = await findFile(studio, id);
  if (!stored) throw notFound('score');
  return stored;
}
