import { NOTE_VALUES, TEMPO_QUALIFIERS, TEMPO_WORDS } from './tempo.data.js';
import type { BeatUnit, NoteValue, TempoBound, TempoMark } from './tempo.js';

/**
 * A tempo as found in a longer text.
 * Shape:  `start` to before `end`; `isUnitLost` where a sign stood before "=" that no font shows any more
 * Units:  characters of the text given
 */
export interface TempoFound {
  readonly mark: TempoMark;
  readonly start: number;
  readonly end: number;
  readonly isUnitLost: boolean;
}

/** Private-use numbers are glyphs of engraving fonts (SMuFL); both spellings of Unicode's notes are listed. */
const GLYPHS: Readonly<Record<string, NoteValue>> = {
  '\u{1D15D}': 'whole',
  '\u{1D157}\u{1D165}': 'half',
  '\u{1D15E}': 'half',
  '\u{1D158}\u{1D165}': 'quarter',
  '\u{1D15F}': 'quarter',
  '♩': 'quarter',
  '\u{1D158}\u{1D165}\u{1D16E}': 'eighth',
  '\u{1D160}': 'eighth',
  '♪': 'eighth',
  '\u{1D158}\u{1D165}\u{1D16F}': 'sixteenth',
  '\u{1D161}': 'sixteenth',
  '\uE1D2': 'whole',
  '\uE1D3': 'half',
  '\uE1D5': 'quarter',
  '\uE1D7': 'eighth',
  '\uE1D9': 'sixteenth',
  '\uECA2': 'whole',
  '\uECA3': 'half',
  '\uECA5': 'quarter',
  '\uECA7': 'eighth',
  '\uECA9': 'sixteenth',
};
const ALIASES: Readonly<Record<string, NoteValue>> = {
  w: 'whole',
  h: 'half',
  q: 'quarter',
  e: 'eighth',
  s: 'sixteenth',
  qtr: 'quarter',
  '16th': 'sixteenth',
  '8th': 'eighth',
  '32nd': 'thirty-second',
  '1/1': 'whole',
  '1/2': 'half',
  '1/4': 'quarter',
  '1/8': 'eighth',
  '1/16': 'sixteenth',
};

const longestFirst = (words: readonly string[]): string =>
  [...words]
    .sort((a, b) => b.length - a.length)
    .map((word) => word.replace(/ /gu, '\\s+'))
    .join('|');

const VALUE_WORD = longestFirst([
  ...NOTE_VALUES.flatMap(({ name, uk }) => [name, uk]),
  '16th',
  '8th',
  '32nd',
  'qtr',
]);
const DOT = '[.·\\u{1D16D}\\uE1E7\\uECB7]';
const GLYPH = `(?<glyph>${Object.keys(GLYPHS)
  .sort((a, b) => b.length - a.length)
  .join('|')})\\s?(?<glyphDots>(?:${DOT}\\s?){0,2})`;
const SHORT =
  '(?<![\\p{L}\\d/.])(?:(?<shortWord>dotted)\\s+)?(?<short>[whqes]|1/(?:16|[1248]))(?<shortDots>\\.{0,2})';
const wordUnit = (dots: string, value: string): string =>
  `(?<![\\p{L}\\d-])(?<${dots}>double[- ]dotted|dotted|dot\\.)?[- ]?(?<${value}>${VALUE_WORD})s?\\.?(?:[- ]?notes?|[- ]?beats?)*(?![\\p{L}])`;
const WORD = wordUnit('dots', 'value');
const UNIT = `(?:${GLYPH}|${WORD}|${SHORT}(?=\\s*(?:=|equals\\b)))`;

