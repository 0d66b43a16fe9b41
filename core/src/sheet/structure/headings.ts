import { rememberedFor } from '../../base/index.js';
import { findDivisions } from '../find-divisions.js';
import { instrumentNames, isInstrumentHeading } from '../heading.js';
import { kindOf } from '../labels.js';
import type { Division, PartKind } from '../model.js';
import { isListName } from '../scope.js';
import { slice, type Piece } from '../text/piece.js';
import type { Topic } from './place.js';
import { isHeading, type Line } from './wrapped.js';

/** What a line is that heads others. Shape: `rest` is what stands on the line behind the heading */
export type Heading =
  | { readonly type: 'instrument'; readonly names: readonly string[]; readonly rest: Piece }
  | { readonly type: 'everyone'; readonly rest: Piece }
  | { readonly type: 'division'; readonly division: Division; readonly rest: Piece }
  | { readonly type: 'option'; readonly name: string; readonly rest: Piece }
  | { readonly type: 'list'; readonly name: string; readonly rest: Piece }
  | {
      readonly type: 'section';
      readonly kind: PartKind;
      readonly label: string;
      readonly isPlural: boolean;
      readonly mode: string | null;
      readonly rest: Piece;
    }
  | { readonly type: 'topic'; readonly topic: Topic | null; readonly rest: Piece };

const EVERYONE =
  /^(?:all|both)(?:\s+(?:instruments?|divisions?|levels?|candidates|students|players|performers|winds|strings))?$|^everyone$|^everybody$/iu;
const OPTION =
  /^(?<word>option|bundle|alternative|choice|programme|program|package)\s+(?<name>\d{1,2}|[A-H]|[IVX]{1,4})$/iu;
const KIND_NOUN =
  '(?:[eé]tudes?|stud(?:y|ies)|excerpts?|scales?|arpeggios?|chromatics?|solos?|pieces?|songs?|repertoire|sight[- ]?(?:reading|singing)|rudiments?|aural(?: tests?| skills?)?|improvisation|vocalises?|set works?|technical (?:requirements?|work|exercises?)|technique|own[- ]choice)';
const ADJECTIVE =
  '(?:required|prepared|orchestral|slow|fast|lyrical|technical|melodic|rhythmic|style|major|minor|chromatic|harmonic|melodic|natural|solo|first|second|third|chorus|choral|two-mallet|four-mallet|snare drum|timpani|keyboard|mallet|jazz|concert|standard)';
const KINDS = new RegExp(
  `^(?:${ADJECTIVE}\\s+)*${KIND_NOUN}(?:\\s*(?:,|and|&|\\/)\\s*(?:${ADJECTIVE}\\s+)*${KIND_NOUN})*$`,
  'iu',
);
const CAPITALS = new RegExp(`^(?:[\\p{Lu}'-]+\\s+){0,4}${KIND_NOUN}$`, 'iu');
const TOPICS: readonly (readonly [RegExp, Topic])[] = [
  [/\b(?:dates?|deadlines?|calendar|when|registration|schedule|timeline)\b/iu, 'dates'],
  [/\b(?:scoring|marking|points|marks|adjudication)\b/iu, 'scoring'],
  [/^(?:divisions?|eligibility|levels?|grades?|who can audition)$/iu, 'divisions'],
  [/^(?:f\.?a\.?q\.?s?\.?|questions?(?: and answers?)?|q\s*(?:&|and)\s*a)$/iu, 'answers'],
  [/\b(?:notes?|remarks?|general|rules|information|instructions)\b/iu, 'notes'],
];

/** "V I O L I N" is VIOLIN. */
export function unspaced(text: string): string {
  return /^(?:\p{Lu} ){2,}\p{Lu}$/u.test(text) ? text.replace(/ /gu, '') : text;
}

/** Points and brackets behind a heading say something of it; they are no part of its name. */
function nameOf(text: string): string {
  return unspaced(
    text
      .replace(/\s*[[(][^\])]*[\])]/gu, '')
      .replace(/\s*[:.?–—-]+$/u, '')
      .replace(/\s+\d{1,3}\s*(?:points?|pts|marks?)(?:\s+(?:each|for\s+both|in\s+all|altogether))?$/iu, '')
      .trim(),
  );
}

/** Places where a heading may end on its line. */
function endsOf({ plain, gap }: Line): number[] {
  const ends = [plain.length];
  for (const match of plain.matchAll(/:(?=\s|$)|[.?](?=\s)|\s-{1,2}\s/gu)) ends.push(match.index);
  if (gap > 0) ends.push(gap);
  const opening = plain.indexOf(' (');
  if (opening > 0) ends.push(opening);
  const paren = /\)(?=\s+\p{Lu})/u.exec(plain);
  if (paren) ends.push(paren.index + 1);
  return [...new Set(ends)].filter((end) => end <= 90).sort((a, b) => a - b);
}

/** What a line heads, or null where it is no heading. */
export const headingOf = rememberedFor((line: Line): Heading | null => {
  for (const end of endsOf(line)) {
    const printed = line.text.slice(0, end);
    const name = nameOf(line.plain.slice(0, end));
    if (name === '' || name.length > 60) continue;
    const heading = named(name, { printed, isAlone: end === line.plain.length, line });
    if (heading) return { ...heading, rest: restOf(line, end) };
  }
  return topicOf(line);
});

