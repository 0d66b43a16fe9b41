import { ZERO } from '../../music/index.js';
import { inSpan, type DynamicMark, type Score, type Span } from '../../score/index.js';

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

/** The same with the level that holds where each run begins, though it was printed before. */
export function withHeldLevels(clipped: Score, whole: Score, runs: readonly Span[]): Score {
  const held = heldLevels(whole.marks.dynamics, runs);
  const dynamics = [...held, ...clipped.marks.dynamics].sort((a, b) => a.measureIndex - b.measureIndex);
  return { ...clipped, marks: { ...clipped.marks, dynamics } };
}

function heldLevels(dynamics: readonly DynamicMark[], runs: readonly Span[]): DynamicMark[] {
  return runs.flatMap(({ fromIndex }) => {
    const isPrinted = dynamics.some(
      ({ measureIndex, onset }) => measureIndex === fromIndex && onset.num === 0,
    );
    const held = dynamics.findLast(({ measureIndex, mark }) => measureIndex < fromIndex && LEVEL.test(mark));
    return held && !isPrinted ? [{ ...held, measureIndex: fromIndex, onset: ZERO }] : [];
  });
}

const LEVEL = /^(?:p{1,4}|mp|mf|f{1,4})$/u;
