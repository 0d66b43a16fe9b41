/**
 * Sorts rows into groups by a key, each group in the rows' order.
 * Shape:  one entry a key that occurs
 * Units:  none
 * Errors: none
 * Source: ECMAScript 2024, Map.groupBy, which Node.js 20 lacks
 */
export function groupBy<Row, Key>(
  rows: readonly Row[],
  keyOf: (row: Row) => Key,
): ReadonlyMap<Key, readonly Row[]> {
  const groups = new Map<Key, Row[]>();
  for (const row of rows) {
    const key = keyOf(row);
    const group = groups.get(key);
    if (group) group.push(row);
    else groups.set(key, [row]);
  }
  return groups;
}
