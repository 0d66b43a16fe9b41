import { readAll } from './sheet-reader.js';
import { SheetState } from './sheet-state.js';
import type { SheetReading } from './reading.js';
import { cleanText, readLines } from './lines.js';

/** The longest text that is read. Units: characters (our own limit; a 300-line sheet has about 20,000). */
export const SHEET_TEXT_LIMIT = 400_000;

/**
 * Reads a published sheet: body, dates, parts, choices, notes, and the questions it leaves open.
 * Shape:  what the text does not state is null; nothing is filled in because it is likely; each part gets an
 *         identifier where it is made: counted ones, or those of `newId`
 * Units:  see StructuredSheet
 * Errors: none; a text longer than SHEET_TEXT_LIMIT is cut there, which the caller must refuse before
 * Source: docs/formats.md
 */
export function readSheet(raw: string, newId: () => string = countedIds()): SheetReading {
  const text = cleanText(raw.slice(0, SHEET_TEXT_LIMIT));
  return { ...readAll(new SheetState(readLines(text), text, newId)), text };
}

function countedIds(): () => string {
  let last = 0;
  return () => {
    last += 1;
    return `part-${last}`;
  };
}
