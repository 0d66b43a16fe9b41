import { remembered } from '../base/index.js';
import type { PartKind } from './model.js';

const KINDS: readonly (readonly [RegExp, PartKind])[] = [
  [/^SR$/u, 'sight-reading'],
  [/\bsight[- ]?(?:reading|singing|read)\b/iu, 'sight-reading'],
  [/\btonal memory\b|\baural\b|\bear[- ]training\b|\bear[- ]tests?\b/iu, 'aural'],
  [/\bimprov(?:is(?:ation|e|ed))?\b/iu, 'improvisation'],
  [/\brudiment/iu, 'rudiments'],
  [/\bchrom(?:atic)?\b/iu, 'chromatic'],
  [/\bscales?\b|\barpeggios?\b|\bbroken chords?\b/iu, 'scale'],
  [/\bvocalises?\b|\b[eé]tudes?\b|\bet\.(?=\s*\d)|\bstud(?:y|ies)\b|\bcaprices?\b/iu, 'etude'],
  [/\bexcerpts?\b|\bexc\.(?=\s*\w)/iu, 'excerpt'],
  [
    /\bsongs?\b|\bset works?\b|\bsolos?\b|\bpieces?\b|\bmovements?\b|\bconcerto\b|\bsonat(?:a|ina)\b|\bown[- ]choice\b|\bworks?\b|\brepertoire\b/iu,
    'solo',
  ],
];

/**
 * What kind of part a text speaks of, by its first telling word.
 * Shape:  null where no word tells
 * Source: common practice in US and UK terms
 */
export const kindOf = remembered((text: string): PartKind | null => kindIn(text));

function kindIn(text: string): PartKind | null {
  const found = KINDS.map(([pattern, kind], rank) => ({
    kind,
    rank,
    place: pattern.exec(text)?.index ?? -1,
  })).filter(({ place }) => place >= 0);
  // "chromatic scale" and "solo etude": the more telling word leads when they stand side by side.
  found.sort((a, b) => (Math.abs(a.place - b.place) < 14 ? a.rank - b.rank : a.place - b.place));
  return found[0]?.kind ?? null;
}

const ADJECTIVE =
  '(?:slow|fast|lyrical|technical|melodic|rhythmic|major|minor|harmonic minor|melodic minor|chromatic|required|prepared|orchestral|solo|first|second|contrasting|cadenza|jazz|snare|timpani|mallet|two-mallet|four-mallet|rudimental|standard)';
const KIND_WORD =
  '(?:[eé]tudes?|stud(?:y|ies)|excerpts?|solos?|scales?|arpeggios?|piece|sight[- ]?(?:reading|singing)|aural(?: tests?)?|ear[- ]training|improvisation|rudiments?|chrom(?:atic)?\\.?(?: scales?)?|SR|prepared piece|own[- ]choice(?: piece| solo| work)?|repertoire)';
const GENERIC = '(?:option|section|selection|choice|requirement|item|piece|movement|part|component|element)';

