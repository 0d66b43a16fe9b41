import { InvariantError } from '../base/index.js';
import type { QuarterCount } from './units.js';

/**
 * Written musical time: an exact, normalised fraction of quarter notes.
 * Shape:  `num / den` in lowest terms, `den` ≥ 1, the sign on `num`
 * Units:  quarter notes
 */
export interface Quarters {
  readonly num: number;
  readonly den: number;
}

function gcd(a: number, b: number): number {
  let x = Math.abs(a);
  let y = Math.abs(b);
  while (y !== 0) {
    const rest = x % y;
    x = y;
    y = rest;
  }
  return x;
}

/**
 * The one constructor of musical time.
 * Shape:  whole numbers; `den` not 0
 * Units:  quarter notes
 * Errors: InvariantError when a number is not whole, `den` is 0, or the exact result leaves 2^53
 * @example quarters(6, 4) // { num: 3, den: 2 }
 */
export function quarters(num: number, den = 1): Quarters {
  if (!Number.isSafeInteger(num) || !Number.isSafeInteger(den) || den === 0) {
    throw new InvariantError(`Musical time must be an exact fraction of whole numbers; ${num}/${den} came.`);
  }
  const divisor = gcd(num, den) || 1;
  const sign = den < 0 ? -1 : 1;
  return Object.freeze({ num: (sign * num) / divisor || 0, den: (sign * den) / divisor });
}

/** No time at all, in quarter notes. */
export const ZERO: Quarters = quarters(0);

/**
 * The sum of two times.
 * Shape:  exact
 * Units:  quarter notes
 * Errors: InvariantError when the exact sum leaves 2^53
 */
export function addQuarters(a: Quarters, b: Quarters): Quarters {
  if (a.den === b.den) return quarters(a.num + b.num, a.den);
  const shared = gcd(a.den, b.den);
  return quarters(a.num * (b.den / shared) + b.num * (a.den / shared), (a.den / shared) * b.den);
}

/**
 * The first time less the second.
 * Shape:  exact, may be negative
 * Units:  quarter notes
 * Errors: as addQuarters
 */
export function subtractQuarters(a: Quarters, b: Quarters): Quarters {
  return addQuarters(a, quarters(-b.num, b.den));
}

/**
 * A time multiplied by the exact ratio `num / den`.
 * Shape:  exact
 * Units:  quarter notes; the ratio has none
 * Errors: as quarters
 */
export function scaleQuarters(a: Quarters, num: number, den = 1): Quarters {
  const left = gcd(a.num, den) || 1;
  const right = gcd(num, a.den) || 1;
  return quarters((a.num / left) * (num / right), (a.den / right) * (den / left));
}

/**
 * Orders two times.
 * Shape:  below 0, 0 or above 0
 */
export function compareQuarters(a: Quarters, b: Quarters): number {
  if (a.den === b.den) return a.num - b.num;
  const left = a.num * b.den;
  const right = b.num * a.den;
  if (Number.isSafeInteger(left) && Number.isSafeInteger(right)) return left - right;
  const exact = BigInt(a.num) * BigInt(b.den) - BigInt(b.num) * BigInt(a.den);
  return exact < 0n ? -1 : exact > 0n ? 1 : 0;
}

/**
 * The later of two times.
 * Shape:  one of the two
 * Units:  quarter notes
 */
export function laterOf(a: Quarters, b: Quarters): Quarters {
  return compareQuarters(a, b) >= 0 ? a : b;
}

/**
 * The nearest floating number, for seconds and drawing only.
 * Shape:  any real number
 * Units:  quarter notes
 */
export function toNumber(time: Quarters): QuarterCount {
  return time.num / time.den;
}
