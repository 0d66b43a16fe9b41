/** A share with the range in which it is likely to lie. Units: shares, 0 to 1 */
export interface ShareRange {
  readonly share: number;
  readonly low: number;
  readonly high: number;
}

/** The normal deviate of a two-sided 95 %. */
const Z = 1.959964;

/**
 * How likely it is to be clean, by counting alone: what a small number of reps says of all reps like them.
 * Shape:  null without reps
 * Source: E. B. Wilson, Probable inference, the law of succession, and statistical inference (1927), the score interval
 */
export function cleanShare(clean: number, reps: number): ShareRange | null {
  if (reps <= 0) return null;
  const share = clean / reps;
  const denominator = 1 + Z ** 2 / reps;
  const middle = (share + Z ** 2 / (2 * reps)) / denominator;
  const half = (Z / denominator) * Math.sqrt((share * (1 - share)) / reps + Z ** 2 / (4 * reps ** 2));
  return { share, low: Math.max(0, middle - half), high: Math.min(1, middle + half) };
}
