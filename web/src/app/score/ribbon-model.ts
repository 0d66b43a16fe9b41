import type { ReadinessState } from '@vivid-cue/core/readiness';
import type { Span } from '@vivid-cue/core/score';

/** One measure of the ribbon. Units: quarter notes. */
export interface RibbonMeasure {
  readonly index: number;
  readonly number: string;
  readonly quarters: number;
  readonly isAsked: boolean;
}

/** A passage as a band on the ribbon. */
export interface RibbonBand extends Span {
  readonly id: string;
  readonly name: string;
  readonly state: ReadinessState;
}

/** What stands over or in the measures of the ribbon. Shape: lists by measure index. */
export interface RibbonMarks {
  /** Height of what a measure asks, 0 to 1. */
  readonly heat: readonly (number | null)[] | null;
  readonly findings: ReadonlyMap<number, 'open' | 'kept'>;
  /** A letter or a count within the measure. */
  readonly texts: readonly (string | null)[] | null;
  readonly breaths: ReadonlySet<number>;
  readonly cues: ReadonlySet<number>;
}

/** Start of every measure, and the end, as shares of the whole. */
export function measureEdges(measures: readonly RibbonMeasure[]): readonly number[] {
  const total = Math.max(
    0.001,
    measures.reduce((sum, { quarters }) => sum + quarters, 0),
  );
  let at = 0;
  return [0, ...measures.map(({ quarters }) => (at += quarters) / total)];
}
