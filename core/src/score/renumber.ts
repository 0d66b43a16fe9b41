import { numberingWarnings } from './numbering.js';
import type { Score } from './model.js';

/** From this measure on, count from this number. Units: measure index, printed number. */
export interface NumberRestart {
  readonly index: number;
  readonly number: number;
}

/**
 * A score numbered as its instructor says: from each named measure on, numbers go up by one.
 * Shape:  measures before the first restart and implicit ones (pickups, split measures) keep what is printed; the
 *         numbering's warnings are made anew
 * Units:  printed numbers
 * Errors: none; a restart beyond the end changes nothing
 */
export function renumbered<S extends Pick<Score, 'measures' | 'warnings'>>(
  score: S,
  restarts: readonly NumberRestart[],
): S {
  if (restarts.length === 0) return score;
  const startAt = new Map(restarts.map(({ index, number }) => [index, number]));
  let next: number | null = null;
  const measures = score.measures.map((measure) => {
    next = startAt.get(measure.index) ?? next;
    if (next === null || (measure.implicit && !startAt.has(measure.index))) return measure;
    const number = String(next);
    next += 1;
    return { ...measure, number };
  });
  const others = score.warnings.filter(({ code }) => !code.startsWith('number-'));
  return { ...score, measures, warnings: [...others, ...numberingWarnings(measures)] };
}
