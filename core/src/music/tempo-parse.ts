import { fail, ok, plainSigns, type Result } from '../base/index.js';
import type { Bpm } from './units.js';
import { checkBpm, quarterBpm, type BeatUnit, type TempoMark } from './tempo.js';
import { scanTempos, scanTempoWords } from './tempo-scan.js';

/** What can keep a tempo phrase from being read with confidence. */
export type TempoCode = 'tempo-empty' | 'tempo-unreadable' | 'tempo-two-readings' | 'bpm-out-of-range';

/** A question that only a person can answer, with the readings to choose from. */
export interface TempoQuestion {
  readonly code: TempoCode | 'tempo-without-unit';
  readonly question: string;
  readonly candidates: readonly TempoMark[];
}

/**
 * Reads a tempo phrase as sheets print it, in US and UK terms.
 * Shape:  character words go to `words` as printed; a number without a note ("at least 96") keeps `beatUnit` null,
 *         which the caller must ask about: it is never filled in
 * Units:  beats of the unit per minute
 * Errors: tempo-empty; tempo-two-readings; tempo-unreadable;
 *         bpm-out-of-range
 * Source: common practice, no source
 * @example parseTempo('at least 96 to the crotchet') // { beatUnit: 'quarter', bpmMin: 96, bpmMax: null, bound: 'min', words: null }
 */
export function parseTempo(text: string): Result<TempoMark, TempoCode> {
  const read = readMarks(text);
  if ('mark' in read) return ok(read.mark);
  return fail(read.code, 'tempo', read.question);
}

/**
 * Reads a tempo phrase or says what to ask: a number without its note is a question here.
 * Shape:  exactly one of mark and question; candidates may be empty
 * Units:  beats of the unit per minute
 * Errors: none; what cannot be read is a question
 * Source: docs/formats.md
 * @example 'question' in askTempo('120 bpm') // true
 */
export function askTempo(text: string): { readonly mark: TempoMark } | TempoQuestion {
  const read = readMarks(text);
  if (!('mark' in read)) return read;
  return questionOfMark(read.mark, text.trim()) ?? read;
}

/** The units that a number without a note is likeliest to count, to offer as candidates (common practice, no source). */
const LIKELY_UNITS: readonly BeatUnit[] = ['quarter', 'half', 'eighth', 'dotted-quarter'];

/** The question that a tempo number without its note raises, or null. */
export function questionOfMark(mark: TempoMark, printed: string): TempoQuestion | null {
  if (mark.beatUnit !== null || (mark.bpmMin ?? mark.bpmMax) === null) return null;
  return {
    code: 'tempo-without-unit',
    question: `"${printed}" gives a number but not the note it counts. Which note gets ${mark.bpmMin ?? mark.bpmMax} beats a minute?`,
    candidates: LIKELY_UNITS.map((beatUnit) => ({ ...mark, beatUnit })),
  };
}

function readMarks(
  text: string,
): { readonly mark: TempoMark } | (TempoQuestion & { readonly code: TempoCode }) {
  const phrase = text.replace(/\s+/gu, ' ').trim();
  if (phrase === '')
    return ask('tempo-empty', 'No tempo came; write one such as "quarter note = 96" or "Allegro".');
  const plain = plainSigns(phrase);
  const found = scanTempos(plain);
  const open = unusedNumber(phrase, plain, found);
  if (open) return open;
  const none = /^(?:tempo\s*[:=]\s*)?(?:none|no tempo)(?:\s+(?:given|stated|marked))?\.?$/iu.test(plain);
  if (none) return { mark: { beatUnit: null, bpmMin: null, bpmMax: null, bound: 'none', words: null } };
  if (AS_MARKED.test(plain) && found.length === 0)
    return { mark: { beatUnit: null, bpmMin: null, bpmMax: null, bound: 'words', words: 'as marked' } };
  const marks = found.map(({ mark }) => mark);
  const [first = bareNumber(plain)] = distinctTempos(marks);
  if (first === undefined || first === null) return wordsOnly(phrase, plain);
  const readings = distinctTempos([...marks, ...alternatives(plain, found)]);
  if (readings.length > 1)
    return ask(
      'tempo-two-readings',
      `"${phrase}" can be read as more than one tempo; write one note and one number or range.`,
      readings,
    );
  for (const bpm of [first.bpmMin, first.bpmMax]) {
    const checked = bpm === null ? ok(0) : checkBpm(bpm, 'tempo');
    if (!checked.ok) return ask('bpm-out-of-range', checked.issues[0]?.message ?? '');
  }
  const { bpmMin: low, bpmMax: high } = first;
  if (low !== null && high !== null && low > high)
    return ask(
      'tempo-two-readings',
      `The range runs from ${low} down to ${high}; write the slower number first.`,
      [{ ...first, bpmMin: high, bpmMax: low }],
    );
  return { mark: { ...first, words: scanTempoWords(plain)[0]?.words ?? character(plain) } };
}

const AS_MARKED = /^(?:play(?:ed)?\s+)?as\s+(?:marked|written|printed|indicated)\.?$/iu;

/** "Ballad (♩ = 60)": what heads a mark in brackets. */
function character(plain: string): string | null {
  return /^(?<words>\p{Lu}\p{Ll}+(?:\s+\p{Ll}+){0,2})\s*\([^)]*=[^)]*\)$/u.exec(plain)?.groups?.words ?? null;
}

