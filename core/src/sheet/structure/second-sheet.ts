import { readHeading } from '../heading.js';
import { findMentions } from '../labels.js';
import { joined } from '../text/piece.js';
import type { RawLine } from '../text/raw-lines.js';
import { bulletOf } from './wrapped.js';

/** Where another sheet begins in the same paste. Shape: `body` as that sheet names it. Units: characters of the text */
export interface SecondSheet {
  readonly start: number;
  readonly body: string;
}

/** A head says its body and its year within so many lines. */
const HEAD_LINES = 3;
/** Before so many lines no sheet can have said what it asks. */
const SHORTEST_SHEET = 4;

/** The first line at which another body's sheet begins. Shape: null where the text is of one body */
export function secondSheet(raw: readonly RawLine[]): SecondSheet | null {
  const first = headAt(raw, 0);
  if (!first) return null;
  const asked = raw.findIndex(({ text }) => findMentions(text, text).length > 0);
  if (asked < 0) return null;
  for (let n = Math.max(SHORTEST_SHEET, asked + 1); n < raw.length; n += 1) {
    const line = raw[n];
    if (!line?.isAfterBlank || !looksLikeHead(line)) continue;
    const head = headAt(raw, n);
    if (head && line.text.includes(head.body) && !sharesWords(first.body, head.body))
      return { start: line.start, body: head.body };
  }
  return null;
}

function looksLikeHead({ text, indent }: RawLine): boolean {
  return (
    text.length <= 80 && indent < 8 && bulletOf(text) === null && !/[.:;,!?]$|[="“|]|\t|\S {3,}\S/u.test(text)
  );
}

function headAt(raw: readonly RawLine[], from: number): { readonly body: string } | null {
  const lines = raw.slice(from, from + HEAD_LINES);
  const { body, year } = readHeading(
    lines.map(({ text, start }) => joined([{ text, start }])),
    '',
  );
  const words = body?.match(/\p{L}{3,}/gu) ?? [];
  return body !== null && year !== null && words.length >= 2 && ORGANISED.test(body) ? { body } : null;
}

/** What publishes a sheet (common practice, no source). */
const ORGANISED =
  /\b(?:association|board|society|union|congress|guild|league|federation|council|conservator(?:y|ium)|academy|trust|educators|teachers|directors|orchestra|bands?|choir|exchange|circle|assembly|consortium|foundation|institute|alliance|committee|schools?)\b/iu;

function sharesWords(a: string, b: string): boolean {
  const words = (text: string): string[] =>
    (text.toLowerCase().match(/\p{L}{3,}/gu) ?? []).filter(
      (word) => !ORGANISED.test(word) && !/^(?:the|and|for|music|audition|requirements?|list)$/u.test(word),
    );
  const own = new Set(words(a));
  return words(b).some((word) => own.has(word));
}