const NUMBER = '\\d{1,4}(?:\\.\\d+)?(?!\\d|[:/]\\d|\\/|[Oo](?![\\p{L}]))';
const RANGE = `(?<low>${NUMBER})(?:\\s*(?:-|\\bto\\b|\\band\\b|\\bthrough\\b)\\s*(?:=\\s*)?(?<high>${NUMBER})(?!\\s*(?:points|pts|measures|bars|octaves|minutes))|\\s*(?:±|\\+\\/-|plus or minus)\\s*(?<spread>\\d{1,2})(?!\\d|\\s*(?:clicks?|notches)))?`;
const ABOUT = '(?:ca?\\b\\.?|circa|about|approx(?:\\.|imately)?|around|roughly|~|≈)';
const AT_LEAST =
  '(?:at least|(?:no|not) (?:slower|less) than|(?:at )?a? ?minimum(?: (?:tempo|speed))?(?: of)?|min\\b\\.?(?: of)?|>=?|≥|not below|at or above|faster than)';
const AT_MOST =
  '(?:at most|(?:no|not) (?:faster|more) than|(?:at )?a? ?maximum(?: (?:tempo|speed))?(?: of)?|max\\b\\.?(?: of)?|<=?|≤|(?:must )?(?:not|never) (?:to )?exceed(?:ing)?|up to|at or below|slower than)';
const LIMIT = `(?<about>${ABOUT})|(?<min>${AT_LEAST})|(?<max>${AT_MOST})`;
const BETWEEN = `\\s*(?:=|equals|is|at|:|of|\\()?\\s*(?:M\\.?\\s?M\\.?)?\\s*(?:${LIMIT}|between|from)?\\s*=?\\s*`;
const PER_MINUTE = '(?:\\s*(?:bpm\\b|b\\.p\\.m\\.|(?:beats\\s+)?(?:per|a) minute))?';

/** A number together with anything that can make it a tempo. */
const HINT = new RegExp(
  `(?:[=\u2669\u266a\\uE1D0-\\uE1E0\\uECA0-\\uECB0\u{1D15D}-\u{1D165}]|bpm|b\\.p\\.m|minute|tempo|metronome|M\\.?\\s?M\\b|${VALUE_WORD})`,
  'iu',
);
/** Two marks of one note with the words of a range between: "between ♩ = 100 and ♩ = 108". */
const TWICE = new RegExp(
  `(?:\\b(?:between|from)\\s+)${UNIT}\\s*(?:=|at)\\s*(?<low>${NUMBER})\\s*(?:-|and|to)\\s*${UNIT.replace(/\?<(\w+)>/gu, '?<$1Again>')}\\s*(?:=|at)\\s*(?<high>${NUMBER})`,
  'giu',
);
/** "M.M. = 132 (quarter note)", "72 BPM (quarter)": the note behind its number. */
const UNIT_BEHIND = new RegExp(
  `(?:\\bM\\.?\\s?M\\.?\\s*=?|=|\\bat)\\s*${RANGE}\\s*(?:bpm|beats per minute)?\\s*\\(\\s*(?:${GLYPH}|${WORD})\\s*(?:gets the beat)?\\)`,
  'giu',
);
const UNIT_FIRST = new RegExp(`${UNIT}${BETWEEN}${RANGE}${PER_MINUTE}`, 'giu');
const NUMBER_FIRST = new RegExp(
  `${RANGE}\\s*(?:(?:bpm|beats per minute)?\\s*(?:to (?:the|a|each|one)|per|=|for (?:the|a|each))\\s+(?:${GLYPH}|${WORD}|${SHORT}(?![\\p{L}\\d]))|${wordUnit('minuteDots', 'minuteValue')}\\s*(?:beats\\s*)?(?:per|a)\\s+minute)`,
  'giu',
);
const NO_UNIT = new RegExp(
  `(?:(?<lost>[\\uFFFD\\u25A1\\u2610?])\\s*(?<lostDot>\\.)?\\s*)?(?:(?<![\\p{L}\\d]\\s{0,2})=|\\bM\\.?\\s?M\\.?\\s*=?|\\b[Mm]etronome(?:\\s+[Mm]ark(?:ing)?)?\\s*[:=]?|\\b(?:[Tt]empo|TEMPO)\\s*(?:of|is|[:=])?)\\s*(?:${LIMIT}|between|from)?\\s*=?\\s*${RANGE}${PER_MINUTE}(?!\\s*(?:points|pts|measures|bars))`,
  'gu',
);
const ONLY_BPM = new RegExp(
  `(?:(?:${LIMIT})\\s*)?${RANGE}\\s*(?:bpm\\b|b\\.p\\.m\\.|beats\\s+(?:per|a)\\s+minute)`,
  'giu',
);

