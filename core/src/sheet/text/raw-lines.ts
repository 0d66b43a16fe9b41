/**
 * A printed line. Shape: `text` without the spaces around it; `tabs` where it holds cells, the empty first ones included
 * Units:  characters of the sheet's text; `indent` in columns of print
 */
export interface RawLine {
  readonly text: string;
  readonly start: number;
  readonly indent: number;
  readonly isAfterBlank: boolean;
  /** The line as it was pasted, from `lineStart`. */
  readonly whole: string;
  readonly lineStart: number;
}

const INVISIBLE = /[\u00ad\u200b-\u200f\u202a-\u202e\u2060-\u2064\u2066-\u2069\ufeff]/gu;
/** Dots that lead from a label to its points. */
const LEADER = /(?<=\S)\s*(?:\.{4,}|(?:\. ){3,}\.?|_{4,}|…{2,})\s*(?=\S)/gu;
/** Ligatures that a PDF leaves in a text, and signs that only look like others. */
const LIGATURES: Readonly<Record<string, string>> = { ﬁ: 'fi', ﬂ: 'fl', ﬀ: 'ff', ﬃ: 'ffi', ﬄ: 'ffl' };
/** Units: characters (our own limit). */
const LONGEST_LINE = 2000;

/**
 * Cleans a pasted text: one kind of line end, no invisible signs, ligatures as letters.
 * Shape:  every place in a reading is a place in this text
 * Source: Unicode, general category Cf
 */
export function cleanText(raw: string): string {
  return raw
    .replace(/\r\n?/gu, '\n')
    .replace(/[\u2028\u2029\f\v]/gu, '\n')
    .replace(INVISIBLE, '')
    .replace(/[ﬁﬂﬀﬃﬄ]/gu, (sign) => LIGATURES[sign] ?? sign);
}

/** The printed lines of a text that say something of their own. */
export function readRawLines(text: string): RawLine[] {
  const all = linesOf(text);
  const heads = repeatedHeads(all);
  const lines: RawLine[] = [];
  let isAfterBlank = true;
  for (const line of all) {
    if (line.text === '') isAfterBlank = true;
    else if (!heads.has(line) && !isFurniture(line.text)) {
      lines.push({ ...line, isAfterBlank });
      isAfterBlank = false;
    }
  }
  return lines;
}

function linesOf(text: string): RawLine[] {
  const lines: RawLine[] = [];
  let start = 0;
  for (const line of text.split('\n').flatMap((whole) => piecesOf(whole).flatMap((one) => sectionsOf(one)))) {
    const quoted = /^\s*(?:>\s?)+/u.exec(line)?.[0].length ?? 0;
    const own = line.slice(quoted);
    const lead = own.length - own.trimStart().length;
    const indent = [...own.slice(0, lead)].reduce((sum, sign) => sum + (sign === '\t' ? 4 : 1), 0);
    const printed = withoutPageCount(own.trim()).replace(LEADER, (dots) => `:${' '.repeat(dots.length - 1)}`);
    lines.push({
      text: printed,
      start: start + quoted + lead,
      indent,
      isAfterBlank: false,
      whole: own,
      lineStart: start + quoted,
    });
    start += line.length + (text.charAt(start + line.length) === '\n' ? 1 : 0);
  }
  return lines;
}

/** A line longer than any sheet prints is read in pieces, so that the time stays linear whatever is pasted. */
function piecesOf(line: string): string[] {
  return line.length <= LONGEST_LINE
    ? [line]
    : (line.match(new RegExp(`[^]{1,${LONGEST_LINE}}(?=\\s|$)|[^]{1,${LONGEST_LINE}}`, 'gu')) ?? []);
}

/** "C. SIGHT READING (10 marks)   D. EAR TESTS (5 marks)": two sections on one line. */
function sectionsOf(line: string): string[] {
  return /^\s*[A-H]\.\s+\p{Lu}{3}/u.test(line) ? line.split(/(?<=\S\s{2,})(?=[A-H]\.\s+\p{Lu}{3})/u) : [line];
}

function withoutPageCount(line: string): string {
  return line.replace(/(?:^|\s{2,})(?:page\s+)?\d{1,3}\s+of\s+\d{1,3}$/iu, '').trimEnd();
}

/** What a page prints again at its head or foot: the same line, but for its number, between blank lines. */
function repeatedHeads(lines: readonly RawLine[]): ReadonlySet<RawLine> {
  const seen = new Map<string, RawLine[]>();
  lines.forEach((line, n) => {
    const isEdge = (lines[n - 1]?.text ?? '') === '' && (lines[n + 1]?.text ?? '') === '';
    if (line.text.length < 12 || (!isEdge && n > 0)) return;
    const key = line.text.replace(/\d+/gu, '#').replace(/\s+/gu, ' ');
    seen.set(key, [...(seen.get(key) ?? []), line]);
  });
  return new Set([...seen.values()].flatMap((same) => same.slice(1)));
}

const WEB =
  /^(?:skip to|menu\b|home\b(?:\s*[|›>»▸·]|\s+[›>»▸]|$)|log ?in|share(?: this)?\b|print\b|back to top|download\s*:|you may also like|last (?:updated|modified)|cookies?\b|privacy\b|©|search\b|follow us|subscribe)/iu;

/** Rules of signs, and what a web page puts around its text. */
function isFurniture(text: string): boolean {
  if (!/[\p{L}\p{N}\u2669-\u266f]/u.test(text)) return true;
  if (!WEB.test(text)) return false;
  // "Home › Auditions › Cello" names what the page is about: its last step stays a heading.
  return !/[.:]\s+\p{L}.*\d/u.test(text);
}
