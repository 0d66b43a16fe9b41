import { fail, ok, type Result } from '../base/index.js';
import { checkBpm, type BeatUnit, type TempoBound, type TempoMark } from './tempo.js';
import { NOTE_VALUES, TEMPO_WORDS } from './tempo.data.js';

/** What can keep a tempo phrase from being read with confidence. */
export type TempoCode = 'tempo-empty' | 'tempo-unreadable' | 'tempo-two-readings' | 'bpm-out-of-range';

interface UnitMatch {
  readonly unit: BeatUnit | null;
  readonly rest: string;
}

const SHORT_UNITS: Readonly<Record<string, (typeof NOTE_VALUES)[number]['name']>> = {
  w: 'whole',
  h: 'half',
  q: 'quarter',
  e: 'eighth',
  s: 'sixteenth',
};
// Precomposed and combining spellings meet in NFC; the E… numbers are private-use glyphs of engraving fonts (SMuFL).
const GLYPHS: Readonly<Record<string, (typeof NOTE_VALUES)[number]['name']>> = {
  '♩': 'quarter',
  '♪': 'eighth',
  '\u{1D15D}': 'whole',
  '\u{1D157}\u{1D165}': 'half',
  '\u{1D158}\u{1D165}': 'quarter',
  '\u{1D158}\u{1D165}\u{1D16E}': 'eighth',
  '\u{1D158}\u{1D165}\u{1D16F}': 'sixteenth',
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
const DOT = '(?:\\.|·|\\u{1D16D}|\\uE1E7|\\uECB7)';

const byLength = (a: string, b: string): number => b.length - a.length;
const GLYPH_PATTERN = new RegExp(`(${Object.keys(GLYPHS).sort(byLength).join('|')})\\s*(${DOT}{0,2})`, 'u');
const WORD_PATTERN = new RegExp(
  `\\b(double[ -]dotted[ -]|dotted[ -])?(${NOTE_VALUES.flatMap(({ name, uk }) => [name, uk])
    .sort(byLength)
    .join('|')}|16th|8th|1/4|1/8|1/2)s?` + `(?:[ -]notes?)?\\b`,
  'iu',
);
const SHORT_PATTERN = new RegExp(`(?:^|[\\s([,;])([whqes])(${DOT}{0,2})(?=\\s*(?:=|equals|at\\s*\\d))`, 'iu');

/**
 * Reads a tempo phrase as sheets print it, in US and UK terms.
 * Shape:  character words go to `words` as printed; a number without a note ("at least 96") keeps `beatUnit` null,
 *         which the caller must ask about: it is never filled in
 * Units:  beats of the unit per minute
 * Errors: tempo-empty; tempo-two-readings; tempo-unreadable;
 *         bpm-out-of-range
 * Source: common practice, no source
 * @example parseTempo('q. = 60-66') // dotted-quarter, 60 to 66, range
 */
export function parseTempo(text: string): Result<TempoMark, TempoCode> {
  const phrase = text.normalize('NFC').replace(/\s+/gu, ' ').trim();
  if (phrase === '')
    return fail('tempo-empty', 'tempo', 'No tempo came; write one such as "quarter note = 96" or "Allegro".');
  const { unit, rest } = takeUnit(phrase);
  const numbers = readNumbers(rest);
  if (numbers.length === 0) return wordsOnly(phrase, unit);
  if (unit === null && !isTempoTalk(rest)) return unreadable(phrase);
  if (takeUnit(rest).unit !== null || numbers.length > 2) {
    return fail(
      'tempo-two-readings',
      'tempo',
      `"${phrase}" can be read as more than one tempo; write one note and one number or range.`,
    );
  }
  return withNumbers(unit, numbers, rest);
}

function takeUnit(phrase: string): UnitMatch {
  const glyph = GLYPH_PATTERN.exec(phrase);
  if (glyph) return cut(phrase, glyph, dotted(GLYPHS[glyph[1] ?? ''], countDots(glyph[2])));
  const short = SHORT_PATTERN.exec(phrase);
  if (short)
    return cut(phrase, short, dotted(SHORT_UNITS[(short[1] ?? '').toLowerCase()], countDots(short[2])));
  const word = WORD_PATTERN.exec(phrase);
  if (!word) return { unit: null, rest: phrase };
  const dots = word[1] === undefined ? 0 : /double/i.test(word[1]) ? 2 : 1;
  return cut(phrase, word, dotted(valueNamed((word[2] ?? '').toLowerCase()), dots));
}

function countDots(text: string | undefined): number {
  return [...(text ?? '')].length;
}

function valueNamed(name: string): (typeof NOTE_VALUES)[number]['name'] | undefined {
  const numeric: Readonly<Record<string, (typeof NOTE_VALUES)[number]['name']>> = {
    '16th': 'sixteenth',
    '8th': 'eighth',
    '1/4': 'quarter',
    '1/8': 'eighth',
    '1/2': 'half',
  };
  return numeric[name] ?? NOTE_VALUES.find((value) => value.name === name || value.uk === name)?.name;
}

function dotted(value: (typeof NOTE_VALUES)[number]['name'] | undefined, dots: number): BeatUnit | null {
  if (value === undefined) return null;
  return dots === 2 ? `double-dotted-${value}` : dots === 1 ? `dotted-${value}` : value;
}

function cut(phrase: string, match: RegExpExecArray, unit: BeatUnit | null): UnitMatch {
  const rest = `${phrase.slice(0, match.index)} ${phrase.slice(match.index + match[0].length)}`;
  return { unit, rest };
}

function readNumbers(rest: string): number[] {
  return [...rest.matchAll(/\d+(?:\.\d+)?/gu)].map(([digits]) => Number(digits));
}

function wordsOnly(phrase: string, unit: BeatUnit | null): Result<TempoMark, TempoCode> {
  const lower = phrase.toLowerCase();
  if (unit === null && TEMPO_WORDS.some((word) => new RegExp(`\\b${word}\\b`).test(lower))) {
    return ok({ beatUnit: null, bpmMin: null, bpmMax: null, bound: 'words', words: phrase });
  }
  return unreadable(phrase);
}

function unreadable(phrase: string): Result<TempoMark, TempoCode> {
  return fail(
    'tempo-unreadable',
    'tempo',
    `"${phrase}" is not a tempo we can read; write one such as "quarter note = 96".`,
  );
}

/** A number without a note is a tempo only among words that speak of tempo ("at least 96", "= 72", "120 bpm"). */
function isTempoTalk(rest: string): boolean {
  const other = rest
    .toLowerCase()
    .replace(
      /at least|at most|no slower than|no faster than|not to exceed|or faster|or slower|minimum|maximum|beats? per minute|a minute/gu,
      ' ',
    )
    .replace(
      /\b(bpm|m\.?m\.?|min|max|ca?|circa|about|approx\w*|around|roughly|to|equals|at|tempo|mark(ing|ed)?|up)\b/gu,
      ' ',
    );
  const words = TEMPO_WORDS.reduce((text, word) => text.replace(word, ' '), other);
  return !/[\p{L}]/u.test(words);
}

function withNumbers(
  unit: BeatUnit | null,
  numbers: readonly number[],
  rest: string,
): Result<TempoMark, TempoCode> {
  const [low = 0, high = low] = numbers;
  for (const bpm of numbers) {
    const checked = checkBpm(bpm, 'tempo');
    if (!checked.ok) return checked;
  }
  if (low > high) {
    return fail(
      'tempo-two-readings',
      'tempo',
      `The range runs from ${low} down to ${high}; write the slower number first.`,
    );
  }
  const bound = numbers.length === 2 && low < high ? 'range' : boundOf(rest);
  return ok({
    beatUnit: unit,
    bpmMin: bound === 'max' ? null : low,
    bpmMax: bound === 'min' ? null : high,
    bound,
    words: wordsIn(rest),
  });
}

function boundOf(rest: string): TempoBound {
  if (/at least|minimum|\bmin\b\.?|no slower|not slower|or faster|or more|or above|and up|≥|>=/iu.test(rest))
    return 'min';
  if (
    /at most|maximum|\bmax\b\.?|no faster|not faster|or slower|(?:not|never) (?:to )?exceed|up to|≤|<=/iu.test(
      rest,
    )
  )
    return 'max';
  return /\bca?\.|\bca\b|circa|about|approx|around|roughly|≈|~/iu.test(rest) ? 'about' : 'exact';
}

function wordsIn(rest: string): string | null {
  const lower = rest.toLowerCase();
  const known = TEMPO_WORDS.find((word) => new RegExp(`\\b${word}\\b`).test(lower));
  if (known === undefined) return null;
  const printed =
    /^[^\d=(),;]*/u
      .exec(rest.trim())?.[0]
      .replace(/\b(at|M\.?M\.?)\s*$/iu, '')
      .trim() ?? '';
  return printed === '' ? known : printed;
}
