import { plainSigns } from '../../base/index.js';
import { partName } from '../identity.js';
import { findMentions, kindOf, labelKey } from '../labels.js';
import type { SheetPart, SheetQuestion, StructuredSheet } from '../model.js';
import { scopeNames, WHOLE_SCOPE } from '../scope.js';
import type { Line } from '../structure/wrapped.js';

/** What a sentence speaks of: a part of the sheet, or the name of one that no sheet is there for. */
export interface Subject {
  readonly label: string;
  readonly part: SheetPart | null;
}

/** The parts that a sentence may speak of: several where more than one carries the name. */
export function subjectsOf(plain: string, printed: string, base: StructuredSheet | null): Subject[] {
  const parts = base?.parts ?? [];
  const known = (found: readonly SheetPart[]): Subject[] =>
    found.map((part) => ({ label: part.label, part }));
  const byNumber = numberedIn(plain, parts);
  if (byNumber.length > 0) return known(byNumber);
  const mention = findMentions(plain, printed)[0] ?? null;
  const named = mention ? mentioned(mention.label, parts) : [];
  if (named.length > 0) return known(named);
  if (mention && (mention.isNumbered || base === null))
    return [{ label: mention.label.replace(/^\p{Ll}/u, (letter) => letter.toUpperCase()), part: null }];
  const first = parts.find(({ label }) => wordsOf(label).test(plain));
  if (first) return known(parts.filter(({ label }) => labelKey(label) === labelKey(first.label)));
  const byTitle = parts.filter(
    ({ title }) => title !== null && plain.toLowerCase().includes(plainSigns(title).toLowerCase()),
  );
  if (byTitle.length > 0) return known(byTitle);
  const ofKind = parts.filter(({ kind }) => kind === kindOf(plain));
  return ofKind.length === 1 ? known(ofKind) : [];
}

/** "Etude 1 (Study No. 14)": by the number in its book. */
function numberedIn(plain: string, parts: readonly SheetPart[]): SheetPart[] {
  const number = /\b(?:study|[eé]tude|no\.?)\s*(?:no\.?\s*)?(?<n>\d{1,3}[a-z]?)\)/iu.exec(plain)?.groups?.n;
  return parts.filter(({ source }) => number !== undefined && source.number === number);
}

/** By the label; "Etude 2" of a sheet that names its etudes otherwise is the second of them. */
function mentioned(label: string, parts: readonly SheetPart[]): SheetPart[] {
  const named = parts.filter((part) => labelKey(part.label) === labelKey(label));
  if (named.length > 0) return named;
  const nth = Number(/\s(\d{1,2})$/u.exec(label)?.[1] ?? Number.NaN);
  const ofKind = parts.filter(({ kind }) => kind === kindOf(label));
  const counted = ofKind[nth - 1];
  return counted && new Set(ofKind.map(({ scope }) => JSON.stringify(scope))).size === 1 ? [counted] : [];
}

function wordsOf(label: string): RegExp {
  return new RegExp(
    `(?<![\\p{L}\\d])${labelKey(label).replace(/[^\p{L}\d]+/gu, '[- ]?')}s?(?![\\p{L}\\d])`,
    'iu',
  );
}

/** Lines above that name no part: headings such as "Clarinet". */
export function headsAbove(lines: readonly Line[], line: Line): string[] {
  return lines
    .slice(0, lines.indexOf(line))
    .map(({ plain }) => plain)
    .filter((plain) => plain.length < 60 && findMentions(plain, plain).length === 0)
    .reverse();
}

/** Of parts of one name, those whose instrument, division or list the sentence names, or else the nearest line above. */
export function narrowed(
  subjects: readonly Subject[],
  heads: readonly string[],
  plain: string,
): readonly Subject[] {
  if (subjects.length < 2) return subjects;
  for (const text of [plain, ...heads]) {
    const named = subjects.filter(({ part }) =>
      scopeNames(part?.scope ?? WHOLE_SCOPE).some((name) =>
        new RegExp(`(?<!\\p{L})${name.replace(/[^\p{L}\d]+/gu, '[^\\p{L}]*')}s?(?!\\p{L})`, 'iu').test(text),
      ),
    );
    if (named.length > 0 && named.length < subjects.length) return named;
  }
  return subjects;
}

/** The question where several parts carry the name that a notice uses. */
export function whichPart(
  printed: string,
  subjects: readonly Subject[],
  base: StructuredSheet | null,
): SheetQuestion {
  const names = subjects.flatMap(({ part }) => (part ? [partName(part, base?.parts ?? [])] : []));
  return {
    partId: null,
    about: 'changes',
    ask: `"${printed}" Which one is meant: ${names.join(' or ')}?`,
    candidates: names,
  };
}
