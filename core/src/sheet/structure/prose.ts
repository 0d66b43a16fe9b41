import { kindOf } from '../labels.js';
import type { PartKind } from '../model.js';
import { isPersonName } from '../work-line.js';
import { clausesOf } from '../sentences.js';
import { slice, type Piece } from '../text/piece.js';

const KIND =
  '(?:pieces?|[eé]tudes?|stud(?:y|ies)|excerpts?|scales?|arpeggios?|solos?|songs?|movements?|works?|selections?|requirements?|parts?|items?)';
const UNIVERSAL = new RegExp(
  `\\b(?:all|every|each|both)\\s+(?:of\\s+the\\s+)?(?:(?:other|the|prepared|required|major|minor)\\s+)*${KIND}\\b|\\bunless\\s+(?:otherwise|another|noted|stated|marked)|\\bthroughout\\b|^no\\s+(?:part|piece)\\b|^all\\s+(?:but|except)\\b|^(?:the\\s+)?(?:[eé]tudes|studies|excerpts|scales|pieces|movements|songs|books?(?=\\s+for\\b))\\b(?:[\\w\\s]{0,24}?)\\b(?:are|is|must|should|need|may|do|to\\s+be|from)\\b|^repeats?\\s+(?:are|is)\\b|^(?:pieces|[eé]tudes|studies|excerpts|scales|songs)\\s*:?\\s+\\d{1,3}\\s*(?:marks|points|pts)\\s+each|^books?\\s*:|^(?:everything|nothing)\\b|^(?:pieces?|items?)\\s+marked\\b|^(?:all|both)\\s+(?:by|from)\\s+(?:memory|heart)|^(?:omit|take|play|observe)\\s+(?:all\\s+|the\\s+)?repeats\\b.*\\b(?:both|all|etudes|everything)\\b`,
  'iu',
);

/** Whether a sentence speaks of all parts of a kind, or of all there are. */
export function isUniversal(plain: string): boolean {
  return UNIVERSAL.test(plain);
}

/** "Smaller hands may play no. 7b", "may replace Etude B with no. 24": another piece in place of one that is asked. */
export function isAlternate(plain: string): boolean {
  return (
    /\bmay\s+(?:instead\s+)?(?:play|replace|substitute|choose|prepare)\b/iu.test(plain) &&
    /\b(?:no\.?|number|#)\s*\d/iu.test(plain)
  );
}

/** "Etudes 40 each, scales 20": a list of points by kinds, and nothing else. */
export function isScoreList(plain: string): boolean {
  const items = plain.replace(/[.]$/u, '').split(/\s*[,;]\s*(?:and\s+)?|\s+and\s+/u);
  const kind =
    /^(?:(?:each|the|both)\s+)?(?:[eé]tudes?|stud(?:y|ies)|excerpts?|scales?|arpeggios?|chromatics?(?:\s+scales?)?|solos?|pieces?|sight[- ]?(?:reading|singing)|rudiments?|aural(?:\s+tests?)?|improvisation|technique|tone|memory)\s*[:=-]?\s*\d{1,3}(?:\s*(?:points?|pts|marks?|%))?(?:\s+each)?$/iu;
  return items.length >= 2 && items.every((item) => kind.test(item));
}

/** Whether a sentence speaks of everything that is played together. */
export function isProgram(plain: string): boolean {
  if (!/recording|program|audition|performance/iu.test(plain)) return false;
  return /\b(?:whole|entire|complete|total)\s+(?:recording|programme|program|audition|performance|set)|\b(?:recording|programme|program|audition)\s+(?:as\s+a\s+whole|in\s+all)|^(?:the\s+)?(?:programme|program)\s+(?:must|should|lasts|may)/iu.test(
    plain,
  );
}

/** A line that begins with a composer and a title, in either order. */
export function isWorkLine(plain: string): boolean {
  return (
    isPersonName(/^([^:,]{3,40})[:,]\s/u.exec(plain)?.[1] ?? '') ||
    /^\p{Lu}.{2,60}\s-\s\p{Lu}/u.test(plain) ||
    (/^[\p{Lu}"]/u.test(plain) && /(?:\bmm?\.|\bbars?|\bmeasures?|\bms\.|=)\s*\d/iu.test(plain))
  );
}

const COUNTED =
  /^(?:(?:and|or|also|then|please|you\s+will|candidates?|students?|prepare|perform|play|sing|present)\s+)*(?<np>(?:one|two|three|four|a|an|another|any)\s+(?:(?!octave)[\p{L}-]+\s+){0,3}?(?:movements?|songs?|[eé]tudes?|studies|study|solos?|pieces?|works?)\b)/iu;

/** A part that is asked for in words: "two contrasting movements from one sonata of your choice". */
export interface ChosenPart {
  readonly label: string;
  readonly kind: PartKind;
  readonly piece: Piece;
}

/** The parts that a sentence asks for by count and kind, clause by clause; null where it asks for none. */
export function chosenItem(
  piece: Piece,
): { readonly kind: PartKind; readonly parts: readonly ChosenPart[] } | null {
  const lead = /^[^:;,.]{3,30}:\s+/u.exec(piece.plain)?.[0].length ?? 0;
  const from = COUNTED.test(piece.plain.slice(lead)) ? lead : 0;
  const own = slice(piece, from);
  const parts = clausesOf(own.plain, { start: 0, end: own.plain.length }).flatMap(
    ({ start, end }): ChosenPart[] => {
      const clause = slice(own, start, end);
      const np = COUNTED.exec(clause.plain)?.groups?.np ?? scaleOffer(clause.plain);
      const kind = np === null || np === undefined ? null : kindOf(np);
      if (np === null || np === undefined || kind === null) return [];
      const at = clause.plain.indexOf(np);
      return [{ label: clause.text.slice(at, at + np.length), kind, piece: slice(clause, at) }];
    },
  );
  const own2 = parts.length === 0 ? ownChoice(own) : [];
  parts.push(...own2);
  const [first] = parts;
  return first ? { kind: first.kind, parts } : null;
}

/** "Each ensemble plays one set work and one own-choice work". */
function ownChoice(piece: Piece): ChosenPart[] {
  const match = /\b(?:one|an?)\s+own-choice\s+\p{L}+[^.;]*/iu.exec(piece.plain);
  if (!match) return [];
  const text = slice(piece, match.index, match.index + match[0].length);
  return [{ label: 'Own choice', kind: 'solo', piece: text }];
}

function scaleOffer(plain: string): string | null {
  return (
    /^(?:(?:and|also|prepare|play)\s+)*((?:one|a|any|two|another)\s+(?:[\p{L}-]+\s+){0,2}?scales?\b)/iu.exec(
      plain,
    )?.[1] ?? null
  );
}
