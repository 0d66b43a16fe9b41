import type { Meter, NoteValue, Quarters, TempoMark } from '../music/index.js';

/** The meter from a measure on. Units: printed measure numbers */
export interface ToldMeter {
  readonly from: number;
  readonly meter: Meter;
}

/** An ending with the passes on which it is played. Units: printed measure numbers, both included */
export interface ToldEnding {
  readonly passes: readonly number[];
  readonly from: number;
  readonly to: number;
}

/** A section that is repeated, its endings within it. Shape: `times` played in all. Units: printed measure numbers */
export interface ToldRepeat {
  readonly from: number;
  readonly to: number;
  readonly times: number;
  readonly endings: readonly ToldEnding[];
}

/** Where many notes stand, as note values. Units: printed measure numbers, both included */
export interface ToldDensity {
  readonly from: number;
  readonly to: number;
  readonly value: ToldValue;
}

/** A note value as places are told by it; triplets are three in the time of two eighths. */
export type ToldValue = Extract<NoteValue, 'quarter' | 'eighth' | 'sixteenth' | 'thirty-second'> | 'triplet';

/**
 * Music as somebody tells it from the page: its measures, and nothing of its notes.
 * Shape:  meters ascending, the first from `first`; letters, repeats, tempos and keys ascending
 * Units:  printed measure numbers; `pickup` in quarters, of a measure before the first
 * Source: docs/formats.md
 */
export interface ToldMusic {
  readonly first: number;
  readonly last: number;
  readonly meters: readonly ToldMeter[];
  readonly pickup: Quarters | null;
  readonly letters: readonly { readonly name: string; readonly at: number }[];
  readonly repeats: readonly ToldRepeat[];
  readonly tempos: readonly { readonly at: number; readonly mark: TempoMark }[];
  readonly keys: readonly { readonly at: number; readonly fifths: number }[];
  readonly dense: readonly ToldDensity[];
}

/** The number of the very first measure: of the pickup, where there is one. Units: printed numbers */
export function startOfMusic({ first, pickup }: Pick<ToldMusic, 'first' | 'pickup'>): number {
  return pickup ? first - 1 : first;
}

/** What is wrong with a stretch of a told line, in a sentence. Units: characters of the line, `start` to before `end` */
export interface ToldIssue {
  readonly start: number;
  readonly end: number;
  readonly message: string;
}

/** A piece has at most so many measures (our own limit). */
export const MOST_TOLD_MEASURES = 2000;
