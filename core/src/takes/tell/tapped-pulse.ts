import { roundTo } from '../../base/index.js';
import { driftOfTempos } from './steadiness.js';

/** A measure between two tapped downbeats. Units: seconds; beats a minute */
export interface TappedMeasure {
  readonly start: number;
  readonly end: number;
  readonly bpm: number;
}

/** What tapped downbeats tell of a take without notes. Units: beats a minute; per cent */
export interface TappedPulse {
  readonly measures: readonly TappedMeasure[];
  readonly opening: number | null;
  readonly drift: number | null;
  readonly spread: number | null;
}

/**
 * The pulse of a take from downbeats that somebody tapped while listening.
 * Shape:  measures between neighbouring taps; null for opening and spread below three of them, for drift below four
 * Units:  `beats` of each measure; taps in seconds from the beginning of the take
 * Source: the design: beats × 60 / seconds; drift by the median of slopes (Theil 1950, Sen 1968)
 */
export function tappedPulse(taps: readonly number[], beats: number): TappedPulse {
  const sorted = [...new Set(taps)].sort((a, b) => a - b);
  const measures = sorted.slice(1).map((end, n) => {
    const start = sorted[n] ?? 0;
    return { start, end, bpm: (beats * 60) / (end - start) };
  });
  if (measures.length < 3) return { measures, opening: null, drift: null, spread: null };
  const bpms = measures.map(({ bpm }) => bpm);
  const mean = bpms.reduce((sum, bpm) => sum + bpm, 0) / bpms.length;
  const drift = driftOfTempos(measures.map(({ start, end, bpm }) => ({ at: (start + end) / 2, tempo: bpm })));
  const squares = bpms.reduce((sum, bpm) => sum + (bpm - mean) ** 2, 0);
  return {
    measures,
    opening: roundTo(((bpms[0] ?? 0) + (bpms[1] ?? 0)) / 2, 1),
    drift: drift === null ? null : roundTo(drift, 1),
    spread: roundTo((100 * Math.sqrt(squares / (bpms.length - 1))) / mean, 1),
  };
}
