import { SheetReader } from './sheet-reader.js';
import type { StructuredSheet } from './model.js';
import { cleanText, readLines } from './lines.js';

/** The longest text that is read. Units: characters (our own limit; a 300-line sheet has about 20,000). */
export const SHEET_TEXT_LIMIT = 400_000;

/** What a place in the text became. Shape: from `start` to before `end` of the cleaned text. */
export interface SheetMark {
  readonly start: number;
  readonly end: number;
  /** A path such as "parts[2]/tempo", "deadlines[0]", "notes[1]", "body". */
  readonly about: string;
}

/**
 * A sheet as read from its text, with what was recognised where.
 * Shape:  `text` is the cleaned text that the marks speak of; `unread` are stretches nothing was made of
 * Units:  characters
 * Errors: none
 * Source: none
 */
export interface SheetReading {
  readonly sheet: StructuredSheet;
  readonly text: string;
  readonly marks: readonly SheetMark[];
  readonly unread: readonly { readonly start: number; readonly end: number }[];
}

/**
 * Reads a published sheet: body, dates, parts, choices, notes, and the questions it leaves open.
 * Shape:  what the text does not state is null; nothing is filled in because it is likely
 * Units:  see StructuredSheet
 * Errors: none; a text longer than SHEET_TEXT_LIMIT is cut there, which the caller must refuse before
 * Source: docs/formats.md
 */
export function readSheet(raw: string): SheetReading {
  const text = cleanText(raw.slice(0, SHEET_TEXT_LIMIT));
  const reader = new SheetReader(readLines(text), text);
  return { ...reader.read(), text };
}
