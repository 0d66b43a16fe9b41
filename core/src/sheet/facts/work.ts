import type { CoverableText } from '../found.js';
import type { PartKind } from '../model.js';
import { isPersonName } from '../work-line.js';

/** What a text says of a work. Shape: null where it says nothing */
export interface WorkRead {
  title: string | null;
  composer: string | null;
  book: string | null;
  number: string | null;
  page: string | null;
  edition: string | null;
  /** "The same book": the one that was named before. */
  isSameBook: boolean;
}

interface Segment {
  readonly start: number;
  readonly end: number;
  readonly plain: string;
  readonly sign: string;
  readonly isBracketed: boolean;
}

const PAGE =
  /(?:,\s*)?(?:\(\s*)?(?:(?:at|on)\s+)?(?<![\p{L}])(?:pages?|pp?\.?)\s*(\d{1,3}(?:\s*(?:-|and|&)\s*\d{1,3})?)(?!\d)(?:\s*\))?/iu;
const EDITION =
  /(?<![\p{L}])(?:(?:\d(?:st|nd|rd|th)|first|second|third|fourth|revised|new(?:er)?|old(?:er)?|latest|critical|complete|\p{Lu}[\p{L}&'-]+)\s+)(?:and\s+revised\s+)?(?:edition|ed\.|printing)(?![\p{L}])/iu;
const NUMBER_WORD = '(?:nos?\\.?|numbers?|#|n\\.º)';
const NUMBERS = '(\\d{1,3}[a-z]?(?:\\s*(?:and|&)\\s*\\d{1,3}[a-z]?)*)';
const BARE_NUMBER = new RegExp(`^${NUMBER_WORD}\\s*${NUMBERS}$`, 'iu');
const WORD_NUMBER = new RegExp(
  `^(?:[eé]tude|study|caprice|piece|vocalise)\\s+(?:${NUMBER_WORD}\\s*)?${NUMBERS}$`,
  'iu',
);
const NUMBER_FROM = new RegExp(
  `^(?:(?:[eé]tude|study|caprice)\\s+)?(?:${NUMBER_WORD}\\s*)?${NUMBERS}\\s+(?:from|of|in)\\s+(?:the\\s+)?(?<book>(?![A-Ga-g](?:[b#]|[- ](?:flat|sharp))?\\s+(?:major|minor))\\S.*)$`,
  'iu',
);
const NUMBER_KEY = new RegExp(
  `^(?:[eé]tude|study|caprice)\\s+(?:${NUMBER_WORD}\\s*)?${NUMBERS}\\s+in\\s`,
  'iu',
);
const NUMBER_BEHIND = new RegExp(`^(?<title>.*\\S)\\s+${NUMBER_WORD}\\s*${NUMBERS}$`, 'iu');
/** "Twenty Ladders" is a collection, whoever wrote it. */
const NUMBER_NAME =
  /^(?:two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|fifteen|sixteen|eighteen|twenty|thirty|forty|fifty|sixty|hundred)\b/iu;
/** Names that only a book of several pieces has. */
const COLLECTION =
  /\b(?:studies|etudes|études|exercises|lessons|melodies|vocalises|method|solos|caprices|book|volume|album|collection)\b/iu;
const BOOK_ALONE = /^(?:book|volume|vol\.?|bk\.?)\s*(?:\d+|[IVX]+)$/iu;
const FROM_WITHIN = /^(?<title>\p{Lu}.*?)\s+from\s+(?:the\s+)?(?<book>\p{Lu}.*)$/u;
const FROM = /^[Ff]rom\s+(?:the\s+)?(?!memory|beginning|start|letter|measure|bar|figure)(?<book>\p{Lu}.*)$/u;
const BY = /(?<![\p{L}])by\s+(?<name>(?:\p{Lu}[\p{L}.'-]*\s*){1,4})/u;
const MOVEMENT =
  /^(?:(?:\d(?:st|nd|rd|th)|first|second|third|fourth|fifth|last|final|slow|opening)\s+(?:movement|movt\.?|mvt\.?|mvmt\.?)|finale|op(?:us|\.)\s*\d.*)$/iu;
const CHOICE =
  /\b(?:own[- ]choice|of\s+(?:your|the\s+\w+(?:'s)?|their|his|her)\s+(?:own\s+)?(?:choice|choosing)|contrasting|provided\s+by|any\s+(?:work|piece|solo))\b/iu;
const SAME_BOOK = /\b(?:the\s+)?same\s+(?:book|collection|volume)\b/iu;
const NO_WORK =
  /^(?:(?:to|the|at|in|on|up|one|two|three|all|and|or)\b|(?:[Pp]lay|[Ss]ing|[Bb]egin|[Ss]tart|[Ss]top|[Oo]mit|[Tt]ake|[Oo]bserve|[Ww]ith|[Ww]ithout|[Ff]rom|[Cc]omplete|[Ee]ntire|[Aa]ny|[Nn]o|[Nn]ot|[Tt]hen|[Oo]nly|[Bb]oth|[Rr]epeats?|[Tt]ongued|[Ss]lurred|[Mm]emory|[Oo]ptional|[Rr]equired|[Oo]wn|[Yy]our|[Mm]arked|[Pp]rovided|[Tt]empo|[Ss]traight|[Ee]ach|[Ee]very)\b)/u;
const GENRES =
  /\b(?:symphony|overture|serenade|suite|concerto|sonata|sonatina|quartet|quintet|divertimento|dances?|march|rhapsody|fantas(?:y|ia)|waltz|nocturne|canons?|fanfare|variations|prelude|hymn|studies|etudes|études|exercises|book|pieces|songs|album|vocalises|ladder|lessons|melodies|method)\b/iu;

/** What is read as a work, and where. Shape: covers what it takes */
export function readWork(
  line: CoverableText,
  { kind, isHead }: { readonly kind: PartKind; readonly isHead: boolean },
): WorkRead {
  const work: WorkRead = {
    title: null,
    composer: null,
    book: null,
    number: null,
    page: null,
    edition: null,
    isSameBook: SAME_BOOK.test(line.plain),
  };
  work.page = line.takeMatch(PAGE)?.[1]?.replace(/\s+/gu, '') ?? null;
  const edition = line.takeMatch(EDITION);
  if (edition) work.edition = line.printed.slice(edition.index, edition.index + edition[0].length).trim();
  const by = BY.exec(line.plain);
  if (by?.groups?.name) {
    const at = by.index + by[0].indexOf(by.groups.name);
    work.composer = trimmed(line.printed.slice(at, at + by.groups.name.length));
    line.cover({ start: by.index, end: by.index + by[0].trimEnd().length });
  }
  const kindWord = /^[\s:.,-]*(?:solo|[eé]tude|study|excerpt|piece|scale)\s*(?:-{1,2}|:)\s+/iu.exec(
    line.plain,
  );
  if (isHead && kindWord) line.cover({ start: 0, end: kindWord[0].length });
  const counted = /^(?:one|two|three|four)\s+(?:[eé]tudes|studies)\s+(?:from|by|in)\s+/iu.exec(line.plain);
  if (counted) line.cover({ start: 0, end: counted[0].length });
  if (isHead) takePossessive(line, work);
  if (isHead && CHOICE.test(line.plain)) {
    takeChoice(line, work);
    return work;
  }
  assemble(line, segmentsOf(line.plain), { work, kind, isHead, isPlural: counted !== null });
  return work;
}

/** "The slow movement of Ansel Threlkeld's Marsh Symphony". */
function takePossessive(line: CoverableText, work: WorkRead): void {
  const match =
    /(?:(?<movement>(?:slow|first|second|third|last|final)\s+movement)\s+(?:of|from)\s+)?(?<name>(?:\p{Lu}[\p{L}.-]*\s+){0,3}\p{Lu}[\p{L}-]+)'s\s+(?:(?:overture|suite|symphony|sonata|concerto)\s+)?(?<title>"[^"]+"|(?:\p{Lu}[\p{L}'-]*\s?(?:of\s+|and\s+|the\s+)?){1,6})/u.exec(
      line.plain,
    );
  if (!match?.groups?.name || !match.groups.title || work.composer !== null) return;
  const at = match.index + match[0].length - match.groups.title.length;
  const name = match.index + match[0].indexOf(match.groups.name);
  work.composer = line.printed.slice(name, name + match.groups.name.length);
  const title = unquoted(trimmed(line.printed.slice(at, at + match.groups.title.length)));
  work.title = match.groups.movement === undefined ? title : `${title}, ${match.groups.movement}`;
  line.cover({ start: match.index, end: match.index + match[0].length });
}

/** "A sonatina movement, of the candidate's own choice": the words of the choice are the title. */
function takeChoice(line: CoverableText, work: WorkRead): void {
  const start = /^[\s:.,\uE000-]*/u.exec(line.plain)?.[0].length ?? 0;
  const rest = line.plain.slice(start);
  const end =
    /,(?!\s*of\s+(?:your|the|their))|[.;:]|\s*\uE000|\s+(?:played|lasting|from\s+memory|for\s+which|in\s+which|to\s+be)\b|$/u.exec(
      rest,
    )?.index ?? rest.length;
  const title = trimmed(line.printed.slice(start, start + end).replace(/\s*\($/u, ''));
  if (title.length < 4 || !/\p{L}/u.test(title) || /^of\s/iu.test(title)) return;
  work.title = title;
  line.cover({ start, end: start + end });
}

function trimmed(text: string): string {
  return text
    .trim()
    .replace(/[,.;:]+(?=["”’]?$)/u, '')
    .trim();
}

const NO_BREAK = /(?:\b(?:no|nos|op|vol|bk|mvt|movt|mvmt|st|mr|mrs|ms|dr|\p{Lu})|\d)$/iu;

/** The stretches between commas, colons, dashes, brackets and what is read already. */
function segmentsOf(plain: string): Segment[] {
  const segments: Segment[] = [];
  let start = 0;
  let depth = 0;
  let isQuoted = false;
  const close = (end: number, sign: string): void => {
    const own = plain.slice(start, end);
    const lead = own.length - own.trimStart().length;
    const text = own.trim();
    if (text !== '')
      segments.push({
        start: start + lead,
        end: start + lead + text.length,
        plain: text,
        sign,
        isBracketed: depth > 0,
      });
    start = end + sign.length;
  };
  for (let n = 0; n < plain.length; n += 1) {
    const sign = plain[n] ?? '';
    if (sign === '"') {
      isQuoted = !isQuoted;
      // A comma that is printed within the marks ends the name behind them.
      if (!isQuoted && /[,.]/u.test(plain[n - 1] ?? '')) {
        close(n + 1, '');
        continue;
      }
    }
    if (isQuoted) continue;
    if (sign === '(' || sign === '[') {
      close(n, sign);
      depth += 1;
    } else if (sign === ')' || sign === ']') {
      close(n, sign);
      depth = Math.max(0, depth - 1);
    } else if (sign === '\uE000' || sign === ',' || sign === ';' || sign === '|') close(n, sign);
    else if (sign === ':' && /\s|$/u.test(plain[n + 1] ?? ' ')) close(n, sign);
    else if (sign === '.' && /^(?:\s|$)/u.test(plain.slice(n + 1)) && !NO_BREAK.test(plain.slice(start, n)))
      close(n, sign);
    else if (sign === '-' && plain[n - 1] === ' ' && (plain[n + 1] === ' ' || plain[n + 1] === '-'))
      close(n, sign);
  }
  close(plain.length, '');
  return segments;
}

function assemble(
  line: CoverableText,
  segments: readonly Segment[],
  {
    work,
    kind,
    isHead,
    isPlural,
  }: {
    readonly work: WorkRead;
    readonly kind: PartKind;
    readonly isHead: boolean;
    readonly isPlural: boolean;
  },
): void {
  const print = (start: number, end: number): string => trimmed(line.printed.slice(start, end));
  let named: { start: number; end: number; isQuoted: boolean; hasNumberBefore: boolean } | null = null;
  let namedAt = -1;
  let isFromPerson = false;
  const take = ({ start, end }: { readonly start: number; readonly end: number }): void =>
    line.cover({ start, end });
  segments.forEach((segment, n) => {
    const { plain, start, end } = segment;
    const bare = BARE_NUMBER.exec(plain);
    const counted = WORD_NUMBER.exec(plain);
    const from = FROM.exec(plain);
    const numberFrom = NUMBER_FROM.exec(plain);
    if (bare || counted) {
      const value = (bare ?? counted)?.[1] ?? '';
      if (work.number === null) work.number = value;
      if (
        bare &&
        named &&
        namedAt === n - 1 &&
        start - named.end <= 3 &&
        (work.composer !== null || COLLECTION.test(line.printed.slice(named.start, named.end))) &&
        kind === 'etude' &&
        work.book === null &&
        !named.hasNumberBefore
      )
        work.book = print(named.start, named.end);
      else if (bare && named && kind !== 'etude' && !segment.isBracketed) {
        named = { ...named, end };
        work.number = null;
      }
      take(segment);
    } else if (numberFrom?.groups?.book && !SAME_BOOK.test(plain)) {
      work.number ??= numberFrom[1] ?? null;
      work.book = print(end - numberFrom.groups.book.length, end).replace(/^["“]|["”]$/gu, '');
      take(segment);
    } else if (numberFrom && SAME_BOOK.test(plain)) {
      work.number ??= numberFrom[1] ?? null;
      take(segment);
    } else if (BOOK_ALONE.test(plain)) {
      work.book ??= print(start, end);
      take(segment);
    } else if (from?.groups?.book) {
      const { book } = from.groups;
      if (isPersonName(book) && !NUMBER_NAME.test(book) && isTitleCase(segments[n + 1]?.plain ?? '')) {
        work.composer ??= print(end - book.length, end);
        isFromPerson = true;
      } else work.book ??= print(end - book.length, end).replace(/^["“]|["”]$/gu, '');
      take(segment);
    } else if (isComposer(segment, segments.slice(n + 1), { work, isHead, hasName: named !== null })) {
      work.composer = print(start, end);
      take(segment);
    } else if (named && MOVEMENT.test(plain) && !segment.isBracketed) {
      named = { ...named, end };
      take(segment);
    } else if (!named && NUMBER_KEY.test(plain)) {
      work.number ??= NUMBER_KEY.exec(plain)?.[1] ?? null;
      named = { start, end, isQuoted: false, hasNumberBefore: true };
      take(segment);
    } else if (!named && isWork(segment, { isHead, kind })) {
      const quoted = /^(?:(?:from|in)\s+)?"([^"]+)"?$/u.exec(plain);
      const behind = kind === 'etude' ? NUMBER_BEHIND.exec(plain) : null;
      named = { start, end, isQuoted: quoted !== null, hasNumberBefore: work.number !== null };
      namedAt = n;
      if (behind && !quoted) {
        work.number = behind[2] ?? null;
        named = { ...named, hasNumberBefore: true };
      }
      take(segment);
    } else if (
      named?.isQuoted &&
      kind === 'etude' &&
      work.book === null &&
      !segment.isBracketed &&
      isTitleCase(plain) &&
      BARE_NUMBER.test(segments[n + 1]?.plain ?? '')
    ) {
      work.book = print(start, end);
      take(segment);
    } else if (
      named &&
      work.book === null &&
      segment.isBracketed &&
      isTitleCase(plain) &&
      /\b(?:studies|pieces|lessons|sonatina|sonata|suite|scenes|book|album)\b/iu.test(plain)
    ) {
      work.book = print(start, end);
      take(segment);
    } else if (
      named &&
      work.composer !== null &&
      !named.isQuoted &&
      kind === 'etude' &&
      isQuotedOnly(plain) &&
      work.book === null
    ) {
      work.book = print(start, end).replace(/^["“]|["”]$/gu, '');
      take(segment);
    }
  });
  const { start, end } = named ?? { start: 0, end: 0 };
  const name = named ? unquoted(print(start, end)) : null;
  if (work.book !== null && name !== null && unquoted(work.book) === name) {
    work.book = name;
    return;
  }
  const isBook =
    kind === 'etude' && work.book === null && (isFromPerson || (/^\uE000+/u.test(line.plain) && isPlural));
  if (isBook) work.book = name;
  else if (work.title === null) {
    const within = name !== null && work.book === null ? FROM_WITHIN.exec(name) : null;
    work.title = within?.groups?.title ?? name;
    if (within?.groups?.book) work.book = within.groups.book;
  }
}

function isQuotedOnly(plain: string): boolean {
  return /^"[^"]+"$/u.test(plain);
}

/** A title that is nothing but quoted loses its marks; one that quotes a part of itself keeps them. */
function unquoted(text: string): string {
  const match = /^["“„«]([^"“”]*?)["”»]?$/u.exec(text);
  return match ? trimmed(match[1] ?? '') : text;
}

function isComposer(
  { plain, isBracketed, sign }: Segment,
  after: readonly Segment[],
  { work, isHead, hasName }: { readonly work: WorkRead; readonly isHead: boolean; readonly hasName: boolean },
): boolean {
  if (work.composer !== null) return false;
  if (isPersonName(plain) && !GENRES.test(plain)) {
    const next = after.find((segment) => !segment.isBracketed);
    // "Petrel Song - L. Osk": behind a dash stands who wrote it.
    if (
      !hasName &&
      sign === '-' &&
      next !== undefined &&
      isPersonName(next.plain) &&
      !/^\p{Lu}\./u.test(plain)
    )
      return false;
    const leads =
      !hasName &&
      next !== undefined &&
      (isTitleCase(next.plain) || /^["]/u.test(next.plain) || BARE_NUMBER.test(next.plain));
    return isBracketed || hasName || leads;
  }
  // A surname alone: "Thrandlebeck, Symphony No. 3".
  const [next] = after;
  return (
    isHead &&
    !hasName &&
    (sign === ',' || sign === ':') &&
    /^\p{Lu}[\p{Ll}'-]{2,}(?:-\p{Lu}\p{Ll}+)*$/u.test(plain) &&
    !GENRES.test(plain) &&
    next !== undefined &&
    (/^["]/u.test(next.plain) ||
      (isTitleCase(next.plain) && (GENRES.test(next.plain) || next.plain.split(/\s+/u).length >= 2)))
  );
}

function isWork(
  { plain, isBracketed }: Segment,
  { isHead, kind }: { readonly isHead: boolean; readonly kind: PartKind },
): boolean {
  if (SAME_BOOK.test(plain)) return false;
  if (isBracketed) return /^"[^"]{2,90}"?$/u.test(plain);
  if (/^(?:from\s+)?"[^"]{2,90}"?$/u.test(plain) || /\p{L}\s+"[^"]{2,80}"$/u.test(plain))
    return !/^(?:on|[Ss]ing|[Pp]lay)\b/u.test(plain);
  if (!isHead || NO_WORK.test(plain)) return false;
  if (
    kind === 'scale' ||
    kind === 'chromatic' ||
    kind === 'sight-reading' ||
    kind === 'aural' ||
    kind === 'rudiments'
  )
    return false;
  return plain.length >= 3 && plain.length <= 90 && isTitleCase(plain);
}

function isTitleCase(text: string): boolean {
  const words = text.split(/\s+/u).filter((word) => /^["'(]?[\p{L}]{4,}/u.test(word));
  const large = words.filter((word) => /^["'(]?\p{Lu}/u.test(word)).length;
  return /^["']?[\p{Lu}\d]/u.test(text) && large * 2 >= words.length && large > 0 && /\p{L}{2}/u.test(text);
}
