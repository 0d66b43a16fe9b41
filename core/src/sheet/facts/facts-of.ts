import { plainSigns } from '../../base/index.js';
import { askTempo, scanTempos, scanTempoWords, type TempoMark } from '../../music/index.js';
import {
  findArticulations,
  findKeys,
  findNoteValues,
  findOctaves,
  findRanges,
  noteName,
} from '../find-scale.js';
import { findEndsOnly, findSpans, readSpanPhrase } from '../find-spans.js';
import { findAccompaniment, findDurations, findMemory, findPoints, findRepeats } from '../find-terms.js';
import { CoverableText, type Found } from '../found.js';
import { NO_TEMPO, type PartKind, type SheetPart } from '../model.js';
import { takeTempos } from '../scale-phrase.js';
import type { Evidence } from '../structure/place.js';
import { placeIn } from '../text/piece.js';
import { readWork } from './work.js';

/** A field that a fact may give: those of a part, of its work, and what only leads to one. */
export type FactField =
  | keyof SheetPart
  | keyof SheetPart['source']
  | 'sameBook'
  | 'sameTempo'
  | 'asMarked'
  | 'points each'
  | 'tempo-open';

/**
 * A value of a field with where it stands.
 * Shape:  `start` to before `end` in the sheet's text
 * Units:  characters
 */
export interface Fact {
  readonly field: FactField;
  readonly value: unknown;
  readonly start: number;
  readonly end: number;
  readonly strength: number;
}

const AS_MARKED =
  /\b(?:play(?:ed)?\s+)?as\s+(?:marked|written|printed|indicated)\b|\bmarked\s+tempo\b|\btempo\s+(?:as\s+)?marked\b/iu;
const WITHOUT_MUSIC: ReadonlySet<PartKind> = new Set(['sight-reading', 'aural']);
const WORKS: ReadonlySet<PartKind> = new Set(['etude', 'excerpt', 'solo', 'improvisation', 'other']);

