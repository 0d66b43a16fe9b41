import type { StructuredSheet } from './model.js';
import type { Correction, PartAnchor } from './told/corrections.js';
import type { ShownBlock } from './told/shown-blocks.js';

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
  /** The lines and tables that it was read as. */
  readonly blocks: readonly ShownBlock[];
  /** Where each part begins, in their order; null for one that begins nowhere. */
  readonly anchors: readonly (PartAnchor | null)[];
  /** Corrections whose words or whose part this text does not have. */
  readonly lost: readonly Correction[];
}
