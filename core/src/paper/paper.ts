import type { Issue } from '../base/index.js';
import type { PaperPage } from './page-layout.js';

/**
 * Measures that were typed in, note by note.
 * Shape:  `from` is the printed number of the first; `abc` the body of a tune in ABC notation, whose meter and key are those
 *         of the measures it lies over
 * Source: the ABC notation standard 2.1
 */
export interface TypedPassage {
  readonly from: string;
  readonly abc: string;
  readonly clef: TypedClef;
}

/** Clefs that passages are typed in. */
export const TYPED_CLEFS = ['treble', 'bass', 'alto', 'tenor', 'perc'] as const;
/** One of TYPED_CLEFS. */
export type TypedClef = (typeof TYPED_CLEFS)[number];

/**
 * Music of which there is no digital score: what was told of its measures, the pages that show them, and passages
 * that were typed in.
 * Shape:  `line` as readToldLine reads it; pages in the order of reading
 */
export interface PaperMusic {
  readonly title: string | null;
  readonly line: string;
  readonly typed: readonly TypedPassage[];
  readonly pages: readonly PaperPage[];
}

/** Why music on paper is refused. */
export type PaperCode = 'paper-broken' | 'paper-told' | 'paper-typed';

/** What is wrong with a typed passage. Shape: `at` counts the passages */
export interface TypedIssue extends Issue<PaperCode> {
  readonly at: number;
}
