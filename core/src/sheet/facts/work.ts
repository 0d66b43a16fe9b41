import type { CoverableText } from '../found.js';
import type { PartKind } from '../model.js';
import { isPersonName } from '../work-line.js';
import { isPerson, isTitleCase, trimmed, unquoted } from './names.js';
import { segmentsOf, type Segment } from './segments.js';

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
/** Names that only a book of several pieces has. */
const COLLECTION =
  /\b(?:studies|etudes|études|exercises|lessons|melodies|vocalises|method|solos|caprices|book|volume|album|collection)\b/iu;
const BOOK_ALONE = /^(?:book|volume|vol\.?|bk\.?)\s*(?:\d+|[IVX]+)$/iu;
const FROM_WITHIN = /^(?<title>\p{Lu}.*?)\s+from\s+(?:the\s+)?(?<book>\p{Lu}.*)$/u;
const FROM =
  /^[Ff]rom\s+(?:the\s+)?(?!memory|beginning|start|letter|measure|bar|figure)(?<book>["“]?\p{Lu}.*)$/u;
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
  const work = printedAround(line);
  if (isHead) {
    takeLead(line, KIND_WORD);
    if (line.plain.includes("'s ")) takePossessive(line, work);
    if (kind === 'excerpt') takeSurname(line, work);
  }
  const isPlural = takeLead(line, COUNTED);
  if (isHead && CHOICE.test(line.plain)) takeChoice(line, work);
  else new WorkReader(line, work, { kind, isHead, isPlural }).read();
  return work;
}

const KIND_WORD = /^[\s:.,-]*(?:solo|[eé]tude|study|excerpt|piece|scale)\s*(?:-{1,2}|:)\s+/iu;
const COUNTED = /^(?:one|two|three|four)\s+(?:[eé]tudes|studies)\s+(?:from|by|in)\s+/iu;

/** Page, edition and "by" stand anywhere. */
function printedAround(line: CoverableText): WorkRead {
  const blank = { title: null, composer: null, book: null, number: null, edition: null };
  const isSameBook = SAME_BOOK.test(line.plain);
  const page = line.takeMatch(PAGE)?.[1]?.replace(/\s+/gu, '') ?? null;
  const work: WorkRead = { ...blank, page, isSameBook };
  const edition = /\bed\b|edition|printing/iu.test(line.plain) ? line.takeMatch(EDITION) : null;
  if (edition) work.edition = line.printed.slice(edition.index, edition.index + edition[0].length).trim();
  const by = line.plain.includes('by ') ? BY.exec(line.plain) : null;
  if (by?.groups?.name) {
    const at = by.index + by[0].indexOf(by.groups.name);
    work.composer = trimmed(line.printed.slice(at, at + by.groups.name.length));
    line.cover({ start: by.index, end: by.index + by[0].trimEnd().length });
  }
  return work;
}

/** "Vask: Tidewatch": of an excerpt the composer is often only a surname. */
function takeSurname(line: CoverableText, work: WorkRead): void {
  const match = /^[\s\uE000]*(?<name>\p{Lu}[\p{Ll}'’-]{2,20}):\s+(?=["“]?\p{Lu})/u.exec(line.plain);
  const name = match?.groups?.name;
  if (!match || name === undefined || work.composer !== null || GENRES.test(name) || NO_WORK.test(name))
    return;
  const at = match[0].indexOf(name);
  work.composer = line.printed.slice(at, at + name.length);
  line.cover({ start: at, end: match[0].trimEnd().length });
}

function takeLead(line: CoverableText, pattern: RegExp): boolean {
  const lead = pattern.exec(line.plain);
  if (lead) line.cover({ start: 0, end: lead[0].length });
  return lead !== null;
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
    /,(?!\s*of\s+(?:your|the|their))|[.;:]|\s*\(|\s+(?:played|lasting|from\s+memory|for\s+which|in\s+which|to\s+be)\b|$/u.exec(
      rest,
    )?.index ?? rest.length;
  const title = trimmed(line.printed.slice(start, start + end).replace(/\s*\($/u, ''));
  if (title.length < 4 || !/\p{L}/u.test(title) || /^of\s/iu.test(title)) return;
  work.title = title;
  line.cover({ start, end: start + end });
}

/** The name of the work as far as it was read. */
interface Named {
  readonly start: number;
  readonly end: number;
  readonly isQuoted: boolean;
  readonly hasNumberBefore: boolean;
}

interface Setting {
  readonly kind: PartKind;
  readonly isHead: boolean;
  /** "Two etudes from …": what is named is their book. */
  readonly isPlural: boolean;
}

/** Goes through the segments of a line: numbers, books, people, movements, and one name. */
class WorkReader {
  private named: Named | null = null;
  private isFromPerson = false;
  private readonly segments: readonly Segment[];

  constructor(
    private readonly line: CoverableText,
    private readonly work: WorkRead,
    private readonly setting: Setting,
  ) {
    this.segments = segmentsOf(line.plain);
  }

  read(): void {
    this.segments.forEach((segment, n) => {
      const isTaken =
        this.takeNumber(segment) ||
        this.takeNumberFrom(segment) ||
        this.takeBook(segment, this.segments[n + 1]) ||
        this.takeComposer(segment, this.segments.slice(n + 1)) ||
        this.takeName(segment) ||
        this.takeBookBehind(segment, this.segments[n + 1]);
      if (isTaken) this.line.cover(segment);
    });
    this.finish();
  }

  private print({ start, end }: { readonly start: number; readonly end: number }): string {
    return trimmed(this.line.printed.slice(start, end));
  }

  private get isEtude(): boolean {
    return this.setting.kind === 'etude';
  }

  /** "No. 12": of the book that stands before it, of the title where there is none, or of an opus. */
  private takeNumber(segment: Segment): boolean {
    const { work, named } = this;
    const bare = BARE_NUMBER.exec(segment.plain);
    const value = (bare ?? WORD_NUMBER.exec(segment.plain))?.[1];
    if (value === undefined) return false;
    work.number ??= value;
    if (!bare || !named) return true;
    const isNext = segment.start - named.end <= 3 && !named.hasNumberBefore;
    const isOfBook = work.composer !== null || COLLECTION.test(this.print(named));
    if (this.isEtude && isNext && isOfBook && work.book === null) work.book = this.print(named);
    else if (!this.isEtude && !segment.isBracketed) {
      this.named = { ...named, end: segment.end };
      work.number = null;
    }
    return true;
  }

  /** "No. 4 from Six Smoke Dances", "Study no. 12 from the same book". */
  private takeNumberFrom({ plain, end }: Segment): boolean {
    const match = NUMBER_FROM.exec(plain);
    const book = match?.groups?.book;
    if (!match || book === undefined) return false;
    this.work.number ??= match[1] ?? null;
    if (!SAME_BOOK.test(plain)) this.work.book = unmarked(this.print({ start: end - book.length, end }));
    return true;
  }

  /** "Book 1", "from Shoreline Pieces", "from Wendeline Ostrick, Weekday Studies". */
  private takeBook({ plain, start, end }: Segment, next: Segment | undefined): boolean {
    if (BOOK_ALONE.test(plain)) {
      this.work.book ??= this.print({ start, end });
      return true;
    }
    const book = FROM.exec(plain)?.groups?.book;
    if (book === undefined) return false;
    const printed = this.print({ start: end - book.length, end });
    this.isFromPerson = isPerson(book) && isTitleCase(next?.plain ?? '');
    if (this.isFromPerson) this.work.composer ??= printed;
    else this.work.book ??= unquoted(unmarked(printed));
    return true;
  }

  private takeComposer(segment: Segment, after: readonly Segment[]): boolean {
    const { work } = this;
    if (!isComposer(segment, after, { work, isHead: this.setting.isHead, hasName: this.named !== null }))
      return false;
    work.composer = this.print(segment);
    return true;
  }

  /** The name, and the movement or opus behind it. */
  private takeName(segment: Segment): boolean {
    const { plain, start, end } = segment;
    const { named, work } = this;
    if (named) {
      if (!MOVEMENT.test(plain) || segment.isBracketed) return false;
      this.named = { ...named, end };
      return true;
    }
    const key = NUMBER_KEY.exec(plain)?.[1];
    if (key !== undefined) work.number ??= key;
    else if (!isWork(segment, this.setting)) return false;
    const isQuoted = /^(?:(?:from|in)\s+)?"([^"]+)"?$/u.test(plain);
    const behind =
      this.isEtude && !isQuoted && key === undefined ? NUMBER_BEHIND.exec(plain)?.[2] : undefined;
    const hasNumberBefore = work.number !== null;
    if (behind !== undefined) work.number = behind;
    const within =
      key === undefined
        ? /^(?<title>"[^"]+")\s+from\s+(?:the\s+)?(?<book>\p{Lu}.*)$/u.exec(plain)?.groups
        : undefined;
    if (within?.title !== undefined && within.book !== undefined) {
      work.book ??= this.print({ start: end - within.book.length, end });
      this.named = { start, end: start + within.title.length, isQuoted: true, hasNumberBefore: true };
      return true;
    }
    this.named = { start, end, isQuoted, hasNumberBefore: hasNumberBefore || behind !== undefined };
    return true;
  }

  /** A book behind the name: in brackets, before its number, or quoted behind its composer. */
  private takeBookBehind(segment: Segment, next: Segment | undefined): boolean {
    const { named, work } = this;
    const { plain, isBracketed } = segment;
    if (!named || work.book !== null) return false;
    const isNumbered =
      this.isEtude &&
      named.isQuoted &&
      !isBracketed &&
      isTitleCase(plain) &&
      BARE_NUMBER.test(next?.plain ?? '');
    const isCollection = isBracketed && isTitleCase(plain) && IN_BRACKETS.test(plain);
    const isQuoted = this.isEtude && work.composer !== null && !named.isQuoted && /^"[^"]+"$/u.test(plain);
    if (!isNumbered && !isCollection && !isQuoted) return false;
    work.book = unmarked(this.print(segment));
    return true;
  }

  private finish(): void {
    const { work, named } = this;
    if (!named) return;
    const name = unquoted(this.print(named));
    if (work.book !== null && unquoted(work.book) === name) {
      work.book = name;
      return;
    }
    const isBook = this.isEtude && work.book === null && (this.isFromPerson || this.setting.isPlural);
    const within = work.book === null ? FROM_WITHIN.exec(name)?.groups : undefined;
    if (isBook) work.book = name;
    else if (work.title === null) {
      work.title = within?.title ?? name;
      work.book ??= within?.book ?? null;
    }
  }
}

/** "Study in F sharp minor": a name without large letters behind the first. */
const GENRE_FIRST =
  /^(?:Study|[EÉ]tude|Caprice|Sonata|Concerto|Suite|Prelude|Fantas(?:y|ia)|Sonatina)\s+in\s/u;
const IN_BRACKETS = /\b(?:studies|pieces|lessons|sonatina|sonata|suite|scenes|book|album)\b/iu;

function unmarked(text: string): string {
  return text.replace(/^["“]|["”]$/gu, '');
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
      (isTitleCase(next.plain) ||
        /^["]/u.test(next.plain) ||
        BARE_NUMBER.test(next.plain) ||
        GENRE_FIRST.test(next.plain));
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
  return plain.length >= 3 && plain.length <= 90 && (isTitleCase(plain) || GENRE_FIRST.test(plain));
}
