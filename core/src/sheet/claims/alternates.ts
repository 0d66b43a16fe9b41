import { labelKey } from '../labels.js';
import type { PartKind } from '../model.js';
import {
  STRENGTH,
  type Evidence,
  type OpenChoice,
  type Outline,
  type Seed,
  type Statement,
} from '../structure/place.js';
import { isAlternate } from '../structure/prose.js';
import { slice, type Piece } from '../text/piece.js';

const NUMBER = '(?:no\\.?|number|#)\\s*(?<number>\\d{1,3}[a-z]?)';
const OFFER = new RegExp(`(?:\\beither\\s+|,?\\s*\\bor\\s+)(?=${NUMBER})`, 'giu');
const IN_PLACE = new RegExp(`\\b(?:in\\s+place\\s+of|instead\\s+of|rather\\s+than)\\s+${NUMBER}`, 'iu');
const WORKS: ReadonlySet<PartKind> = new Set(['etude', 'solo', 'excerpt']);

/**
 * Parts that offer one of several numbers become as many parts, and what may be played in place of one becomes a part
 * beside it; each with a choice between them.
 */
export function withAlternates(outline: Outline, newId: () => string): Outline {
  const choices: OpenChoice[] = [...outline.choices];
  const seeds = outline.seeds.flatMap((seed) => offered(seed, newId, choices));
  const statements = outline.statements.filter(
    (statement) => !addAlternate(statement, { seeds, choices, newId }),
  );
  return { ...outline, seeds, statements, choices };
}

/** "Either no. 7, p. 28, or no. 9, p. 34". */
function offered(seed: Seed, newId: () => string, choices: OpenChoice[]): Seed[] {
  if (!WORKS.has(seed.kind)) return [seed];
  const at = seed.evidence.findIndex(
    ({ piece }) => /\beither\b/iu.test(piece.plain) && [...piece.plain.matchAll(OFFER)].length >= 2,
  );
  const evidence = seed.evidence[at];
  if (!evidence) return [seed];
  const cuts = [...evidence.piece.plain.matchAll(OFFER)];
  const lead = slice(evidence.piece, 0, cuts[0]?.index ?? 0);
  const rest = [
    ...seed.evidence.slice(0, at),
    { ...evidence, piece: lead, isHead: true },
    ...seed.evidence.slice(at + 1),
  ].filter(({ piece }) => !isAlternate(piece.plain));
  const parts = cuts.map((cut, n): Seed => {
    const own = slice(
      evidence.piece,
      cut.index + cut[0].length,
      cuts[n + 1]?.index ?? evidence.piece.text.length,
    );
    return {
      ...seed,
      id: n === 0 ? seed.id : newId(),
      label: `${seed.label}, no. ${cut.groups?.number ?? n + 1}`,
      evidence: [...rest.map(asGroup), { ...evidence, piece: own, isHead: false }],
      group: seed.id,
    };
  });
  choices.push({ rule: 'oneOf', n: 1, of: parts.map(({ id }) => id), isApart: true });
  return parts;
}

/** What was said of the item before it was split holds for each, below what is said of each. */
function asGroup(evidence: Evidence): Evidence {
  return { ...evidence, strength: Math.min(evidence.strength, STRENGTH.group) };
}

interface Known {
  readonly seeds: Seed[];
  readonly choices: OpenChoice[];
  readonly newId: () => string;
}

/** "… may play no. 7b on p. 31 in place of no. 7", "… may replace Etude B with no. 24". Shape: false where it is none */
function addAlternate({ piece, seed }: Statement, { seeds, choices, newId }: Known): boolean {
  if (!isAlternate(piece.plain)) return false;
  const stands = IN_PLACE.exec(piece.plain);
  const own = new RegExp(`\\b${NUMBER}(?![^.;]*\\bwith\\s+(?:no\\.?|number|#))`, 'iu').exec(piece.plain);
  if (!own) return false;
  const base =
    seeds.find(({ label }) =>
      new RegExp(`(?<![\\p{L}\\d])${escaped(labelKey(label))}(?![\\p{L}\\d])`, 'iu').test(
        labelKey(piece.plain),
      ),
    ) ??
    seeds.find(
      ({ label, evidence }) =>
        stands !== null && evidence.some((one) => numbered(one.piece, stands.groups?.number)) && label !== '',
    ) ??
    seed;
  const known = seeds.find(({ id }) => id === base?.id);
  if (!known) return false;
  const said = slice(piece, own.index, stands?.index ?? piece.text.length);
  const isSame = /\b(?:timed|tempo|speed)\b[^.;]*\bsame\b|\bsame\s+(?:tempo|speed)\b/iu.test(piece.plain);
  const shared = known.evidence.filter(
    ({ strength, piece: one }) => strength === STRENGTH.group || (isSame && /=/u.test(one.plain)),
  );
  const alternate: Seed = {
    ...known,
    id: newId(),
    label: `${known.label.replace(/,? no\. \S+$/u, '')}, no. ${own.groups?.number ?? ''}`,
    evidence: [
      ...shared.map((one) => (isSame && /=/u.test(one.piece.plain) ? tempoOnly(one) : one)),
      { piece: said, role: 'text', strength: STRENGTH.own, isHead: false },
    ],
    isAlternate: true,
  };
  seeds.splice(seeds.indexOf(known) + 1, 0, alternate);
  const open = choices.find(({ of }) => of.includes(known.id));
  if (open?.isApart) open.of.push(alternate.id);
  else choices.push({ rule: 'oneOf', n: 1, of: [known.id, alternate.id], isApart: true });
  return true;
}

/** Of a text about another number, its tempo alone. */
function tempoOnly(evidence: Evidence): Evidence {
  const match = /[^(),;]*=[^(),;]*/u.exec(evidence.piece.plain);
  const piece = match ? slice(evidence.piece, match.index, match.index + match[0].length) : evidence.piece;
  return { ...evidence, piece, isHead: false };
}

function numbered({ plain }: Piece, number: string | undefined): boolean {
  return (
    number !== undefined && new RegExp(`\\b(?:no\\.?|number|#)\\s*${number}(?![\\da-z])`, 'iu').test(plain)
  );
}

function escaped(text: string): string {
  return text.replace(/[^\p{L}\d]+/gu, '[^\\p{L}\\d]+');
}
