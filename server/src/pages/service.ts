import { PAGE_LIMITS } from '@vivid-cue/core/page';
import { type PageSize, type PageView } from '@vivid-cue/contract';
import { sha256 } from '../db/sha256.js';
import { together, type Studio } from '../db/studio.js';
import { notFound, Problem } from '../http/problem.js';
import { findProgramPart } from '../practice/part-row.js';
import { pagePictures, type PagePictures } from './pictures.js';
import { findPage, findPicture, insertPage, knownPages, waitingPages } from './repository.js';

/** One page of a studio is made anew at a time, so that none keeps the others from theirs. */
const turns = new Map<string, Promise<unknown>>();

function inTurn<Value>(studioId: string, work: () => Promise<Value>): Promise<Value> {
  const own = (turns.get(studioId) ?? Promise.resolve()).catch(() => undefined).then(work);
  const done = own
    .catch(() => undefined)
    .then(() => {
      if (turns.get(studioId) === done) turns.delete(studioId);
    });
  turns.set(studioId, done);
  return own;
}

/** Makes a picture anew in its studio's turn. Errors: as pagePictures */
export function picturesInTurn(studio: Studio, bytes: Buffer): Promise<PagePictures> {
  return inTurn(studio.id, () => pagePictures(bytes));
}

/**
 * Keeps a page that was brought for a part; it waits there until a score is made of it.
 * Units:  milliseconds since 1970
 * Errors: Problem not-found; page-refused with what is wrong with the picture; too-large with more pages, or larger ones,
 *         than a part may have; id-taken
 */
export async function keepPage(
  studio: Studio,
  programPartId: string,
  { id, bytes, nowMs }: { readonly id: string; readonly bytes: Buffer; readonly nowMs: number },
): Promise<PageView> {
  await findProgramPart(studio, programPartId);
  const hash = sha256(bytes);
  const known = await findPage(studio, id);
  if (known?.sha256 === hash) return { id, width: known.width, height: known.height };
  const pictures = await picturesInTurn(studio, bytes);
  const { count, bytes: waiting } = await waitingPages(studio, programPartId);
  if (count >= PAGE_LIMITS.pages)
    throw new Problem('too-large', `A part has at most ${PAGE_LIMITS.pages} pages; leave some out.`);
  if (waiting + pictures.files.whole.length > PAGE_LIMITS.partBytes)
    throw new Problem(
      'too-large',
      'The pages of a part have at most 20 MB together; save them smaller, or leave some out.',
    );
  const isNew = await together(studio, (inside) =>
    insertPage(inside, { id, programPartId, pictures, sha256: hash }, new Date(nowMs)),
  );
  if (!isNew) throw new Problem('id-taken', 'This page could not be kept; reload the page and try again.');
  return { id, width: pictures.width, height: pictures.height };
}

/**
 * The picture of a page.
 * Errors: Problem not-found
 */
export async function pagePicture(studio: Studio, id: string, size: PageSize): Promise<Buffer> {
  const picture = await findPicture(studio, id, size);
  if (!picture) throw notFound('page');
  return picture;
}

/**
 * Refuses pages that the studio does not have.
 * Errors: Problem page-refused
 */
export async function refuseUnknownPages(studio: Studio, ids: readonly string[]): Promise<void> {
  const known = ids.length === 0 ? new Set<string>() : await knownPages(studio, ids);
  if (ids.every((id) => known.has(id))) return;
  const message = 'A page of this music is not here any more; bring the pages again.';
  throw new Problem('page-refused', message, { issues: [{ where: 'file', message }] });
}
