import type { Found } from './found.js';
import { countOf } from './span-reader.js';
import type { ScaleNoteValue } from '../scale/index.js';
import type { PrintedRange } from './model.js';

const anyCase = (words: string): string =>
  words.replace(/[a-z]/gu, (letter) => `[${letter}${letter.toUpperCase()}]`);
const FORM = anyCase('natural|harmonic|melodic');
const MODE = `(?:(?<kind>${FORM})\\s+)?(?<mode>${anyCase('majors?|minors?')}|[Mm]aj\\b\\.?|[Mm]in\\b\\.?(?!\\s*(?:\\d|of|imum)))(?:\\s*[,(]?\\s*(?<kindAfter>${FORM})(?:\\s+(?:[Ff]orm|[Mm]inor))?\\s*\\)?)?`;
const NOTE =
  '[A-Ga-g](?:\\s?-?\\s?(?:[Ff]lat|[Ss]harp|[Nn]atural(?!\\s+minor)|FLAT|SHARP)\\b|[b#](?![A-Za-z]))?';
const KEYS = new RegExp(
  `(?<![\\p{L}#'])(?<concert>[Cc]oncert\\s+)?(?<notes>${NOTE}(?:\\s*(?:,|,?\\s+(?:and|AND)\\s+|&|/|,?\\s+or\\s+)\\s*(?:[Cc]oncert\\s+)?${NOTE}(?![\\p{L}])){0,14})\\s*-?\\s*(?:,\\s*)?${MODE}(?![\\p{L}])`,
  'gu',
);
const OTHER_MODES = new RegExp(
  `(?<![\\p{L}#'])(?<concert>concert\\s+)?(?<note>[A-G](?:\\s?-?\\s?(?:flat|sharp)\\b|[b#](?![A-Za-z]))?)\\s+(?<mode>dorian|phrygian|lydian|mixolydian|aeolian|locrian|whole[- ]tone|pentatonic|blues)(?![\\p{L}])`,
  'giu',
);

/** A key as found, with its neighbours of one list. */
export interface KeyFound {
  readonly keys: readonly string[];
}

/**
 * Finds keys: "E♭ major", "C harmonic minor", "A minor, melodic", "C, F and B-flat major".
 * Shape:  each key as letter, # or b, space, mode; "concert" in front where it is printed
 * Units:  signs must be plain (b, #)
 * Source: docs/formats.md
 */
export function findKeys(plain: string): Found<KeyFound>[] {
  const found = [...plain.matchAll(KEYS)].flatMap((match): Found<KeyFound>[] => {
    const { concert, notes = '', kind, kindAfter, mode = '' } = match.groups ?? {};
    const start = match.index;
    const end = start + match[0].length;
    if (isArticle(plain, start, { end, notes })) return [];
    const form = (kind ?? kindAfter)?.toLowerCase();
    const plainMode = /^maj/iu.test(mode) ? 'major' : 'minor';
    const names = notes
      .split(/\s*(?:,?\s+and\s+|,?\s+or\s+|,|&|\/)\s*(?:concert\s+)?/iu)
      .filter((name) => name !== '');
    const named = `${form === undefined || plainMode === 'major' ? '' : `${form} `}${plainMode}`;
    const isEach = isMarkedEach(plain, { end, notes, mode });
    const keys = names.map(
      (name, n) =>
        `${concert === undefined ? '' : 'concert '}${noteName(name)} ${isEach && n < names.length - 1 ? 'major' : named}`,
    );
    const both = /^\s*(?:and|&)\s*(?<form>harmonic|melodic|natural)\b/iu.exec(plain.slice(end));
    const last = names.at(-1);
    if (!both?.groups?.form || last === undefined) return [{ value: { keys }, start, end }];
    // "C sharp minor (harmonic and melodic)": both forms of it.
    const other = `${noteName(last)} ${both.groups.form.toLowerCase()} minor`;
    return [{ value: { keys: [...keys, other] }, start, end: end + both[0].length }];
  });
  const others = [...plain.matchAll(OTHER_MODES)].map(({ index, groups, 0: text }) => ({
    value: {
      keys: [
        `${groups?.concert === undefined ? '' : 'concert '}${noteName(groups?.note ?? '')} ${(groups?.mode ?? '').toLowerCase()}`,
      ],
    },
    start: index,
    end: index + text.length,
  }));
  return [...found, ...others].sort((a, b) => a.start - b.start);
}

/**
 * "E, A flat, C sharp minor, F minor": where several keys say that they are minor, those that say nothing are major.
 * Source: common practice, no source
 */