/** What follows a heading: brackets of the heading itself, and the words behind it. */
function restOf(line: Line, end: number): Piece {
  const bracket =
    /[[(][^\])]*[\])]/u.exec(line.plain.slice(0, end)) ??
    /(?<=\s)\d{1,3}\s*(?:points?|pts|marks?)(?:\s+(?:each|for\s+both|in\s+all|altogether))?$/iu.exec(
      line.plain.slice(0, end),
    );
  const from = bracket ? bracket.index : (/^[:.?\s–—-]*/u.exec(line.plain.slice(end))?.[0].length ?? 0);
  return slice(line, bracket ? from : end + from);
}

type Named = Heading extends infer One ? (One extends { rest: Piece } ? Omit<One, 'rest'> : never) : never;

function named(
  name: string,
  { printed, isAlone, line }: { readonly printed: string; readonly isAlone: boolean; readonly line: Line },
): Named | null {
  if (EVERYONE.test(name) && line.bullet === null) return { type: 'everyone' };
  const option = OPTION.exec(name);
  if (option && line.bullet === null) return { type: 'option', name: calm(name) };
  if (isListName(name) && line.bullet === null) return { type: 'list', name: calm(name) };
  if (isInstrumentHeading(name) && (line.bullet === null || isAlone))
    return { type: 'instrument', names: instrumentNames(unspaced(printed)) };
  const division = divisionOf(line, printed);
  if (division) return { type: 'division', division };
  if (line.bullet === null) return sectionOf(name, isAlone, line);
  // "4. Set works (play one)": a numbered line that is nothing but a heading.
  const isBare = isAlone && !/[.!?]$/u.test(line.plain) && /s$/iu.test(name) && line.plain.length < 50;
  // "B. REPERTOIRE (60 marks): one piece from each list".
  const isMany =
    isLoud(name) && /^(?:technique|repertoire|technical work)$|s$/iu.test(name) && KINDS.test(name);
  return isBare || isMany ? sectionOf(name, isAlone, line) : null;
}

/** A name in capitals. */
function isLoud(name: string): boolean {
  return name === name.toUpperCase() && /\p{Lu}{3}/u.test(name);
}

function sectionOf(name: string, isAlone: boolean, line: Line): Named | null {
  if (!KINDS.test(name) && !(isLoud(name) && CAPITALS.test(name))) return null;
  // "Solo – a work of your choice" is the part itself; so is a line that ends like a sentence.
  const isPlural =
    /(?:s|studies|repertoire|technique|work|requirements)$/iu.test(name) && !/rudiments$|aural/iu.test(name);
  const isSection =
    isLoud(name) ||
    isAlone ||
    (isPlural && line.gap > 0) ||
    (isPlural && /^[^:]*:|^[^-]*\s-\s/u.test(line.plain));
  if (!isSection) return null;
  const kind = /\btechnical (?:requirements?|work|exercises?)\b|\btechnique\b/iu.test(name)
    ? 'scale'
    : kindOf(name);
  if (kind === null) return null;
  const mode = /\b(major|minor)\b/iu.exec(name)?.[1]?.toLowerCase() ?? null;
  const form = /\b(harmonic|melodic|natural)\b/iu.exec(name)?.[1]?.toLowerCase();
  return {
    type: 'section',
    kind,
    label: calm(name),
    isPlural,
    mode: mode === 'minor' && form !== undefined ? `${form} minor` : mode,
  };
}

/** "DIVISION I (GRADES 6 AND 7)", "Junior – grades 7–8", "SENIOR DIVISION". */
function divisionOf(line: Line, printed: string): Division | null {
  if (line.plain.length > 90) return null;
  const bracket = /^\s*[[(][^\])]*[\])]/u.exec(line.plain.slice(printed.length))?.[0].length ?? 0;
  const own = line.plain.slice(0, printed.length + bracket);
  const found = findDivisions(own, line.text.slice(0, own.length));
  const [first] = found;
  if (found.length !== 1 || !first?.value.name) return null;
  const around = `${own.slice(0, first.start)}${own.slice(first.end)}`.replace(
    /\b(?:auditions?|requirements?|etudes?)\b/giu,
    '',
  );
  return /^[\s\p{P}]*$/u.test(around) ? first.value : null;
}

function topicOf(line: Line): Heading | null {
  if (line.bullet !== null || !isHeading(line.text) || /\d/u.test(line.plain)) return null;
  const name = nameOf(line.plain);
  const topic = TOPICS.find(([pattern]) => pattern.test(name))?.[1] ?? null;
  return { type: 'topic', topic, rest: slice(line, line.text.length) };
}

/** A name printed in capitals as a sentence has it. */
export function calm(name: string): string {
  const letters = name.replace(/[^\p{L}]/gu, '');
  if (letters.length < 3 || letters !== letters.toUpperCase()) return name;
  return (
    name.charAt(0) +
    name
      .slice(1)
      .toLowerCase()
      .replace(/(?<= )(?:[a-h]|[ivx]+)$/u, (end) => end.toUpperCase())
  );
}
