import { findDivisions } from '../find-divisions.js';
import type { Division } from '../model.js';
import type { Statement } from '../structure/place.js';
import { use, type Claims } from './claims.js';

/** A rule of ages names a day, which is no deadline. */
export function readAges(claims: Claims, statement: Statement): boolean {
  const { piece } = statement;
  if (statement.place.section?.topic === 'divisions') return readDivisionsOf(claims, statement);
  const found = findDivisions(piece.plain, piece.text).filter(
    ({ value }) => value.ageMin !== null || value.ageMax !== null,
  );
  const isRule =
    found.length > 0 && /\b(?:old|age|aged|ages|under|over|not yet|younger|older)\b/iu.test(piece.plain);
  if (!isRule) return false;
  for (const { value } of found) addDivision(claims, value);
  return use(claims, piece, 'division');
}

/** Who a sentence says the sheet is for. Shape: whether it says so */
export function readDivisionsOf(claims: Claims, { piece, place }: Statement): boolean {
  const found = findDivisions(piece.plain, piece.text).filter(
    ({ value }) =>
      place.section?.topic === 'divisions' ||
      value.gradeMin !== null ||
      value.ageMin !== null ||
      value.ageMax !== null,
  );
  const lead =
    place.section?.topic === 'divisions'
      ? (/^(?<name>\p{Lu}[\p{L} ]{2,24}?)\s*(?:-|:|\()/u.exec(piece.plain)?.groups?.name ?? null)
      : null;
  for (const { value } of found) addDivision(claims, { ...value, name: value.name ?? lead });
  if (found.length > 0) use(claims, piece, 'division');
  return found.length > 0;
}

/** A division that says more of one that is known completes it. */
export function addDivision({ divisions }: Claims, next: Division): void {
  const isAlone = divisions.length === 1 && (next.name === null || divisions[0]?.name === null);
  const at = isAlone ? 0 : divisions.findIndex(({ name }) => name === next.name);
  const known = divisions[at];
  const isSaid = divisions.some(
    ({ gradeMin, gradeMax }) =>
      next.gradeMin !== null && gradeMin === next.gradeMin && gradeMax === next.gradeMax,
  );
  if (!known && next.name === null && isSaid) return;
  if (!known) {
    divisions.push(next);
    return;
  }
  divisions[at] = {
    name: known.name ?? next.name,
    gradeMin: known.gradeMin ?? next.gradeMin,
    gradeMax: known.gradeMax ?? next.gradeMax,
    ageMin: known.ageMin ?? next.ageMin,
    ageMax: known.ageMax ?? next.ageMax,
    asOf: known.asOf ?? next.asOf,
    text: known.text,
  };
}
