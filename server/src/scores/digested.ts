import { measureDemands } from '@vivid-cue/core/reading';
import { digestScore, hasKnownNotes, type Score } from '@vivid-cue/core/score';
import type { StoredDigest } from '../practice/measure-map.js';

/**
 * A score as stored: its digest, and what each measure asks beside the others.
 * Shape:  a measure of which neither notes nor their value are known asks what the others do on the whole
 */
export function digested(score: Score): StoredDigest {
  const demands = measureDemands(score);
  const isKnown = (measure: Score['measures'][number]): boolean =>
    hasKnownNotes(measure) || measure.toldNotes !== null;
  const known = score.measures.filter(isKnown).map(({ index }) => demands[index] ?? 0);
  const usual = known.length === 0 ? 1 : known.reduce((sum, one) => sum + one, 0) / known.length;
  return {
    ...digestScore(score),
    demands: score.measures.map(
      (measure) => Math.round((isKnown(measure) ? (demands[measure.index] ?? 0) : usual) * 100) / 100,
    ),
  };
}
