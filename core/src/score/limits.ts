/** Bounds that keep a hostile file from costing more than a real one (our own limits, with room for long works). */
export const SCORE_LIMITS = Object.freeze({
  fileBytes: 10 * 1024 * 1024,
  unpackedBytes: 64 * 1024 * 1024,
  /** Real scores compress about 20 to 40 times (measured on our own); ten times that is no score. */
  unpackRatio: 400,
  archiveEntries: 200,
  depth: 48,
  elements: 3_000_000,
  nodesInOneChild: 4_000,
  measures: 10_000,
  notes: 300_000,
  parts: 200,
  divisions: 1_000_000,
  orderLength: 40_000,
});
