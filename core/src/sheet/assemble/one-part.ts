import type { PartKind, SheetPart } from '../model.js';
import { WHOLE_SCOPE } from '../scope.js';
import { findKeys } from '../find-scale.js';
import { STRENGTH, type Evidence, type Seed } from '../structure/place.js';
import { joined } from '../text/piece.js';
import { assembleParts } from './assemble.js';
import { NO_CLAIMS } from '../claims/claims.js';

/** What one text says of a part of a kind, read for itself. Shape: as a part of no place */
export function partSaid(text: string, kind: PartKind, isHead = false): SheetPart {
  const piece = joined([{ text, start: 0 }]);
  const evidence: Evidence[] = [{ piece, role: 'text', strength: STRENGTH.own, isHead }];
  const [key] = kind === 'scale' ? findKeys(piece.plain).flatMap(({ value }) => value.keys) : [];
  if (key !== undefined)
    evidence.push({ piece, role: 'key', strength: STRENGTH.own, isHead: false, value: key });
  const seed: Seed = {
    id: '',
    label: '',
    kind,
    place: { scope: WHOLE_SCOPE, section: null },
    at: 0,
    evidence,
    group: null,
  };
  const [one] = assembleParts([seed], NO_CLAIMS);
  if (!one) throw new Error('a seed gives a part');
  return one.part;
}
