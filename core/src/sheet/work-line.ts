import type { CoverableText } from './found.js';

/** What a line says of a work. Shape: null where it says nothing. */
export interface WorkFields {
  title: string | null;
  composer: string | null;
  book: string | null;
  number: string | null;
  page: string | null;
  edition: string | null;
}

const QUOTED = /"([^"\uE000]{2,90})"|(?<![\p{L}\d])'([^'\uE000]{2,90})'(?![\p{L}])/gu;
const PAGE =
  /(?:(?:at|on)\s+)?(?<![\p{L}])(?:pages?|pp?\.?)\s*(\d{1,3}(?:\s*(?:-|and|&)\s*\d{1,3})?)(?!\d)/iu;
const NUMBER =
  /(?<![\p{L}])(?:\(?\s*(?:[EeÉé]tude|[Ss]tudy|[Cc]aprice|[Pp]iece)\s+)?(?:[Nn]o\.?\s*|NO\.?\s*|[Nn]umber\s+|#\s*)(\d{1,3}[a-z]?)(?!\d|\s*(?:octave|points))/u;
const BARE_NUMBER = /(?<![\p{L}])(?:[EeÉé]tude|[Ss]tudy|[Cc]aprice)\s+(\d{1,3})(?!\d)/u;
const EDITION =
  /(?<![\p{L}])((?:\d(?:st|nd|rd|th)|first|second|third|revised|new|newer|old|older|latest|critical|complete|(?:\p{Lu}[\p{L}&'-]+\s+){1,3})\s*(?:and\s+revised\s+)?(?:ed(?:ition|\.)|printing))(?![\p{L}])|(?<![\p{L}])(?:ed(?:ition|\.))\s*:?\s+(\p{Lu}[\p{L}&' -]+?)(?=[,;.)]|$)/iu;
const BOOK_NOUN =
  '(?:Stud(?:y|ies)|[EÉ]tudes|Lessons|Pieces|Method|Scenes|Album|Sketches|Caprices|Exercises|Book|Volume|Vol\\.?|Suite|Sonatina|Solos|Melodies|Duets|Collection|Miniatures|Preludes|Inventions|Songs|Dances|Tunes)';
const CAP = "(?:\\p{Lu}[\\p{L}'-]*|\\d{1,2}|of|the|and|for|in|&|to|a|on|over|with)";
const BOOK_PHRASE = new RegExp(
  `(?<![\\p{L}])(?:\\p{Lu}[\\p{L}'-]*|\\d{1,2})(?:\\s+${CAP})*?\\s*(?<![\\p{L}])${BOOK_NOUN}(?:\\s+${CAP})*(?:,?\\s*(?:Book|Volume|Vol\\.?|Bk\\.?)\\s*(?:\\d+|[IVX]+))?(?![\\p{L}])`,
  'u',
);
const BOOK_ALONE = /(?<![\p{L}])(?:Book|Volume|Vol\.?|Bk\.?)\s*(?:\d+|[IVX]+)(?![\p{L}])/u;
const FROM_BOOK = new RegExp(
  `(?<![\\p{L}])from\\s+(?:the\\s+)?(\\p{Lu}[\\p{L}'-]*(?:\\s+${CAP})*(?:,?\\s*(?:Book|Volume|Vol\\.?|Bk\\.?)\\s*(?:\\d+|[IVX]+))?)`,
  'u',
);
const NAME_WORD =
  "(?:\\p{Lu}\\.|\\p{Lu}[\\p{Ll}'’]+(?:-\\p{Lu}[\\p{Ll}'’]+)*|(?:van|von|de|di|da|del|der|la|le)\\b)";
const NAME = `(?:${NAME_WORD}\\s*){1,3}(?:\\p{Lu}[\\p{Ll}'’]+(?:-\\p{Lu}[\\p{Ll}'’]+)*)`;
const BY = new RegExp(`(?<![\\p{L}])by\\s+(${NAME}|\\p{Lu}[\\p{Ll}'-]+)`, 'u');
const NO_NAME = new RegExp(
  `\\b(?:${BOOK_NOUN.slice(3, -1)}|Concerto|Sonata|Fantas(?:y|ia)|Song|Waltz|March|Rondo|First|Second|Third|Movement|List|Grade|Piano|Major|Minor|Option|Section|Register|January|February|March|April|June|July|August|September|October|November|December|North|South|East|West|Water|Light|Lights)\\b`,
  'u',
);

/** Whether a phrase looks like a person's name: two to four capitalised words or initials. */
export function isPersonName(text: string): boolean {
  return new RegExp(`^${NAME}$`, 'u').test(text.trim()) && !NO_NAME.test(text);
}

/**
 * Reads what a line says of a work, covering what it takes.
 * Shape:  `after` is where the part's label ends: a title without quotation marks stands right behind it
 * Units:  characters
 * Source: common practice, no source
 */
export function readWork(line: CoverableText, after: number, mayBeUnquoted: boolean): WorkFields {
  const work: WorkFields = {
    title: null,
    composer: null,
    book: null,
    number: null,
    page: null,
    edition: null,
  };
  QUOTED.lastIndex = 0;
  const quoted = QUOTED.exec(line.plain);
  if (quoted) {
    const inner = quoted.index + 1;
    const length = (quoted[1] ?? quoted[2] ?? '').length;
    work.title = trimmed(line.printed.slice(inner, inner + length));
    line.cover({ start: quoted.index, end: quoted.index + quoted[0].length });
  }
  work.page = line.takeMatch(PAGE)?.[1]?.replace(/\s+/gu, '') ?? null;
  work.edition = editionOf(line);
  const paren = takeParens(line, work);
  if (!quoted && mayBeUnquoted) readUnquoted(line, after, work);
  work.number ??=
    line.takeMatch(NUMBER)?.[1] ??
    paren ??
    (work.title === null && after === 0 ? null : (line.takeMatch(BARE_NUMBER)?.[1] ?? null));
  work.number ??= NUMBER.exec(work.title ?? '')?.[1] ?? null;
  work.composer ??= line.takeMatch(BY)?.[1]?.trim() ?? null;
  work.book ??= bookOf(line);
  return work;
}

function trimmed(text: string): string {
  return text
    .trim()
    .replace(/[,.;:]+$/u, '')
    .trim();
}

function editionOf(line: CoverableText): string | null {
  const match = EDITION.exec(line.plain);
  if (!match) return null;
  line.cover({ start: match.index, end: match.index + match[0].length });
  return line.printed.slice(match.index, match.index + match[0].length).trim();
}

function bookOf(line: CoverableText): string | null {
  for (const pattern of [FROM_BOOK, BOOK_PHRASE, BOOK_ALONE]) {
    const match = line.takeMatch(pattern);
    if (!match) continue;
    const text = match[1] ?? match[0];
    const start = match.index + match[0].lastIndexOf(text);
    return trimmed(line.printed.slice(start, start + text.length));
  }
  return null;
}

/** "(Anselm Pryce, Twelve Lessons, no. 5)", "(Sonatina)", "(from Shoreline Pieces, …)": gives the number it holds. */
function takeParens(line: CoverableText, work: WorkFields): string | null {
  let number: string | null = null;
  for (const match of line.plain.matchAll(/\(([^()]{2,90})\)/gu)) {
    let place = match.index + 1;
    for (const piece of (match[1] ?? '').split(',')) {
      const text = piece.trim();
      const start = place + piece.length - piece.trimStart().length;
      const printed = line.printed.slice(start, start + text.length);
      const no = /^(?:no\.?|#|number)\s*(\d{1,3})$/iu.exec(text)?.[1];
      if (no !== undefined) number = no;
      else if (work.composer === null && isPersonName(text)) work.composer = printed;
      else if (/^from\s+\p{Lu}/u.test(text)) work.book ??= printed.replace(/^from\s+/iu, '');
      else if (
        isTitleCase(text) &&
        (work.composer !== null || new RegExp(`^${BOOK_NOUN}$|\\b${BOOK_NOUN}\\b`, 'u').test(text))
      )
        work.book ??= printed;
      else {
        place += piece.length + 1;
        continue;
      }
      line.cover({ start, end: start + text.length });
      place += piece.length + 1;
    }
  }
  return number;
}

function isTitleCase(text: string): boolean {
  const words = text.split(/\s+/u).filter((word) => /^[\p{L}]{4,}/u.test(word));
  return (
    /^[\p{Lu}\d]/u.test(text) &&
    words.filter((word) => /^\p{Lu}/u.test(word)).length * 2 >= words.length &&
    /\p{L}{2}/u.test(text)
  );
}

const ROLE =
  /\b(?:own choice|of (?:your|the \w+'s?|their) (?:own )?choice|any|candidate'?s?|one movement|movement of|contrasting|memory|written|contemporary|own|tba|required|prepared)\b/iu;

/** A title without quotation marks, with a composer on either side: "Harbour Song — L. Osk", "Hazel Corrie: Millrace". */
function readUnquoted(line: CoverableText, after: number, work: WorkFields): void {
  const opening =
    /^[\s:.,\uE000-]*(?:(?:solo|etude|étude|study|excerpt|piece)(?=\s*(?:[:,]|-))[\s:.,-]*|(?:the\s+)?(?:first|second|third|fourth|last|slow|opening|final)\s+movement\s+of\s+(?:the\s+)?)?/iu.exec(
      line.plain.slice(after),
    )?.[0].length ?? 0;
  const start = after + opening;
  if (
    /^(?:[eé]tude|study|caprice)\s+(?:no\.?\s*|number\s+|#\s*)?\d{1,3}\s+(?:from|by)\b/iu.test(
      line.plain.slice(start),
    )
  )
    return;
  const rest = line.plain.slice(start);
  const composerFirst = /^([^:,;\uE000]{3,40}):\s+/u.exec(rest);
  let from = start;
  if (composerFirst && isPersonName(composerFirst[1] ?? '')) {
    work.composer ??= line.printed.slice(start, start + (composerFirst[1] ?? '').length).trim();
    from = start + composerFirst[0].length;
  }
  const body = line.plain.slice(from);
  const end =
    /\s+(?:from|by)\s|\s+-{1,2}\s|\s*[;(\uE000]|\.(?=\s|$)(?<!\b(?:No|Op|\p{Lu})\.)|,(?!\s*(?:(?:1st|2nd|3rd|4th|first|second|third|fourth|last|final|slow|fast)\s+movement|(?:mvt|movement)))|$/u.exec(
      body,
    );
  const title = trimmed(line.printed.slice(from, from + (end?.index ?? body.length)));
  if (title.length < 3 || !isTitleCase(title) || ROLE.test(title)) return;
  work.title = title;
  line.cover({ start: from, end: from + (end?.index ?? body.length) });
  const next = /^\s*-{1,2}\s*([^,;(\uE000]{3,40}?)\s*(?=[,;(\uE000.]?\s*$|[,;(\uE000]|\s-)/u.exec(
    body.slice(end?.index ?? body.length),
  );
  if (next && work.composer === null && isPersonName(next[1] ?? '')) {
    const at = from + (end?.index ?? 0) + next[0].indexOf(next[1] ?? '');
    work.composer = line.printed.slice(at, at + (next[1] ?? '').length).trim();
    line.cover({ start: at, end: at + (next[1] ?? '').length });
  }
}
