import { groupBy } from '../../base/index.js';
import type { Claims, ScoreLine } from '../claims/claims.js';
import { kindOf, labelKey } from '../labels.js';
import type { Choice } from '../model.js';
import type { AssembledPart } from './assemble.js';

/**
 * Deals a list of points out to the parts: "etude 40, scales 30". Points that several parts of one player share are of
 * none of them.
 * Shape:  the parts with their points; what is shared goes to the claims
 */
export function withScores(
  assembled: readonly AssembledPart[],
  claims: Claims,
  choices: readonly Choice[],
): AssembledPart[] {
  let parts = [...assembled];
  for (const score of claims.scores) {
    const named = partsNamed(parts, score);
    if (named.length === 0) continue;
    const isShared = !score.isEach && sharing(named, choices);
    if (isShared) claims.shared.push(score.points);
    else {
      const ids = new Set(named.map(({ part }) => part.id));
      parts = parts.map((one) =>
        ids.has(one.part.id) && one.part.points === null
          ? { ...one, part: { ...one.part, points: score.points } }
          : one,
      );
    }
  }
  return parts;
}

function partsNamed(parts: readonly AssembledPart[], { name }: ScoreLine): AssembledPart[] {
  const range = /^items?\s+(\d+)\s+to\s+(\d+)$/iu.exec(name.replace(/\s*-\s*/gu, ' to '));
  if (range)
    return parts.filter(({ seed }) => {
      const n = Number(/^item\s+(\d+)/iu.exec(seed.label)?.[1] ?? Number.NaN);
      return n >= Number(range[1]) && n <= Number(range[2]);
    });
  const byLabel = parts.filter(({ seed }) => labelKey(seed.label) === labelKey(name));
  if (byLabel.length > 0) return byLabel;
  const isOwn = /\bown[- ]choice\b/iu.test(name);
  const isSet = /\bset works?\b/iu.test(name);
  const kind = /technical (?:requirements|work)/iu.test(name) ? 'scale' : kindOf(name);
  return parts.filter(({ part }) => {
    const isChosen = /choice/iu.test(part.title ?? '');
    if (isOwn || isSet) return part.kind === 'solo' && isChosen === isOwn;
    return kind !== null && part.kind === kind;
  });
}

/** Whether one player plays several of some parts. */
function sharing(named: readonly AssembledPart[], choices: readonly Choice[]): boolean {
  const players = groupBy(named, ({ part }) =>
    JSON.stringify([part.scope.instruments, part.scope.divisions]),
  );
  return [...players.values()].some((own) => {
    const ids = own.map(({ part }) => part.id);
    const isChoice = choices.some(
      ({ rule, of }) => rule === 'oneOf' && ids.every((id) => of.flat().includes(id)),
    );
    return own.length > 1 && !isChoice;
  });
}
