import { plainSigns, present, remembered, rememberedFor } from '../base/index.js';
import { BODY_WORDS, HEADING_WORDS, INSTRUMENTS } from './instruments.data.js';
import type { Piece } from './text/piece.js';

const YEAR =
  /(?<![\d/.-])(20\d\d)\s*(?:-|\/|to|and)\s*(20\d\d|\d\d)(?![\d/])|(?<![\d/.-])(20\d\d)(?!\d|\s*-\s*\d{2}-)/u;
const NAMES = INSTRUMENTS.map(([name]) => name).join('|');
const PITCH = '(?:[a-g](?:[b♭]|-flat|\\sflat)?\\s+)?';
const TUNED = '(?:\\s+in\\s+[a-g](?:[b♭]|-flat)?(?![\\p{L}])|\\s+\\([a-g](?:[b♭]|-flat)\\))?';
const INSTRUMENT = new RegExp(`(?<![\\p{L}-])(?:${PITCH}(?:${NAMES})(?:s|es)?(?![\\p{L}-])${TUNED})`, 'giu');
const ONLY_INSTRUMENT = new RegExp(
  `^(?:the\\s+)?${PITCH}(?:${NAMES})(?:s|es)?${TUNED}(?:\\s+(?:I|II|1|2)(?:\\s*(?:,|&|and|/)\\s*(?:II|2))?)?(?:\\s*(?:,|&|and|/|or)\\s*${PITCH}(?:${NAMES})(?:s|es)?${TUNED})*(?:\\s+(?:section|requirements?|auditions?|etudes?))?\\s*:?$`,
  'iu',
);
const SEPARATOR = /\s+-{1,2}\s+|:\s+|\s+[|·•/>]\s+|,\s+|\s{2,}|--/u;

/** What the top of a sheet says. */
export interface Heading {
  readonly body: string | null;
  readonly year: string | null;
  readonly instruments: readonly string[];
}

/**
 * Reads body, year and instruments from the lines that head a sheet.
 * Shape:  as printed; the year normalised to "2027" or "2026-27"
 * Source: docs/formats.md
 */
export function readHeading(head: readonly Piece[], text: string): Heading {
  const candidates = head
    .filter(({ plain }) => !/\S\s>\s\S/u.test(plain))
    .flatMap((line) => bodyCandidates(line));
  // On one line the name comes first; what follows it is the ensemble, the instrument or the season.
  const best = candidates.reduce<BodyCandidate | null>(
    (top, next) =>
      top === null || (next.score > top.score && !(top.line === next.line && top.score > 0)) ? next : top,
    null,
  );
  const body = best?.body ?? head.map((line) => bodyInSentence(line)).find((found) => found !== null) ?? null;
  return { body, year: yearIn(head) ?? yearInText(text), instruments: instrumentsIn(head, best, text) };
}

/** What publishes a sheet rather than plays (common practice, no source). */
const ORGANISATION =
  /\b(?:association|board|society|union|congress|guild|league|federation|council|conservator(?:y|ium)|academy|trust|educators|teachers|directors|masters|exchange|circle|assembly|consortium|foundation|prize|institute|examinations?|alliance|committee)\b/giu;

interface BodyCandidate {
  readonly body: string;
  readonly score: number;
  readonly line: Piece;
}

