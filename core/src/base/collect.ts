/**
 * Sorts items into groups by a key, each group in the items' order.
 * Shape:  one entry a key that occurs, in the order they are met
 * Source: ECMAScript 2024, Map.groupBy, which Node.js 20 lacks
 */
export function groupBy<K, T>(items: Iterable<T>, keyOf: (item: T) => K): ReadonlyMap<K, readonly T[]> {
  const groups = new Map<K, T[]>();
  for (const item of items) {
    const key = keyOf(item);
    const group = groups.get(key);
    if (group) group.push(item);
    else groups.set(key, [item]);
  }
  return groups;
}

/**
 * How often each value comes, values in the order they are met.
 * Shape:  counts of at least 1
 */
export function countBy<T>(values: Iterable<T>): Map<T, number> {
  const counts = new Map<T, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  return counts;
}

/** The middle of some numbers, of two in the middle the upper one; null for none. */
export function upperMedian(values: readonly number[]): number | null {
  return [...values].sort((a, b) => a - b)[values.length >> 1] ?? null;
}

/** The number to so many decimals; halves go up. */
export function roundTo(value: number, decimals: number): number {
  const factor = 10 ** decimals;
  return Math.round(value * factor) / factor;
}

/** A text with a capital at its beginning. */
export function capital(text: string): string {
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}`;
}
