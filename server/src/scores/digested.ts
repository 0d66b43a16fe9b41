import { measureDemands } from '@vivid-cue/core/reading';
import { digestScore, type Score } from '@vivid-cue/core/score';
import type { StoredDigest } from '../practice/measure-map.js';

/** A score as stored: its digest, and what each measure asks beside the others. */
export function digested(score: Score): StoredDigest {
  return {
    ...digestScore(score),
    demands: measureDemands(score).map((demand) => Math.round(demand * 100) / 100),
  };
}
