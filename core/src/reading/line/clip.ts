import { inSpan, type Score, type Span } from '../../score/index.js';

/**
 * A score with the music of some runs of measures only: what is asked, with every measure in its place.
 * Shape:  unchanged for no runs; notes, marks and what was told of other measures are left out
 * Units:  measure indexes
 */
export function clipScore(score: Score, runs: readonly Span[]): Score {
  if (runs.length === 0) return score;
  const isAsked = (index: number): boolean => runs.some((run) => inSpan(run, index));
  const asked = <T extends { readonly measureIndex: number }>(all: readonly T[]): T[] =>
    all.filter(({ measureIndex }) => isAsked(measureIndex));
  const { dynamics, hairpins, words } = score.marks;
  return {
    ...score,
    measures: score.measures.map((one) => (isAsked(one.index) ? one : { ...one, toldNotes: null })),
    notes: asked(score.notes),
    marks: { dynamics: asked(dynamics), hairpins: asked(hairpins), words: asked(words) },
  };
}