/** Everything that a stretch of text says of one part of a kind. Shape: in no order */
export function factsOf(evidence: Evidence, kind: PartKind): Fact[] {
  const { piece, role, strength, value } = evidence;
  const whole = (field: FactField, own: unknown): Fact[] =>
    own === null ? [] : [{ field, value: own, ...placeIn(piece, 0, piece.text.length), strength }];
  const text = piece.text.trim();
  const plain = piece.plain.replace(/[*†‡]+$/u, '').trim();
  const isNothing =
    /^(?:-+|n\/?a)$/iu.test(plain) || (/^none$/iu.test(plain) && role !== 'repeats' && role !== 'memory');
  if (plain === '' || isNothing) return [];
  switch (role) {
    case 'key':
      return whole('key', value ?? keyOf(plain));
    case 'number':
      return whole('number', plain.replace(/^(?:nos?\.?|#|number|study|[eé]tude)\s*/giu, ''));
    case 'page':
      return whole('page', plain.replace(/^(?:pages?|pp?\.?)\s*/iu, ''));
    case 'octaves':
      return whole('octaves', [
        ...(findOctaves(`${plain} octaves`)[0]?.value ?? findOctaves(plain)[0]?.value ?? []),
      ]);
    case 'points':
      return whole('points', Number(/\d+(?:\.\d+)?/u.exec(plain)?.[0] ?? Number.NaN) || null);
    case 'articulation':
      return whole('articulation', text);
    case 'edition':
      return whole('edition', text);
    case 'composer':
      return whole('composer', text.replace(/^by\s+/iu, ''));
    case 'publisher':
    case 'nothing':
    case 'instrument':
    case 'division':
      return [];
    case 'label':
      return [];
    case 'words':
      return whole('tempo', { ...NO_TEMPO, bound: 'words', words: text } satisfies TempoMark).filter(
        () => kind !== 'improvisation',
      );
    case 'tempo':
      return tempoCell(evidence, kind, whole);
    case 'measures':
      return measureCell(evidence, kind, whole);
    case 'memory':
    case 'repeats':
    case 'range':
    case 'noteValue':
    case 'time':
      return generalFacts(named(evidence), kind);
    case 'book':
      return bookFacts(evidence);
    case 'title':
      return value !== undefined ? whole('title', value) : generalFacts({ ...evidence, isHead: true }, kind);
    case 'text':
      return generalFacts(evidence, kind);
  }
}

/** "yes" in a column called memory says "memory: yes"; "30 s" in one of times is a limit. */
function named(evidence: Evidence): Evidence {
  const { piece, role } = evidence;
  const lead = role === 'time' ? 'max ' : role === 'memory' || role === 'repeats' ? `${role}: ` : '';
  const at = Array.from({ length: lead.length }, () => piece.at[0] ?? 0);
  const text = lead + piece.text;
  return { ...evidence, piece: { text, plain: plainSigns(text), at: [...at, ...piece.at] } };
}

function keyOf(plain: string): string | null {
  const [found] = findKeys(plain);
  if (found) return found.value.keys[0] ?? null;
  return /^[A-G](?:[b#]|[- ](?:flat|sharp))?$/iu.test(plain) ? noteName(plain) : null;
}

type Whole = (field: FactField, own: unknown) => Fact[];

function tempoCell(evidence: Evidence, kind: PartKind, whole: Whole): Fact[] {
  const { piece } = evidence;
  const plain = piece.plain.replace(/[*†‡]+$/u, '').trim();
  const found = scanTempos(plain);
  if (found.length > 0) return generalFacts(evidence, kind);
  const bpm = /^(?:ca?\.?\s*)?(\d{2,3})(?:\s*(?:-|to)\s*(\d{2,3}))?$/u.exec(plain);
  if (bpm) {
    const [low, high] = [Number(bpm[1]), Number(bpm[2] ?? bpm[1])];
    return whole('tempo', {
      beatUnit: null,
      bpmMin: low,
      bpmMax: high,
      bound: low === high ? 'exact' : 'range',
      words: null,
    });
  }
  if (AS_MARKED.test(plain)) return whole('asMarked', true);
  const read = askTempo(plain);
  if ('mark' in read) return whole('tempo', read.mark);
  return scanTempoWords(plain).length > 0
    ? whole('tempo', { ...NO_TEMPO, bound: 'words', words: piece.text })
    : whole('tempo-open', read);
}

function measureCell(evidence: Evidence, kind: PartKind, whole: Whole): Fact[] {
  const { piece } = evidence;
  if (/^\d+\s+chorus/iu.test(piece.plain)) return [];
  const all = /^(?:all|complete|entire|whole)\b/iu.exec(piece.plain);
  if (all)
    return [
      ...whole('measures', [{ from: 'start', to: 'end', anchorText: piece.text }]),
      ...generalFacts(evidence, kind).filter(({ field }) => field !== 'measures'),
    ];
  const read = readSpanPhrase(piece.text);
  return 'measures' in read
    ? [
        ...whole('measures', read.measures),
        ...generalFacts(evidence, kind).filter(({ field }) => field === 'repeats'),
      ]
    : generalFacts(evidence, kind);
}

function bookFacts(evidence: Evidence): Fact[] {
  const { piece, strength } = evidence;
  const fact = (field: FactField, value: unknown): Fact[] =>
    value === null ? [] : [{ field, value, ...placeIn(piece, 0, piece.text.length), strength }];
  const paren = /\s*\((?<in>[^()]+)\)$/u.exec(piece.text);
  const name = paren ? piece.text.slice(0, paren.index) : piece.text;
  const before = /^(?<name>(?:\p{Lu}[\p{L}.'’-]*\s*){1,4}),\s*["“](?<book>[^"”]+)["”]?[.,]?$/u.exec(
    piece.text,
  );
  if (before?.groups)
    return [
      ...fact('book', before.groups.book?.replace(/[.,]$/u, '') ?? null),
      ...fact('composer', before.groups.name?.trim() ?? null),
    ];
  const by = /^(?<book>.+?)\s+by\s+(?<name>\p{Lu}.+)$/u.exec(name);
  return [
    ...fact('book', (by?.groups?.book ?? name).replace(/^["“]|["”]$/gu, '').trim()),
    ...fact(
      'composer',
      by?.groups?.name ??
        (paren && /^\p{Lu}[\p{L}.'’-]+(?:\s+\p{Lu}[\p{L}.'’-]+)+$/u.test(paren.groups?.in ?? '')
          ? (paren.groups?.in ?? null)
          : null),
    ),
  ];
}

/** What a text says in whatever order. */
function generalFacts({ piece, strength, isHead }: Evidence, kind: PartKind): Fact[] {
  const line = new CoverableText(piece.text, piece.plain);
  const facts: Fact[] = [];
  const add = (field: FactField, { value, start, end }: Found<unknown>): void => {
    facts.push({ field, value, ...placeIn(piece, start, end), strength });
  };
  const take = <Value>(field: FactField, find: (plain: string) => readonly Found<Value>[]): void => {
    for (const found of line.take(find)) add(field, found);
  };
  const marked = AS_MARKED.exec(line.plain);
  if (marked) add('asMarked', { value: true, start: marked.index, end: marked.index + marked[0].length });
  for (const found of line.take(findPoints)) {
    if (!found.value.isTotal && !found.value.isShared)
      add(found.value.isEach ? 'points each' : 'points', { ...found, value: found.value.points });
  }
  take('memory', findMemory);
  take('repeats', findRepeats);
  take('accompaniment', findAccompaniment);
  if (!WITHOUT_MUSIC.has(kind))
    for (const found of line.take(findDurations)) {
      if (found.value.minSeconds !== null) add('minSeconds', { ...found, value: found.value.minSeconds });
      if (found.value.maxSeconds !== null) add('maxSeconds', { ...found, value: found.value.maxSeconds });
    }
  const isScale = kind === 'scale' || kind === 'chromatic';
  if (isScale) scaleFacts(line, take, { add, printed: piece.text });
  else if (!WITHOUT_MUSIC.has(kind)) {
    tempoFacts(line, add);
    take('measures', (plain) => {
      if (/\bcut\s+from\b/iu.test(plain)) return [];
      const found = findSpans(plain, line.printed);
      return found.length > 0 ? found : findEndsOnly(plain, line.printed);
    });
  }
  if (kind === 'improvisation') {
    const key = /\((?<key>concert\s+[A-G](?:[b#]|[- ](?:flat|sharp))?(?:\s+(?:major|minor|blues))?)\)/iu.exec(
      line.plain,
    );
    if (key?.groups?.key)
      add('key', { value: key.groups.key, start: key.index, end: key.index + key[0].length });
  }
  const click = /\bclick\b[^.;]*?\bis\s+(?<bpm>\d{2,3})(?!\d)/iu.exec(line.plain);
  if (click?.groups?.bpm) {
    const bpm = Number(click.groups.bpm);
    const mark = {
      beatUnit: null,
      bpmMin: bpm,
      bpmMax: bpm,
      bound: 'exact',
      words: null,
    } as unknown as TempoMark;
    add('tempo', { value: mark, start: click.index, end: click.index + click[0].length });
  }
  const same = /\b(?:at\s+the\s+)?same\s+(?:speed|tempo)\b/iu.exec(line.plain);
  if (same) add('sameTempo', { value: true, start: same.index, end: same.index + same[0].length });
  if (WORKS.has(kind)) workFacts(line, { kind, isHead, add });
  return facts;
}

type Add = (field: FactField, found: Found<unknown>) => void;
type Take = <Value>(field: FactField, find: (plain: string) => readonly Found<Value>[]) => void;

function scaleFacts(
  line: CoverableText,
  take: Take,
  { add, printed }: { readonly add: Add; readonly printed: string },
): void {
  const before = line.plain;
  const marks = takeTempos(line);
  const [first] = stretches(before, line.plain);
  for (const mark of marks) add('tempo', { value: mark, start: first?.start ?? 0, end: first?.end ?? 1 });
  // "Quarter notes at about 80" says both what is played and how fast.
  const both =
    /\b(?<notes>(?:quarter|eighth|sixteenth|half)[- ]notes|crotchets|quavers|semiquavers|minims)\s+at\b/iu.exec(
      before,
    );
  const [value] = both?.groups?.notes ? findNoteValues(both.groups.notes) : [];
  if (both && value && line.plain[both.index] === '\uE000')
    add('noteValue', { value: value.value, start: both.index, end: both.index + 4 });
  take('range', (plain) => findRanges(plain, printed));
  take('octaves', (plain) => findOctaves(plain));
  take('noteValue', findNoteValues);
  take('articulation', (plain) => findArticulations(plain, printed));
  const lowest =
    /\b(?:starting|beginning|from)\s+(?:on\s+)?(?:a\s+)?(?<low>(?:(?:low|middle|concert|written)\s+)?[A-G](?:[b#]|[- ](?:flat|sharp))?\d?)(?![\p{L}\d])/iu.exec(
      line.plain,
    );
  if (lowest?.groups?.low) {
    const at = lowest.index + lowest[0].lastIndexOf(lowest.groups.low);
    const end = at + lowest.groups.low.length;
    add('range', { value: { low: printed.slice(at, end), high: null }, start: at, end });
  }
}

function tempoFacts(line: CoverableText, add: Add): void {
  for (const found of scanTempos(line.plain)) {
    line.cover(found);
    add('tempo', { value: found.mark, start: found.start, end: found.end });
  }
  for (const { words, start, end } of scanTempoWords(
    line.plain.replace(/"[^"]*"/gu, (quoted) => ' '.repeat(quoted.length)),
  )) {
    const before = line.plain.slice(0, start);
    const after = line.plain.slice(end);
    const isBesideMark = /\uE000\s*[,;(]?\s*$/u.test(before) || /^\s*[,;(]?\s*\uE000/u.test(after);
    if (!/^\p{Lu}/u.test(words) && !isBesideMark) continue;
    // A heading stands alone between commas, brackets or line ends; "March of the Tides" is a title.
    const isAlone =
      /(?:^|[,;:()|.\uE000-])\s*$/u.test(before) && /^\s*(?:[,;)(|\uE000.]|$|-\s|at\s)/u.test(after);
    if (!isAlone) continue;
    add('tempo', {
      value: { ...NO_TEMPO, bound: 'words', words: line.printed.slice(start, end) },
      start,
      end,
    });
    line.cover({ start, end });
  }
}

function workFacts(
  line: CoverableText,
  { kind, isHead, add }: { readonly kind: PartKind; readonly isHead: boolean; readonly add: Add },
): void {
  const before = line.plain;
  const { isSameBook, ...work } = readWork(line, { kind, isHead });
  const taken = stretches(before, line.plain);
  const first = taken[0] ?? { start: 0, end: Math.max(1, before.length) };
  const last = taken.at(-1) ?? first;
  for (const [field, value] of Object.entries(work))
    if (value !== null) add(field as FactField, { value, start: first.start, end: last.end });
  if (isSameBook) add('sameBook', { value: true, start: first.start, end: last.end });
}

/** Stretches that were covered between two states of a line. */
function stretches(before: string, after: string): { start: number; end: number }[] {
  const found: { start: number; end: number }[] = [];
  for (let n = 0; n < after.length; n += 1) {
    if (after[n] === before[n]) continue;
    const last = found.at(-1);
    if (last?.end === n) last.end = n + 1;
    else found.push({ start: n, end: n + 1 });
  }
  return found;
}
