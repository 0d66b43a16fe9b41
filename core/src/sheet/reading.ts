import type { StructuredSheet } from './model.js';

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
 */
export interface SheetReading {
  readonly sheet: StructuredSheet;
  readonly text: string;
  readonly marks: readonly SheetMark[];
  readonly unread: readonly { readonly start: number; readonly end: number }[];
}
