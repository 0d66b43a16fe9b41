import { countBy } from '../base/index.js';

/** What a panel's scores of one player come to. Units: as the listeners gave them; `dropped` highest and lowest left out */
export interface PanelResult {
  readonly mean: number;
  readonly median: number;
  readonly spread: number;
  readonly listeners: number;
  readonly hasDropped: boolean;
}

/** From so many listeners on the highest and the lowest are left out. */
const DROPS_FROM = 5;

/**
 * The result of some listeners' totals.
 * Shape:  null for none; from five listeners on the highest and the lowest are dropped from mean and spread
 * Units:  as given; `spread` is the standard deviation
 * Source: the design
 */
export function panelResult(totals: readonly number[]): PanelResult | null {
  if (totals.length === 0) return null;
  const sorted = [...totals].sort((a, b) => a - b);
  const hasDropped = sorted.length >= DROPS_FROM;
  const kept = hasDropped ? sorted.slice(1, -1) : sorted;
  const mean = kept.reduce((sum, one) => sum + one, 0) / kept.length;
  const squares = kept.reduce((sum, one) => sum + (one - mean) ** 2, 0);
  const half = sorted.length >> 1;
  const median =
    sorted.length % 2 === 1 ? (sorted[half] ?? 0) : ((sorted[half - 1] ?? 0) + (sorted[half] ?? 0)) / 2;
  const spread = kept.length > 1 ? Math.sqrt(squares / (kept.length - 1)) : 0;
  return { mean, median, spread, listeners: totals.length, hasDropped };
}

/**
 * How far listeners agree on the order of what they scored.
 * Shape:  scores by listener, then by what was scored; 0 for no agreement, 1 for one order; ties share their middle rank;
 *         null for fewer than three listeners or two things, and where nobody tells anything apart
 * Source: Kendall and Babington Smith, The problem of m rankings, Annals of Mathematical Statistics 10 (1939)
 */
export function concordance(scores: readonly (readonly number[])[]): number | null {
  const [listeners, things] = [scores.length, scores[0]?.length ?? 0];
  if (listeners < 3 || things < 2) return null;
  const ranks = scores.map(ranksOf);
  const sums = Array.from({ length: things }, (_, n) => ranks.reduce((sum, own) => sum + (own[n] ?? 0), 0));
  const middle = (listeners * (things + 1)) / 2;
  const squares = sums.reduce((sum, one) => sum + (one - middle) ** 2, 0);
  const ties = scores.reduce((sum, own) => sum + tiesOf(own), 0);
  const most = (listeners ** 2 * (things ** 3 - things) - listeners * ties) / 12;
  return most <= 0 ? null : squares / most;
}

/** Ranks from 1 for the lowest; equals share the middle of their places. */
function ranksOf(values: readonly number[]): number[] {
  return values.map((value) => {
    const below = values.filter((one) => one < value).length;
    const equal = values.filter((one) => one === value).length;
    return below + (equal + 1) / 2;
  });
}

function tiesOf(values: readonly number[]): number {
  return [...countBy(values).values()].reduce((sum, count) => sum + count ** 3 - count, 0);
}

/** What a concordance means, in words. Source: our own thresholds */
export function concordanceWords(w: number): string {
  if (w >= 0.8) return 'The listeners heard the same order.';
  if (w >= 0.5) return 'The listeners agree on the whole, and differ in places.';
  return 'The listeners heard different things: look at their remarks before the numbers.';
}
