import type { RevisedPart } from '@vivid-cue/core/program';
import { partView, type PartRow } from './sheet-part.js';

/** Stored parts with their origins. */
export function revisedParts(rows: readonly PartRow[]): RevisedPart[] {
  return rows.map((row) => ({ originId: row.origin_id, part: partView(row) }));
}
