import { COUNT_WORDS } from '../base/index.js';
import type { SpanPoint } from './model.js';

const ORDINALS = [
  'first',
  'second',
  'third',
  'fourth',
  'fifth',
  'sixth',
  'seventh',
  'eighth',
  'ninth',
  'tenth',
];

const COUNT = new RegExp(`(${[...COUNT_WORDS].reverse().join('|')}|\\d{1,2})\\s+`, 'iy');
const NTH = new RegExp(
  `(?:the\\s+)?(${ORDINALS.join('|')}|\\d{1,2}(?:st|nd|rd|th))\\s+(?:measure|bar)\\s+(of|after)\\s+`,
  'iy',
);
const MEASURE_WORD = /(?:mm?(?![A-Za-z])\.?|measures?\b|meas\.|ms\.|bars?\b(?!\s*line)|bb?\.)\s*/iy;
const NUMBER = /(\d{1,4})(?![Oo](?!\w))([A-Za-z]?)(?![\w:/]|\.\d)/y;
const MARK_WORD =
  /(?:rehearsal\s+(?:letter|mark|figure|number)|rehearsal|reh\.?|letter|figure|fig\.|cue)\s*/iy;
const MARK = /\[?\s*(?:([A-Z]{1,2})(?![\w]|\.(?=\w)|'s)|(\d{1,3})(?!\w))\s*\]?/y;
const BRACKETED = /\[\s*(?:([A-Z]{1,2})|(\d{1,3}))\s*\]/y;
const LETTER = /([A-Z]{1,2})(?![\w'&]|\.(?=\w))/y;
const START = /(?:the\s+)?(?:very\s+)?(?:beginning|start|opening|top)(?!\w)/iy;
const DOUBLE_BAR =
  /(?:the\s+)?double\s+bar(?:\s*lines?)?(?!\w)(?!\s+(?:at|in|of)\s+(?:mm?|bb?|bars?|measures?)\.?\s*\d)/iy;
const END =
  /(?:the\s+)?(?:final|last)\s+(?:double\s+)?bar(?:\s*line)?(?!\w)|(?:the\s+)?last\s+measure(?!\w)|(?:the\s+)?(?:very\s+)?(?:end|finish|fine)(?!\w)(?!\s+of\s+(?!the\s+(?:piece|etude|study|movement|excerpt|work|page|solo)))(?:\s+of\s+the\s+(?:piece|etude|study|movement|excerpt|work|solo))?/iy;
const LEAD =
  /(?:(?:the\s+)?double\s+bar\s+(?:at|in|of)\s+|(?:the\s+)?(?:downbeat|first\s+beat|first\s+note|last\s+note|last\s+beat|end|beginning|start|middle)\s+of\s+|(?:on\s+)?beat\s+\d\s+of\s+|(?:(?:with\s+)?(?:the\s+|a\s+)?)(?:pick-?\s?ups?|up-?beats?|anacrus[ie]s)(?:\s+notes?)?\s+(?:to|into|of|before)\s+)/iy;
const BEAT_TAIL =
  /\s*,?\s*\(?(?:on\s+)?(?:beats?\s+\d(?:\.\d)?|with\s+(?:the\s+|its\s+)?pick-?up)\)?,?(?=\s|$|[).;-])/iy;
const WAY = /(?:measures?|bars?|mm?\.)?\s*(before|after)\s+/iy;

/**
 * One end of a run as it stands in a text.
 * Shape:  `end` is the place after it; `isNamed` where a word, bracket or letter-word says that it is measures that are
 *         named; `isNumbered` where it is a printed number alone; `markWord` where a rehearsal word stands
 * Units:  characters
 */
export interface PointRead {
  readonly point: SpanPoint;
  readonly end: number;
  readonly isNamed: boolean;
  readonly isNumbered: boolean;
  readonly hasMarkWord: boolean;
}

function at(pattern: RegExp, text: string, place: number): RegExpExecArray | null {
  pattern.lastIndex = place;
  return pattern.exec(text);
}

/**
 * A number in figures or words.
 * Shape:  NaN where the text is neither
 */
export function countOf(text: string): number {
  const word = COUNT_WORDS.indexOf(text.toLowerCase());
  return word >= 0 ? word + 1 : Number.parseInt(text, 10);
}

/**
 * Moves a point by measures: 6 before K is K-6.
 * Shape:  a number stays a number
 * Units:  measures
 * Source: docs/formats.md
 */
export function shiftPoint(point: SpanPoint, by: number): SpanPoint {
  if (typeof point === 'number') return point + by;
  const match = /^(.+?)(?:([+-])(\d+))?$/u.exec(point);
  const offset = (match?.[2] === '-' ? -1 : 1) * Number(match?.[3] ?? 0) + by;
  return offset === 0 ? (match?.[1] ?? point) : `${match?.[1]}${offset > 0 ? '+' : ''}${offset}`;
}

/**
 * Reads one end of a run at a place: "m. 9", "22A", "letter K", "6 before K", "the pickup to 33", "the end".
 * Shape:  null where none stands; `inFigures` reads a bare number as a rehearsal figure ("figure 12 to 14")
 * Units:  characters; dashes must be plain "-"
 * Source: common practice in US and UK print, no source
 */
export function readPoint(text: string, place: number, inFigures = false): PointRead | null {
  const lead = at(LEAD, text, place);
  const from = place + (lead?.[0].length ?? 0);
  const core = readCore(text, from, inFigures);
  if (!core) return null;
  const tail = at(BEAT_TAIL, text, core.end);
  const isExact = lead === null && tail === null;
  return {
    ...core,
    end: core.end + (tail?.[0].length ?? 0),
    isNamed: core.isNamed || (lead !== null && !/^(?:the\s+)?(?:start|end|beginning|middle)/iu.test(lead[0])),
    isNumbered: core.isNumbered && isExact,
  };
}

function readCore(text: string, place: number, inFigures: boolean): PointRead | null {
  return (
    relative(text, place, inFigures) ??
    edge(text, place) ??
    mark(text, place) ??
    number(text, place, inFigures) ??
    letter(text, place)
  );
}

function relative(text: string, place: number, inFigures: boolean): PointRead | null {
  const nth = at(NTH, text, place);
  if (nth) {
    const ordinal = ORDINALS.indexOf((nth[1] ?? '').toLowerCase()) + 1 || Number.parseInt(nth[1] ?? '', 10);
    const anchor = readCore(text, place + nth[0].length, inFigures);
    return (
      anchor && named(anchor, shiftPoint(anchor.point, /of/iu.test(nth[2] ?? '') ? ordinal - 1 : ordinal))
    );
  }
  const count = at(COUNT, text, place);
  const way = count && at(WAY, text, place + count[0].length);
  if (!way) return null;
  const anchor = readCore(text, place + count[0].length + way[0].length, inFigures);
  const by = countOf(count[1] ?? '') * (/before/iu.test(way[1] ?? '') ? -1 : 1);
  return anchor && named(anchor, shiftPoint(anchor.point, by));
}

function named(anchor: PointRead, point: SpanPoint): PointRead {
  return { ...anchor, point, isNamed: true, isNumbered: false };
}

function edge(text: string, place: number): PointRead | null {
  const edges = [
    [START, 'start'],
    [END, 'end'],
    [DOUBLE_BAR, 'double bar'],
  ] as const;
  for (const [pattern, point] of edges) {
    const match = at(pattern, text, place);
    if (match)
      return { point, end: place + match[0].length, isNamed: true, isNumbered: false, hasMarkWord: false };
  }
  return null;
}

function mark(text: string, place: number): PointRead | null {
  const word = at(MARK_WORD, text, place);
  const match = word ? at(MARK, text, place + word[0].length) : at(BRACKETED, text, place);
  if (!match) return null;
  const point = match[1] === undefined ? `figure ${match[2]}` : match[1];
  const end = place + (word?.[0].length ?? 0) + match[0].trimEnd().length;
  return { point, end, isNamed: true, isNumbered: false, hasMarkWord: true };
}

function number(text: string, place: number, inFigures: boolean): PointRead | null {
  const word = at(MEASURE_WORD, text, place);
  const from = place + (word?.[0].length ?? 0);
  const match = at(NUMBER, text, from);
  if (!match) return null;
  const letterAfter = (match[2] ?? '').toUpperCase();
  const isFigure = inFigures && !word && letterAfter === '';
  const plain = letterAfter === '' ? Number(match[1]) : `${match[1]}${letterAfter}`;
  return {
    point: isFigure ? `figure ${match[1]}` : plain,
    end: from + match[0].length,
    isNamed: word !== null,
    isNumbered: !isFigure,
    hasMarkWord: false,
  };
}

function letter(text: string, place: number): PointRead | null {
  const match = at(LETTER, text, place);
  return match
    ? {
        point: match[1] ?? '',
        end: place + match[0].length,
        isNamed: false,
        isNumbered: false,
        hasMarkWord: false,
      }
    : null;
}