const bodyCandidates = rememberedFor((line: Piece): readonly BodyCandidate[] => {
  if (/[.!?]$/u.test(line.plain) && line.plain.length > 40) return [];
  if (/^dear\b/iu.test(line.plain)) return [];
  return segmentsOf(line).flatMap((segment): BodyCandidate[] => {
    const body = segment
      .replace(/^[\s*#=~_-]+|[\s*#=~_-]+$/gu, '')
      .replace(/^(?:subject|re)\s*:\s*/iu, '')
      .replace(/^.*<[^<>@\s]+@[^<>\s]+>.*$/u, '')
      .replace(/^.*\b(?:for|of)\s+the\s+(?=(?:\p{Lu}[\p{L}'-]*\s+){2})/u, '')
      .replace(/^(?:(?:memo|notice|letter|news)\s+)?from\s+(?:the\s+)?/iu, '')
      .replace(/\s*\(?(?:20\d\d)(?:\s*[-–/]\s*(?:20)?\d\d)?\)?(?:\s+season)?\s*/iu, ' ')
      .replace(/\s+2\d[-/]2\d(?=\s|$)/u, ' ')
      .trim();
    const rest = body
      .replace(HEADING_WORDS, ' ')
      .replace(INSTRUMENT, ' ')
      .replace(/[^\p{L}]+/gu, ' ')
      .trim();
    if (rest.length < 3 || /^\p{Ll}/u.test(body) || /\b(?:measures?|tempo|deadline)\b/iu.test(rest))
      return [];
    const words = new Set([...body.matchAll(BODY_WORDS)].map(([word]) => word.toLowerCase()));
    const organised = new Set([...body.matchAll(ORGANISATION)].map(([word]) => word.toLowerCase()));
    return [{ body, score: words.size + 2 * organised.size, line }];
  });
});

/** A heading cut at its separators, wide gaps between words included. */
function segmentsOf(line: Piece): string[] {
  const cuts = [...line.plain.matchAll(new RegExp(SEPARATOR.source, 'gu'))].map(({ index, 0: joint }) => ({
    start: index,
    end: index + joint.length,
  }));
  for (let n = 0; n < line.plain.length - 1; n += 1) {
    const isGap = line.plain[n] === ' ' && (line.at[n + 1] ?? 0) - (line.at[n] ?? 0) >= 2;
    if (isGap && !cuts.some(({ start, end }) => n >= start && n < end)) cuts.push({ start: n, end: n + 1 });
  }
  const pieces: string[] = [];
  let place = 0;
  for (const { start, end } of cuts.sort((x, y) => x.start - y.start)) {
    pieces.push(line.text.slice(place, Math.max(place, start)));
    place = end;
  }
  return [...pieces, line.text.slice(place)].map((piece) => piece.trim()).filter((piece) => piece !== '');
}

/** "For the 2026-27 Heron Lake Select Band, alto saxophonists will play…" */
function bodyInSentence(line: Piece | undefined): string | null {
  const match =
    /\b(?:[Ff]or|of|[Bb]y|[Tt]o|in|with)\s+the\s+(?:20\d\d(?:\s*-\s*(?:20)?\d\d)?\s+)?((?:\p{Lu}[\p{L}'-]*\s*(?:of\s+|and\s+|&\s+)?){2,7})/u.exec(
      line?.plain ?? '',
    );
  return match ? present(match[1]).trim() : null;
}

function yearIn(head: readonly Piece[]): string | null {
  for (const { plain } of head) {
    const match = YEAR.exec(plain);
    const short = /(?<![\d/.-])(2\d)\s*[-/]\s*(2\d)(?![\d/-])/u.exec(plain);
    if (!match && short && Number(short[2]) === Number(short[1]) + 1) return `20${short[1]}-${short[2]}`;
    if (!match) continue;
    if (match[3] !== undefined) return match[3];
    return `${match[1]}-${(match[2] ?? '').slice(-2)}`;
  }
  return null;
}

/** A season that a sentence names: "in force for the 2026–2027 school year", "the list for 2027 auditions". */
const yearInText = remembered((text: string): string | null => seasonIn(text), { most: 4 });

function seasonIn(text: string): string | null {
  const plain = plainSigns(text).replace(/\s+/gu, ' ');
  const season = /(?<![\d/.-])(20\d\d)\s*(?:-|\/)\s*(?:20)?(\d\d)(?![\d-])/u.exec(plain);
  if (season && Number(season[2]) === (Number(season[1]) + 1) % 100) return `${season[1]}-${season[2]}`;
  return (
    /\b(20\d\d)\s+(?:season|auditions?|school year|syllabus|competition|festival|requirements|list)\b/iu.exec(
      plain,
    )?.[1] ?? null
  );
}

function instrumentsIn(head: readonly Piece[], body: BodyCandidate | null, text: string): string[] {
  const found: string[] = [];
  for (const line of head.filter(({ plain }) => !/^book|["“]/iu.test(plain))) {
    const own = body?.line === line ? line.text.replace(body.body, ' '.repeat(body.body.length)) : line.text;
    found.push(...instrumentNames(own));
  }
  if (found.length > 0) return unique(found);
  // The longest name wins: "bass clarinettists" are not clarinettists.
  const first = firstPlayer(text);
  return first === null ? [] : [titleCase(first)];
}

/** Those who play an instrument, by its name; the longest names come first. */
const PLAYERS = INSTRUMENTS.flatMap(([name, player]) =>
  player === null
    ? []
    : [
        {
          name,
          within: new RegExp(`(?<![\\p{L}])(?:${player})(?![\\p{L}])`, 'iu'),
          alone: new RegExp(`(?<![\\p{L}-])(?:${player})(?![\\p{L}])`, 'iu'),
        },
      ],
);

/** The first instrument whose players a text speaks of. */
const firstPlayer = remembered(
  (text: string): string | null => PLAYERS.find(({ within }) => within.test(text))?.name ?? null,
  { most: 4 },
);

/** Instruments named in a text, as printed. */
export const instrumentNames = remembered((text: string): readonly string[] => namesIn(text));

function namesIn(text: string): string[] {
  return [...text.matchAll(INSTRUMENT)].map(([name]) => calmInstrument(name));
}

/** "B♭ CLARINET" and "TRUMPET (B-flat)" as a sentence has them: B-flat Clarinet, B-flat Trumpet. */
function calmInstrument(printed: string): string {
  const tuned = /^(?<name>.+?)\s+\((?<pitch>[A-Ga-g](?:b|♭|-flat))\)$/u.exec(printed);
  const name = (tuned ? `${tuned.groups?.pitch} ${tuned.groups?.name}` : printed)
    .replace(/\s+/gu, ' ')
    .replace(/(?<=^[A-Ga-g])(?:♭|b(?=\s))/u, '-flat');
  const one = name.replace(/(?<!bas|bras|ani|mallet)s$/iu, '').replace(/(?<=mallet|drum)$/iu, '');
  const letters = one.replace(/-flat/u, '').replace(/[^\p{L}]/gu, '');
  return letters === letters.toUpperCase() && letters.length > 2 ? titleCase(one.toLowerCase()) : name;
}

/** Instruments named in a text, by themselves or by those who play them: "saxes and drummers". */
export function playersIn(text: string): string[] {
  const players = PLAYERS.flatMap(({ name, alone }) => (alone.test(text) ? [titleCase(name)] : []));
  return unique([...players, ...instrumentNames(text)]);
}

/** Whether a line is nothing but the name of one or several instruments. */
export const isInstrumentHeading = remembered((plain: string): boolean => isOnlyInstruments(plain));

function isOnlyInstruments(plain: string): boolean {
  return ONLY_INSTRUMENT.test(plain.trim());
}

function unique(names: readonly string[]): string[] {
  return names.filter(
    (name, n) => names.findIndex((other) => other.toLowerCase() === name.toLowerCase()) === n,
  );
}

function titleCase(name: string): string {
  return (name.split(/\|(?![^(]*\))/u)[0] ?? name)
    .replace(/\((?:\?:)?([^|)]*)[^)]*\)\??/gu, '$1')
    .replace(/(?<![\p{L}-])\p{Ll}/gu, (letter) => letter.toUpperCase())
    .replace(/\bIn (?=[A-G]\b)/u, 'in ')
    .trim();
}
