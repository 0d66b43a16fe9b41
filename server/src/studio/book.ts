import { PLAIN_BOOK, type Book, type BookView } from '@vivid-cue/contract';
import type { Studio } from '../db/studio.js';
import { Problem } from '../http/problem.js';

/**
 * How the studio writes.
 * Shape:  what was never chosen is empty
 */
export async function readBook(studio: Studio): Promise<BookView> {
  const row = (await studio.db('studios').where({ id: studio.id }).first('book', 'book_version')) as {
    readonly book: string;
    readonly book_version: number;
  };
  return { ...PLAIN_BOOK, ...(JSON.parse(row.book) as Partial<Book>), version: row.book_version };
}

/**
 * Changes how the studio writes.
 * Shape:  as stored
 * Errors: Problem version-stale
 */
export async function changeBook(studio: Studio, version: number, book: Book): Promise<BookView> {
  const changed = await studio
    .db('studios')
    .where({ id: studio.id, book_version: version })
    .update({ book: JSON.stringify(book), book_version: version + 1 });
  const current = await readBook(studio);
  if (changed !== 1)
    throw new Problem(
      'version-stale',
      'How the studio writes was changed in another window meanwhile; look at both and save again.',
      { current },
    );
  return current;
}