/** A number, or a word that changes one, that no mark holds: never left out, always asked about. */
function unusedNumber(
  phrase: string,
  plain: string,
  found: ReturnType<typeof scanTempos>,
): (TempoQuestion & { readonly code: TempoCode }) | null {
  const marks = found.map(({ mark }) => mark);
  if (/\d[Oo](?!\p{L})|\d[lI]\d/u.test(plain))
    return ask(
      'tempo-two-readings',
      `"${phrase}" has a letter among its figures. Which number is meant?`,
      scanTempos(plain.replace(/(?<=\d)[Oo](?!\p{L})/gu, '0')).map(({ mark }) => mark),
    );
  if (/\b(?:clicks?|notches)\b/iu.test(plain) && found.length > 0)
    return ask(
      'tempo-two-readings',
      `"${phrase}": is a click one beat a minute or one step of a metronome?`,
      marks,
    );
  if (/\b(?:in\s+(?:two|one|four)|cut time|alla breve)\b/iu.test(plain) && found.length > 0)
    return ask(
      'tempo-two-readings',
      `"${phrase}" is felt in another beat than it is marked in. Which note gets the number?`,
      [...marks, ...marks.map((mark): TempoMark => ({ ...mark, beatUnit: 'half' }))],
    );
  const behind = found.find(({ end }) => /^\s+\d{2,3}(?!\d|\s*(?:points|pts|%))/u.test(plain.slice(end)));
  if (behind)
    return ask(
      'tempo-two-readings',
      `"${phrase}" has two numbers with nothing between them. Is it a range?`,
      marks,
    );
  return null;
}

function ask<Code extends TempoCode>(
  code: Code,
  question: string,
  candidates: readonly TempoMark[] = [],
): { readonly code: Code; readonly question: string; readonly candidates: readonly TempoMark[] } {
  return { code, question, candidates };
}

/**
 * Tempos that are not the same pulse counted in another note: ♩ = 80 and ♪ = 160 are one.
 * Shape:  the first of each pulse, in order
 * Source: arithmetic
 */
export function distinctTempos(marks: readonly TempoMark[]): TempoMark[] {
  const pulse = ({ beatUnit, bpmMin, bpmMax, bound }: TempoMark): string =>
    [bound === 'about' ? 'exact' : bound, ...[bpmMin, bpmMax].map((bpm) => pulseOf(bpm, beatUnit))].join(' ');
  return marks.filter((mark, n) => marks.findIndex((other) => pulse(other) === pulse(mark)) === n);
}

function pulseOf(bpm: Bpm | null, unit: BeatUnit | null): string {
  return bpm === null ? '' : unit === null ? `? ${bpm}` : String(quarterBpm(bpm, unit));
}

/** "♩ = 60 or 66": a second number that the phrase offers but no mark holds. */
function alternatives(plain: string, found: ReturnType<typeof scanTempos>): TempoMark[] {
  return found.flatMap(({ mark, end }) => {
    const other = /^\s*(?:bpm)?\s*(?:,\s*)?(?:or|\/)\s*(\d{2,3})\b/iu.exec(plain.slice(end))?.[1];
    return other === undefined ? [] : [{ ...mark, bpmMin: Number(other), bpmMax: Number(other) }];
  });
}

/** A number among words that speak of nothing but tempo: "at least 96", "ca. 60", "96-104". */
function bareNumber(plain: string): TempoMark | null {
  const words = scanTempoWords(plain);
  const rest = words.reduce(
    (text, { start, end }) => text.slice(0, start) + ' '.repeat(end - start) + text.slice(end),
    plain,
  );
  const bare =
    /^[\s,;(]*(?:(?:tempo|speed|metronome|mark(?:ing)?|the|of|at(?! least| most| a)|is|to|play|[:=])\s*)*(.*?\d.*?)[\s.;,)]*$/iu.exec(
      rest,
    )?.[1];
  if (bare === undefined) return null;
  const [found, more] = scanTempos(`= ${bare}`);
  return found && !more && found.end >= bare.length + 2 ? found.mark : limited(bare);
}

/** "96 or faster" and "at least 96" once more, with the limit in front of the sign. */
function limited(bare: string): TempoMark | null {
  const number = /\d+(?:\.\d+)?/u.exec(bare);
  if (!number) return null;
  const [found] = scanTempos(`${bare.slice(0, number.index)}= ${bare.slice(number.index)}`);
  const isWhole = found && found.start === 0 && found.end >= bare.length + 2;
  return isWhole ? found.mark : null;
}

function wordsOnly(phrase: string, plain: string): ReturnType<typeof readMarks> {
  const [heading] = scanTempoWords(plain);
  if (
    heading &&
    !/\d/u.test(plain) &&
    !/\bas (?:marked|written|printed)\b/iu.test(plain) &&
    !/=/u.test(plain)
  ) {
    const words = phrase
      .replace(/\s*[(;,]\s*no\s+(?:metronome\s+)?(?:marking|tempo|mark)(?:\s+given)?\)?\.?$/iu, '')
      .replace(/^\(|\)$|[.;,]$/gu, '')
      .replace(/^tempo\s*[:=]\s*/iu, '');
    return { mark: { beatUnit: null, bpmMin: null, bpmMax: null, bound: 'words', words } };
  }
  return ask(
    'tempo-unreadable',
    `"${phrase.slice(0, 80)}" is not a tempo we can read; write one such as "quarter note = 96".`,
  );
}
