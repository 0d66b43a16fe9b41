import { asSeconds, toNumber, type Seconds } from '../music/index.js';
import type { Score, Span } from '../score/index.js';

/** What holds where nothing is printed. */
export const USUAL_LEVEL = 'mf';
/** Printed levels from soft to loud; long tones are measured at the second and at the sixth of them. */
const LEVELS = ['pp', 'p', 'mp', 'mf', 'f', 'ff'] as const;
const [SOFT, LOUD] = [1, 5];

/** The dynamic that holds at a place. Units: quarters from the beginning */
export function levels({ marks, measures }: Pick<Score, 'marks' | 'measures'>): (at: number) => string {
  const printed = marks.dynamics
    .filter(({ mark }) => /^(?:p{1,3}|mp|mf|f{1,3})$/u.test(mark))
    .map(({ measureIndex, onset, mark }) => ({
      at: toNumber(measures[measureIndex]?.start ?? onset) + toNumber(onset),
      mark,
    }))
    .sort((a, b) => a.at - b.at);
  return (at) => printed.findLast((one) => one.at <= at + 1e-6)?.mark ?? USUAL_LEVEL;
}

/** How long long tones last, soft and loud. Shape: null for what was not measured. Units: seconds */
export interface MeasuredAir {
  readonly soft: number | null;
  readonly loud: number | null;
}

/** The air of somebody that nobody measured (common practice: a long loud phrase wants 15 to 20). Units: seconds */
export const USUAL_AIR = asSeconds(15);

/**
 * The air that a stretch has: between what was measured soft and loud, by what is printed in it.
 * Shape:  what was measured where only one was; the usual air where none was
 * Units:  seconds of a long tone
 */
export function airAt({ soft, loud }: MeasuredAir, score: Score, { fromIndex, endIndex }: Span): Seconds {
  const known = soft ?? loud;
  if (known === null) return USUAL_AIR;
  if (soft === null || loud === null) return asSeconds(known);
  const levelAt = levels(score);
  const own = score.measures.slice(fromIndex, endIndex);
  const heights = own.map(({ start }) => heightOf(levelAt(toNumber(start))));
  const mean = heights.reduce((sum, height) => sum + height, 0) / Math.max(1, heights.length);
  const share = Math.min(1, Math.max(0, (mean - SOFT) / (LOUD - SOFT)));
  return asSeconds(soft + (loud - soft) * share);
}

function heightOf(level: string): number {
  const found = LEVELS.findIndex((one) => one === level);
  return found >= 0 ? found : level.startsWith('p') ? 0 : LEVELS.length - 1;
}