/** Each way of writing a tempo, with what a text must hold for it to be there at all. */
const PATTERNS: readonly (readonly [RegExp, RegExp])[] = [
  [TWICE, /between|from/iu],
  [UNIT_BEHIND, /\(/u],
  [UNIT_FIRST, HINT],
  [NUMBER_FIRST, /\d\s*(?:bpm|beats|to\s|per\s|=|for\s)|minute/iu],
  [NO_UNIT, /[=]|metronome|tempo|M\.?\s?M\b/iu],
  [ONLY_BPM, /bpm|b\.p\.m|beats/iu],
];
const LEADING_UNIT = new RegExp(`^${UNIT}`, 'iu');
const BARE = new RegExp(`^\\s*${NUMBER}`, 'u');
const BEFORE = new RegExp(
  `(?:${LIMIT})\\s*(?:(?:tempo|speed|of|a|the|metronome|marking|[:(=-]|M\\.?M\\.?)\\s*)*$`,
  'iu',
);
const AFTER =
  /^\s*[,;]?\s*\(?\s*(?:(?<min>,?\s*no\s+slower\b(?!\s+than\s+\d)|(?:or|and)\s+(?:faster|above|more|higher|quicker|up)\b|(?:is |as |at )?(?:the |a )?min(?:imum)?\b\.?|at (?:the )?(?:very )?least\b|\+)|(?<max>,?\s*no\s+faster\b(?!\s+than\s+\d)|or\s+(?:slower|below|less|under)\b|(?:is |as |at )?(?:the |a )?max(?:imum)?\b\.?|at (?:the )?most\b)|(?<about>or\s+(?:a\s+)?(?:little|bit|shade)\s+(?:under|over|less|more|slower|faster|below|above)|or\s+thereabouts|approx(?:\.|imately)?|more or less|ca?\.(?!\w)|circa))\s*\)?/iu;

/**
 * Finds every tempo in a text, in the order they stand.
 * Shape:  a number without a note keeps `beatUnit` null; words are not searched here
 * Units:  beats of the unit per minute; dashes must be plain "-"
 * Source: common practice in US and UK print, no source
 */
export function scanTempos(text: string): TempoFound[] {
  if (!/\d/u.test(text) || !HINT.test(text)) return [];
  const found: TempoFound[] = [];
  let rest = text;
  for (const [pattern, hint] of PATTERNS) {
    if (!hint.test(rest)) continue;
    for (const match of rest.matchAll(pattern)) {
      const one = tempoOf(match, text);
      if (!one) continue;
      found.push(one);
      rest = `${rest.slice(0, one.start)}${'\uE000'.repeat(one.end - one.start)}${rest.slice(one.end)}`;
    }
  }
  return found.sort((a, b) => a.start - b.start);
}

function tempoOf(match: RegExpMatchArray, text: string): TempoFound | null {
  const groups = match.groups ?? {};
  const spread = Number(groups.spread ?? 0);
  const low = Number(groups.low) - spread;
  const high =
    spread > 0 ? Number(groups.low) + spread : groups.high === undefined ? null : Number(groups.high);
  // Two notes that differ make no range.
  if (groups.valueAgain !== undefined && valueNamed(groups.valueAgain) !== valueNamed(groups.value))
    return null;
  const isBare = groups.value !== undefined && BARE.test(match[0].slice(unitText(match[0]).length));
  // "quarter notes 2 octaves" names a note value; a number that only stands beside a note must be a likely tempo.
  if (isBare && low < 30) return null;
  const unit = unitOf(groups);
  const before = BEFORE.exec(text.slice(Math.max(0, (match.index ?? 0) - 40), match.index));
  const end = (match.index ?? 0) + match[0].length;
  const after = AFTER.exec(text.slice(end, end + 40));
  const limits = [groups, before?.groups ?? {}, after?.groups ?? {}];
  const bound = high !== null && high !== low ? 'range' : boundOf(limits);
  // "in eighth notes at 100" names what is played, not what is counted.
  const isPlayed =
    /^(?:[a-z-]+ )?(?:[a-z]+s|[a-z0-9]+[- ]notes)\s+at\s/iu.test(match[0]) &&
    groups.minuteValue === undefined;
  return {
    mark: {
      beatUnit: isPlayed ? null : unit,
      bpmMin: bound === 'max' ? null : low,
      bpmMax: bound === 'min' ? null : (high ?? low),
      bound,
      words: null,
    },
    start: (match.index ?? 0) - (before ? before[0].length : 0),
    end: end + (after ? after[0].length : 0),
    isUnitLost: groups.lost !== undefined,
  };
}

/** How strictly the words around a number bind it. */
function boundOf(limits: readonly Readonly<Record<string, string | undefined>>[]): TempoBound {
  if (limits.some(({ min }) => min !== undefined)) return 'min';
  if (limits.some(({ max }) => max !== undefined)) return 'max';
  return limits.some(({ about }) => about !== undefined) ? 'about' : 'exact';
}

function unitText(text: string): string {
  return LEADING_UNIT.exec(text)?.[0] ?? '';
}

function unitOf(groups: Readonly<Record<string, string | undefined>>): BeatUnit | null {
  const name =
    groups.glyph === undefined
      ? valueNamed(groups.value ?? groups.minuteValue ?? groups.short)
      : (GLYPHS[groups.glyph] ?? null);
  if (name === null) return null;
  const written = groups.dots ?? groups.minuteDots ?? groups.shortWord;
  const count =
    written === undefined
      ? (groups.glyphDots ?? groups.shortDots ?? '').replace(/\s/gu, '').length
      : /double/iu.test(written)
        ? 2
        : 1;
  return count >= 2 ? `double-dotted-${name}` : count === 1 ? `dotted-${name}` : name;
}

function valueNamed(text: string | undefined): NoteValue | null {
  const name = (text ?? '').toLowerCase();
  return ALIASES[name] ?? NOTE_VALUES.find((value) => value.name === name || value.uk === name)?.name ?? null;
}

const FIRST_WORDS: ReadonlySet<string> = new Set(TEMPO_WORDS.map((words) => words.split(' ')[0] ?? ''));
const HEADING = new RegExp(
  `(?<![\\p{L}-])(?:${longestFirst(TEMPO_WORDS)})(?![\\p{L}-])(?:,?\\s+(?:${longestFirst([...TEMPO_QUALIFIERS, ...TEMPO_WORDS])}|(?<=\\s(?:e|ed|con|quasi)\\s+)\\p{Ll}+)(?![\\p{L}-]))*`,
  'giu',
);

/**
 * Finds character words that head a piece: "Allegro ma non troppo".
 * Shape:  as printed; with `isPrinted` only where the first letter is a capital, as headings have it
 * Units:  characters of the text given
 * Source: common practice, no source
 */
export function scanTempoWords(
  text: string,
  isPrinted = false,
): { readonly words: string; readonly start: number; readonly end: number }[] {
  if (
    !text
      .toLowerCase()
      .split(/[^\p{L}]+/u)
      .some((word) => FIRST_WORDS.has(word))
  )
    return [];
  return (
    [...text.matchAll(HEADING)]
      .filter(([words]) => !isPrinted || /^\p{Lu}/u.test(words))
      .map((match) => {
        const words = match[0].replace(/(?:,?\s+(?:and|with|but|e|ed|ma|not|tempo|very))+$/iu, '');
        return { words, start: match.index, end: match.index + words.length };
      })
      // "At a tempo of" heads nothing.
      .filter(({ words }) => words.length > 1)
  );
}
