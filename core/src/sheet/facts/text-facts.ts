import { scanTempos, scanTempoWords, type TempoMark } from '../../music/index.js';
import { findArticulations, findNoteValues, findOctaves, findRanges } from '../find-scale.js';
import { findEndsOnly, findSpans } from '../find-spans.js';
import { findAccompaniment, findDurations, findMemory, findPoints, findRepeats } from '../find-terms.js';
import { CoverableText, type Found } from '../found.js';
import { NO_TEMPO, type PartKind, type SheetPart } from '../model.js';
import { takeTempos } from '../scale-phrase.js';
import type { Evidence } from '../structure/place.js';
import { placeIn, type Piece } from '../text/piece.js';
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

/** "Play as marked": the score has the tempo. */
export const AS_MARKED =
  /\b(?:play(?:ed)?\s+)?as\s+(?:marked|written|printed|indicated)\b|\bmarked\s+tempo\b|\btempo\s+(?:as\s+)?marked\b/iu;
const WITHOUT_MUSIC: ReadonlySet<PartKind> = new Set(['sight-reading', 'aural']);
const WORKS: ReadonlySet<PartKind> = new Set(['etude', 'excerpt', 'solo', 'improvisation', 'other']);

/** What a text says of a part of a kind, in whatever order. Shape: by field, in no order */
export function textFacts({ piece, strength, isHead }: Evidence, kind: PartKind): Fact[] {
  const taker = new Taker(piece, strength);
  taker.takePattern('asMarked', AS_MARKED, () => true);
  takeTerms(taker, kind);
  if (kind === 'scale' || kind === 'chromatic') scaleFacts(taker);
  else if (!WITHOUT_MUSIC.has(kind)) {
    tempoFacts(taker);
    takeMeasures(taker);
  }
  if (kind === 'improvisation') taker.takePattern('key', CONCERT_KEY, ({ key }) => key);
  taker.takePattern('tempo', CLICK, ({ bpm }) => clickOf(Number(bpm)));
  taker.takePattern('sameTempo', SAME_TEMPO, () => true);
  if (WORKS.has(kind)) workFacts(taker, { kind, isHead });
  return taker.facts;
}

const CONCERT_KEY = /\((?<key>concert\s+[A-G](?:[b#]|[- ](?:flat|sharp))?(?:\s+(?:major|minor|blues))?)\)/iu;
const CLICK = /\bclick\b[^.;]*?\bis\s+(?<bpm>\d{2,3})(?!\d)/iu;
const SAME_TEMPO = /\b(?:at\s+the\s+)?same\s+(?:speed|tempo)\b/iu;

function clickOf(bpm: number): TempoMark {
  return { ...NO_TEMPO, bpmMin: bpm, bpmMax: bpm, bound: 'exact' } as TempoMark;
}

/** A text of which facts are taken one after the other, each word once. */
class Taker {
  readonly facts: Fact[] = [];
  readonly line: CoverableText;

  constructor(
    private readonly piece: Piece,
    private readonly strength: number,
  ) {
    this.line = new CoverableText(piece.text, piece.plain);
  }

  add(field: FactField, { value, start, end }: Found<unknown>): void {
    this.facts.push({ field, value, ...placeIn(this.piece, start, end), strength: this.strength });
  }

  take<Value>(field: FactField, find: (plain: string) => readonly Found<Value>[]): void {
    for (const found of this.line.take(find)) this.add(field, found);
  }

  /** The first match of a pattern, which covers nothing. */
  takePattern(
    field: FactField,
    pattern: RegExp,
    read: (groups: Readonly<Record<string, string | undefined>>) => unknown,
  ): void {
    const match = pattern.exec(this.line.plain);
    if (match)
      this.add(field, {
        value: read(match.groups ?? {}),
        start: match.index,
        end: match.index + match[0].length,
      });
  }
}

/** Points, memory, repeats, accompaniment and time. */
function takeTerms(taker: Taker, kind: PartKind): void {
  for (const found of taker.line.take(findPoints)) {
    const { points, isTotal, isShared, isEach } = found.value;
    if (!isTotal && !isShared) taker.add(isEach ? 'points each' : 'points', { ...found, value: points });
  }
  taker.take('memory', findMemory);
  taker.take('repeats', findRepeats);
  taker.take('accompaniment', findAccompaniment);
  if (WITHOUT_MUSIC.has(kind)) return;
  for (const found of taker.line.take(findDurations))
    for (const field of ['minSeconds', 'maxSeconds'] as const)
      if (found.value[field] !== null) taker.add(field, { ...found, value: found.value[field] });
}

function takeMeasures(taker: Taker): void {
  taker.take('measures', (plain) => {
    if (/\bcut\s+from\b/iu.test(plain)) return [];
    const found = findSpans(plain, taker.line.printed);
    return found.length > 0 ? found : findEndsOnly(plain, taker.line.printed);
  });
}

function scaleFacts(taker: Taker): void {
  const { line } = taker;
  const { printed } = line;
  const before = line.plain;
  const marks = takeTempos(line);
  const [first] = stretches(before, line.plain);
  for (const mark of marks)
    taker.add('tempo', { value: mark, start: first?.start ?? 0, end: first?.end ?? 1 });
  // "Quarter notes at about 80" says both what is played and how fast.
  const both =
    /\b(?<notes>(?:quarter|eighth|sixteenth|half)[- ]notes|crotchets|quavers|semiquavers|minims)\s+at\b/iu.exec(
      before,
    );
  const [value] = both?.groups?.notes ? findNoteValues(both.groups.notes) : [];
  if (both && value && line.plain[both.index] === '\uE000')
    taker.add('noteValue', { value: value.value, start: both.index, end: both.index + 4 });
  taker.take('range', (plain) => findRanges(plain, printed));
  taker.take('octaves', (plain) => findOctaves(plain));
  taker.take('noteValue', findNoteValues);
  taker.take('articulation', (plain) => findArticulations(plain, printed));
  const lowest =
    /\b(?:starting|beginning|from)\s+(?:on\s+)?(?:a\s+)?(?<low>(?:(?:low|middle|concert|written)\s+)?[A-G](?:[b#]|[- ](?:flat|sharp))?\d?)(?![\p{L}\d])/iu.exec(
      line.plain,
    );
  if (lowest?.groups?.low) {
    const at = lowest.index + lowest[0].lastIndexOf(lowest.groups.low);
    const end = at + lowest.groups.low.length;
    taker.add('range', { value: { low: printed.slice(at, end), high: null }, start: at, end });
  }
}

function tempoFacts(taker: Taker): void {
  const { line } = taker;
  for (const found of scanTempos(line.plain)) {
    line.cover(found);
    taker.add('tempo', { value: found.mark, start: found.start, end: found.end });
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
    taker.add('tempo', {
      value: { ...NO_TEMPO, bound: 'words', words: line.printed.slice(start, end) },
      start,
      end,
    });
    line.cover({ start, end });
  }
}

function workFacts(
  taker: Taker,
  { kind, isHead }: { readonly kind: PartKind; readonly isHead: boolean },
): void {
  const { line } = taker;
  const before = line.plain;
  const { isSameBook, ...work } = readWork(line, { kind, isHead });
  const taken = stretches(before, line.plain);
  const first = taken[0] ?? { start: 0, end: Math.max(1, before.length) };
  const last = taken.at(-1) ?? first;
  for (const [field, value] of Object.entries(work))
    if (value !== null) taker.add(field as FactField, { value, start: first.start, end: last.end });
  if (isSameBook) taker.add('sameBook', { value: true, start: first.start, end: last.end });
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