const NUMBERED = new RegExp(
  `(?<![\\p{L}\\d-])(?:(?:${ADJECTIVE}\\s+)?(?:[EeÉé]tudes?|ETUDE|ÉTUDE|[Ee]t\\.|[Ee]xc\\.|[Ss]tudy|STUDY|[Ee]xcerpt|EXCERPT|[Ss]olo|SOLO|[Ss]cale|SCALE|[Pp]iece|PIECE)|(?:[Oo]ption|OPTION|[Ss]ection|SECTION|[Ss]election|SELECTION|[Cc]hoice|CHOICE|[Rr]equirement|REQUIREMENT|[Ii]tem|ITEM|[Cc]omponent|[Pp]art|PART))\\s*(?:(?:No\\.?|NO\\.?|no\\.?|[Nn]umber)\\s*|#\\s*)?(?:\\d{1,2}|[A-H]|[IVX]{1,4}|[Oo]ne|[Tt]wo|[Tt]hree|[Ff]our|ONE|TWO|THREE)(?![\\p{L}\\d]|\\.\\d|\\s*(?:octave|minute|points?\\b|marks?\\b|pts\\b|in\\s+[A-G]\\b))`,
  'gu',
);
const AT_START = new RegExp(
  `^(?:and\\s+)?(?:(?:one|two|three|four|five|six|seven|eight|nine|ten|twelve|all|a|an|the|your|\\d{1,2})\\s+)?(?<label>(?:(?:${ADJECTIVE})[,\\s]+(?:and\\s+)?)*${KIND_WORD})(?=\\s*(?:[:,.;(\\uE000-]|$|\\bof\\b|\\bfrom\\b|\\bin\\b(?!\\s+[A-G](?:\\b|[b#]))|\\bto\\b|\\bbased\\b|\\bover\\b|\\bshould\\b|\\bmust\\b|\\bwill\\b|\\bis\\b|\\(|\\bfor\\b|\\bwith\\b|\\bon\\b|\\bstarting\\b|\\d))`,
  'iu',
);
const CODE = /^(?<label>[A-Z]\d{1,2})(?=[\s.:–—-])(?!\s*[–—-]\s*[A-G][#b♯♭]?\d)/u;
const GENERIC_KEYED = new RegExp(`^${GENERIC}\\s*:`, 'iu');
const IN_TEXT =
  /(?<=\b(?:the|a|an|and|by|perform(?:s|ed)?|play(?:s|ed)?|prepare[sd]?|includes?|then)\s+)(?<label>chromatic scales?|sight[- ]?reading|improvisation|aural tests?)(?![\w-])/giu;

/** A place in a text where a part is named. Units: characters. */
export interface Mention {
  readonly label: string;
  readonly start: number;
  readonly end: number;
  readonly isNumbered: boolean;
}

/**
 * Finds where parts are named in a line: by number anywhere, by their plain name where the line begins.
 * Shape:  in order
 * Units:  characters of the line
 * Source: common practice, no source
 */
export const findMentions = remembered((plain: string, printed: string): readonly Mention[] =>
  mentionsIn(plain, printed),
);

function mentionsIn(plain: string, printed: string): Mention[] {
  const found: Mention[] = [];
  const add = (start: number, length: number, isNumbered: boolean): void => {
    const end = start + length;
    if (found.some((other) => start < other.end && end > other.start)) return;
    found.push({ label: printed.slice(start, end), start, end, isNumbered });
  };
  const code = CODE.exec(plain);
  if (code) add(0, code[0].length, true);
  for (const match of plain.matchAll(NUMBERED)) {
    // "Winter Crossing, Etude No. 9" and "Study 12, in a book" name a piece of a book, not a part of the sheet.
    const before = plain.slice(0, match.index);
    if (/["\uE000)][,.]?\s*$|,\s*(?:from\s+)?$/u.test(before) && /no\.?|number|#/iu.test(match[0])) continue;
    if (/\bfrom\s+$/iu.test(before) && found.length > 0) continue;
    add(match.index, match[0].length, true);
  }
  const start = GENERIC_KEYED.test(plain) ? null : AT_START.exec(plain);
  if (start?.groups?.label) {
    const at = start[0].length - start.groups.label.length;
    add(at, start.groups.label.length, false);
  }
  if (found.length === 0)
    for (const match of plain.matchAll(IN_TEXT)) add(match.index, match[0].length, false);
  return found.sort((a, b) => a.start - b.start);
}

/**
 * A label as it is compared: "Étude No. 2", "etude #2" and "Etude two" are one.
 * Shape:  lower case, singular, digits
 */
export function labelKey(label: string): string {
  const words: Readonly<Record<string, string>> = {
    one: '1',
    two: '2',
    three: '3',
    four: '4',
    five: '5',
    six: '6',
  };
  return label
    .toLowerCase()
    .replace(/é/gu, 'e')
    .replace(/\b(?:no|number)\.?\s*(?=\d)|#\s*/gu, '')
    .replace(/\bstudies\b/gu, 'study')
    .replace(/\b(etude|excerpt|solo|scale|arpeggio|rudiment|test)s\b/gu, '$1')
    .replace(/\b(?:one|two|three|four|five|six)\b/gu, (word) => words[word] ?? word)
    .replace(/sight[- ]?reading/u, 'sight-reading')
    .replace(/\s+/gu, ' ')
    .trim();
}