function isMarkedEach(
  plain: string,
  { end, notes, mode }: { readonly end: number; readonly notes: string; readonly mode: string },
): boolean {
  if (!/^minor$/iu.test(mode) || /\band\b|&|\//iu.test(notes)) return false;
  return new RegExp(`^\\s*(?:,|,?\\s+and\\s+)\\s*${NOTE}\\s*-?\\s*minor\\b`, 'iu').test(plain.slice(end));
}

/** "a minor scale" and "A major scale of your choice" name no A. */
function isArticle(
  plain: string,
  start: number,
  { end, notes }: { readonly end: number; readonly notes: string },
): boolean {
  if (notes !== 'a' && notes !== 'A') return false;
  const rest = plain.slice(end);
  if (notes === 'a') return /^\s+(?:scale|key|arpeggio|piece|work)/iu.test(rest);
  return (
    /^\s+scale\s+(?:of|chosen|from)\b/iu.test(rest) ||
    (/^\s+(?:work|piece|solo|movement|concerto)/iu.test(rest) && start >= 0)
  );
}

/** A note name in the format's letters: "B-flat" is Bb. */
export function noteName(text: string): string {
  const letter = text.trim().charAt(0).toUpperCase();
  const rest = text.trim().slice(1).toLowerCase();
  const sign = /flat|^b/u.test(rest) ? 'b' : /sharp|^#/u.test(rest) ? '#' : '';
  return `${letter}${sign}`;
}

const OCTAVE_COUNT = '(?:one|two|three|four|an|single|\\d(?:\\.5)?|\\d\\s?1/2|\\d?\\s?½)';
const OCTAVES = new RegExp(
  `(?<![\\w.])(?<count>${OCTAVE_COUNT})(?<half>[- ]and[- ]a[- ]half)?(?:(?:\\s*(?:-|to|or)\\s*)(?<other>${OCTAVE_COUNT}))?[- ]*(?:octaves?\\b|oct\\b\\.?|8ves?\\b|8vas?\\b)|(?<twelfth>\\b(?:an?\\s+|one\\s+)?(?:octave\\s+and\\s+a\\s+fifth|twelfth)s?\\b)`,
  'giu',
);

/**
 * Finds octave counts: "two octaves", "2½", "a twelfth" (1.5).
 * Shape:  both readings where two are offered ("two or three octaves")
 * Units:  octaves
 * Source: common practice: a twelfth is an octave and a fifth, counted 1.5
 */
export function findOctaves(plain: string): Found<readonly number[]>[] {
  if (!/oct|twelfth|8v/iu.test(plain)) return [];
  return [...plain.matchAll(OCTAVES)].map((match) => {
    const { count, other, half, twelfth } = match.groups ?? {};
    const one = twelfth === undefined ? octaveCount(count ?? '') + (half === undefined ? 0 : 0.5) : 1.5;
    const value = other === undefined ? [one] : [one, octaveCount(other)];
    return { value, start: match.index, end: match.index + match[0].length };
  });
}

function octaveCount(text: string): number {
  if (/^(?:an|single)$/iu.test(text)) return 1;
  const halves = /^(\d)\s?(?:1\/2|½)$/u.exec(text);
  if (halves) return Number(halves[1]) + 0.5;
  return /\d/u.test(text) ? Number(text) : countOf(text);
}

const VALUES: readonly (readonly [RegExp, ScaleNoteValue])[] = [
  [
    /(?<![\p{L}-])(?:(?:even|straight)\s+)?(?:(?:eighth|8th|quaver)[- ]?(?:notes?)?[- ]triplets?|triplet[- ](?:eighths?|8ths?|quavers?)(?:[- ]notes?)?|(?:in\s+)?triplets)(?![\p{L}])/giu,
    'eighth-triplet',
  ],
  [
    /(?<![\p{L}-])(?:(?:even|straight)\s+)?(?:sixteenths|semiquavers|16ths|(?:sixteenth|16th)[- ]notes?)(?![\p{L}])/giu,
    'sixteenth',
  ],
  [
    /(?<![\p{L}-])(?:(?:even|straight)\s+)?(?:eighths|quavers|8ths|(?:eighth|8th)[- ]notes?)(?![\p{L}])/giu,
    'eighth',
  ],
  [/(?<![\p{L}-])(?:(?:even|straight)\s+)?(?:quarters|crotchets|quarter[- ]notes?)(?![\p{L}])/giu, 'quarter'],
  [/(?<![\p{L}-])(?:halves|minims|half[- ]notes?)(?![\p{L}])/giu, 'half'],
  [/(?<![\p{L}-])(?:semibreves|whole[- ]notes?)(?![\p{L}])/giu, 'whole'],
];

/**
 * Finds the note value that a scale is played in; tempos must be covered before.
 * Shape:  in the order they stand
 * Source: common practice in US and UK print
 */
export function findNoteValues(plain: string): Found<ScaleNoteValue>[] {
  if (!/teenth|quaver|16th|eighth|8th|quarter|crotchet|hal(?:f|ves)|minim|whole|breve|triplet/iu.test(plain))
    return [];
  const found: Found<ScaleNoteValue>[] = [];
  for (const [pattern, value] of VALUES) {
    for (const match of plain.matchAll(pattern)) {
      const start = match.index;
      if (!found.some((other) => start < other.end && start + match[0].length > other.start))
        found.push({ value, start, end: start + match[0].length });
    }
  }
  return found.sort((a, b) => a.start - b.start);
}

const HEIGHT = '(?:low(?:est)?|middle|high(?:est)?|bottom|top|open|pedal|written|concert|double)';
const PLACE =
  '(?:\\s+(?:(?:two|three|four|five|\\d)\\s+(?:ledger\\s+)?(?:lines?|spaces?|octaves?)\\s+)?(?:below|above|on|in)\\s+(?:the\\s+)?(?:bass\\s+|treble\\s+|alto\\s+|tenor\\s+)?(?:clef\\s+)?(?:staff|stave|middle\\s+C))';
const PITCH = (height: string, octave: string, place: string): string =>
  `(?<${height}>(?:the\\s+)?(?:${HEIGHT}\\s*)+)?[A-G](?:\\s?-?\\s?(?:flat|sharp|natural)\\b|[b#](?![A-Za-z]))?(?<${octave}>-?\\d)?(?![\\p{L}\\d])(?<${place}>${PLACE})?`;
const RANGE = new RegExp(
  `(?<![\\p{L}\\d])(?:from\\s+)?(?<low>${PITCH('lowHeight', 'lowOctave', 'lowPlace')})\\s*(?:,\\s*)?(?:up\\s+to|to|-|through|up\\s+through|and)\\s*(?<high>${PITCH('highHeight', 'highOctave', 'highPlace')})(?:\\s+and\\s+(?:back|return|down again))?`,
  'giu',
);

/**
 * Finds a pitch range: "low E to high G", "E3–G6", "G below the staff to C above the staff".
 * Shape:  both ends as printed
 * Source: common practice
 */
export function findRanges(plain: string, printed: string): Found<PrintedRange>[] {
  return [...plain.matchAll(RANGE)].flatMap((match) => {
    const groups = match.groups ?? {};
    const { low = '', high = '' } = groups;
    const marks = [
      groups.lowHeight,
      groups.lowOctave,
      groups.lowPlace,
      groups.highHeight,
      groups.highOctave,
      groups.highPlace,
    ];
    if (marks.every((mark) => mark === undefined)) return [];
    if (
      /\sand\s/iu.test(match[0].slice(low.length, match[0].length - high.length)) &&
      !/^from/iu.test(match[0])
    )
      return [];
    const lowAt = match.index + match[0].indexOf(low);
    const highAt = match.index + match[0].indexOf(high, match[0].indexOf(low) + low.length);
    const value = {
      low: printed
        .slice(lowAt, lowAt + low.length)
        .replace(/^(?:the|written)\s+/iu, '')
        .replace(/♯/gu, '#')
        .replace(/♭/gu, 'b')
        .trim(),
      high: printed
        .slice(highAt, highAt + high.length)
        .replace(/^(?:the|written)\s+/iu, '')
        .replace(/♯/gu, '#')
        .replace(/♭/gu, 'b')
        .trim(),
    };
    return [{ value, start: match.index, end: match.index + match[0].length }];
  });
}

const BOWED =
  '(?:one|two|three|four|six|eight|\\d+)\\s+(?:notes?\\s+)?(?:to\\s+(?:a|the|each)|per|in\\s+(?:a|one|each))\\s+(?:bow|slur)';
const STROKE = `(?:${BOWED}|slur(?:red|s|ring)?|tongu(?:ed?|ing)|legato(?:[- ]tongued?)?|staccato|detached|d[eé]tach[eé]|separate\\s+bows?|tenuto|marcato|spiccato|martel[eé]|articulated|(?:single|double|triple)[- ]tongued?)`;
const WAY_OF_IT = `(?:\\s+(?:${BOWED}|up|down|ascending|descending|throughout|(?:by|in)\\s+(?:twos|threes|fours|pairs|two|three|four)|two|three|four|on\\s+the\\s+way\\s+(?:up|down)|going\\s+(?:up|down)|(?:the\\s+)?way\\s+(?:up|down)|style|bows?|bowing|notes))*`;
const BEFORE_STROKE = '(?:(?:both|lightly|slightly|half|first|even(?:ly)?)\\s+)*';
const ARTICULATION = new RegExp(
  `(?<![\\p{L}])${BEFORE_STROKE}${STROKE}(?![\\p{L}])${WAY_OF_IT}(?:(?:\\s*[,/&]\\s*(?:and\\s+|then\\s+)?|\\s+(?:and\\s+|or\\s+|then\\s+)?)${BEFORE_STROKE}${STROKE}(?![\\p{L}])${WAY_OF_IT})*`,
  'giu',
);

/**
 * Finds how a scale is articulated, in the sheet's words.
 * Shape:  as printed
 * Source: common practice
 */
export function findArticulations(plain: string, printed: string): Found<string>[] {
  if (
    !/slur|tongu|legato|staccato|detach|détach|bow|tenuto|marcato|spiccato|martel|articulated/iu.test(plain)
  )
    return [];
  return [...plain.matchAll(ARTICULATION)]
    .filter(
      ({ index, 0: text }) =>
        !/^(?:tongued?|slurs?|ties?)$/iu.test(text) ||
        /(?:[,;]|\ball)\s*$|^\s*$/iu.test(plain.slice(0, index)),
    )
    .map(({ index, 0: text }) => ({
      value: printed.slice(index, index + text.length).trim(),
      start: index,
      end: index + text.trimEnd().length,
    }));
}
