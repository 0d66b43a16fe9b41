import type { SheetPart } from './model.js';

const RANGE = /^\d+\s*[-–]\s*\d+$|^\d+\s*(?:,|&|and)\s*\d+/u;

/**
 * Where a part's music stands in print, in one line.
 * Shape:  "no. 17, p. 26, Shoreline Pieces, rev. ed., by L. Osk"; only what the sheet states, "" for nothing
 */
export function citationOf({ source }: Pick<SheetPart, 'source'>): string {
  const { number, page, book, edition, composer } = source;
  const pieces = [
    number === null ? null : /^\d/u.test(number) ? `no. ${number}` : number,
    page === null ? null : `${RANGE.test(page) ? 'pp.' : 'p.'} ${page}`,
    book,
    edition,
    composer === null ? null : `by ${composer}`,
  ];
  return pieces.filter((piece) => piece !== null).join(', ');
}
