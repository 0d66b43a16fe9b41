import type { Span } from '../../score/index.js';

/** What a finding is about. */
export type FindingKind =
  | 'deciding'
  | 'return'
  | 'change'
  | 'meter'
  | 'off-key'
  | 'surprise'
  | 'odd-one-out'
  | 'rare-note'
  | 'double-dot'
  | 'ornament'
  | 'awkward'
  | 'feel'
  | 'dynamics'
  | 'tempo'
  | 'tie'
  | 'rest'
  | 'breath'
  | 'held'
  | 'range'
  | 'leap'
  | 'lead'
  | 'technique'
  | 'fast-run'
  | 'shows'
  | 'rhythm'
  | 'repeat'
  | 'run';

/** A note by its measure and its ordinal there. */
export interface NotePlace {
  readonly index: number;
  readonly note: number;
}

/** Two stretches, half-open, with the notes in which they differ. */
export interface FindingPair {
  readonly a: Span;
  readonly b: Span;
  readonly aNotes: readonly NotePlace[];
  readonly bNotes: readonly NotePlace[];
}

/**
 * One thing to settle with the score, as a sentence.
 * Shape:  `key` is equal as long as the measures and what was found in them are equal, whatever their numbers; `id` is
 *         unique in its list; `places` are measure indexes, rising, empty for the whole piece; `notes` count from 1
 * Units:  `importance` from 0 to 1
 * Source: the single findings; the order of importance is our own
 */
export interface Finding {
  readonly id: string;
  readonly key: string;
  readonly kind: FindingKind;
  readonly importance: number;
  readonly title: string;
  readonly sentence: string;
  readonly places: readonly number[];
  readonly notes: readonly NotePlace[];
  /** Two stretches to be seen side by side. */
  readonly pair: FindingPair | null;
}

/** A finding before its key is made. Shape: `detail` is what tells it from others in the same measures. */
export interface RawFinding extends Omit<Finding, 'id' | 'key'> {
  readonly detail: string;
}
