import { present } from '../base/index.js';
import {
  distinctTempos,
  questionOfMark,
  scanTempos,
  scanTempoWords,
  type TempoMark,
} from '../music/index.js';
import { findArticulations, findKeys, findNoteValues, findOctaves, findRanges } from './find-scale.js';
import { findEndsOnly, findSpans, isBackwards } from './find-spans.js';
import { findAccompaniment, findDurations, findMemory, findPoints, findRepeats } from './find-terms.js';
import type { CoverableText } from './found.js';
import {
  blankPart,
  NO_TEMPO,
  type PartKind,
  type SheetPart,
  type SheetQuestion,
  type SheetSpan,
} from './model.js';
import { scopeOf } from './scope.js';
import { readWork } from './work-line.js';

/** One reading of a field, with the place it was read from. */
interface Reading {
  readonly field: keyof SheetPart | keyof SheetPart['source'];
  readonly value: unknown;
}

/** Where in a line something was read. Units: characters of the line. */
export interface LineMark {
  readonly field: string;
  readonly start: number;
  readonly end: number;
}

const AS_MARKED =
  /\b(?:play(?:ed)?\s+)?as\s+(?:marked|written|printed|indicated)\b|\bmarked\s+tempo\b|\btempo\s+(?:as\s+)?marked\b/iu;

/** Whom a part holds for and how it is told apart; nothing of it for a part that is only read with. */
interface PartDraftPlace {
  readonly appliesTo?: readonly string[];
  readonly id?: string;
}

/**
 * A part while it is being read: every reading of every field is kept, so that a contradiction can be asked about.
 * Shape:  `part` gives the first reading of each, or nothing where readings differ
 * Units:  as SheetPart
 */
export class PartDraft {
  label: string;
  kind: PartKind;
  readonly appliesTo: Set<string>;
  readonly readings: Reading[] = [];
  readonly questions: SheetQuestion[] = [];
  readonly texts: string[] = [];
  isAsMarked = false;

  readonly id: string;

  constructor(label: string, kind: PartKind, { appliesTo = [], id = '' }: PartDraftPlace = {}) {
    this.label = label;
    this.kind = kind;
    this.appliesTo = new Set(appliesTo);
    this.id = id;
  }

  /** Reads everything a stretch of a line says of this part; gives the places. */
  read(line: CoverableText, after: number, isFirst: boolean): LineMark[] {
    this.texts.push(line.printed.slice(after));
    const marks: LineMark[] = [];
    const take = <Value>(
      field: Reading['field'],
      find: (
        plain: string,
      ) => readonly { readonly value: Value; readonly start: number; readonly end: number }[],
    ): void => {
      for (const { value, start, end } of line.take(find)) {
        this.add(field, value);
        marks.push({ field, start, end });
      }
    };
    if (AS_MARKED.test(line.plain)) this.isAsMarked = true;
    for (const { value, start, end } of line.take(findPoints)) {
      if (!value.isTotal) this.add('points', value.points);
      marks.push({ field: 'points', start, end });
    }
    take('memory', findMemory);
    take('repeats', findRepeats);
    take('accompaniment', findAccompaniment);
    this.readDurations(line, marks);
    this.readTempo(line, marks);
    if (this.isScale) this.readScale(line, take);
    else
      take('measures', (plain) => {
        const found = findSpans(plain, line.printed);
        return found.length > 0 ? found : findEndsOnly(plain, line.printed);
      });
    this.readWorkFields(line, after, { isFirst, marks });
    return marks;
  }

  private readDurations(line: CoverableText, marks: LineMark[]): void {
    for (const { value, start, end } of line.take(findDurations)) {
      if (value.minSeconds !== null) this.add('minSeconds', value.minSeconds);
      if (value.maxSeconds !== null) this.add('maxSeconds', value.maxSeconds);
      marks.push({ field: value.maxSeconds === null ? 'minSeconds' : 'maxSeconds', start, end });
    }
  }

  private get isScale(): boolean {
    return this.kind === 'scale' || this.kind === 'chromatic';
  }

  private readTempo(line: CoverableText, marks: LineMark[]): void {
    for (const found of scanTempos(line.plain)) {
      line.cover(found);
      this.add('tempo', found.mark);
      marks.push({ field: 'tempo', start: found.start, end: found.end });
    }
    if (this.isScale || this.kind === 'sight-reading' || this.kind === 'aural') return;
    for (const { words, start, end } of scanTempoWords(
      line.plain.replace(/"[^"]*"/gu, (quoted) => ' '.repeat(quoted.length)),
    )) {
      const isBesideMark =
        /\uE000\s*[,;(]?\s*$/u.test(line.plain.slice(0, start)) ||
        /^\s*[,;(]?\s*\uE000/u.test(line.plain.slice(end));
      if (!/^\p{Lu}/u.test(words) && !(isBesideMark && this.has('tempo'))) continue;
      // A heading stands alone between commas, brackets or line ends; "March of the Tides" is a title.
      const isAlone =
        /(?:^|[,;:(\uE000.-])\s*$/u.test(line.plain.slice(0, start)) &&
        /^\s*(?:[,;:)(\uE000.]|$|-\s|at\s)/u.test(line.plain.slice(end));
      if (!isAlone || this.isScale) continue;
      this.add('tempo', {
        ...NO_TEMPO,
        bound: 'words',
        words: line.printed.slice(start, end),
      } satisfies TempoMark);
      line.cover({ start, end });
      marks.push({ field: 'tempo', start, end });
    }
  }

  private readScale(
    line: CoverableText,
    take: <Value>(
      field: Reading['field'],
      find: (
        plain: string,
      ) => readonly { readonly value: Value; readonly start: number; readonly end: number }[],
    ) => void,
  ): void {
    take('range', (plain) => findRanges(plain, line.printed));
    take('key', (plain) => findKeys(plain).map((found) => ({ ...found, value: found.value.keys })));
    take('octaves', (plain) => findOctaves(plain));
    take('noteValue', findNoteValues);
    take('articulation', (plain) => findArticulations(plain, line.printed));
  }

  private readWorkFields(
    line: CoverableText,
    after: number,
    { isFirst, marks }: { readonly isFirst: boolean; readonly marks: LineMark[] },
  ): void {
    const before = line.plain;
    const hasWork = ['etude', 'excerpt', 'solo', 'other'].includes(this.kind);
    if (!hasWork) return;
    const work = readWork(line, after, isFirst);
    // A title in quotation marks outweighs words that only stand where a title would.
    if (before.includes('"') && work.title !== null)
      this.readings.unshift({ field: 'title', value: work.title });
    for (const [field, value] of Object.entries(work))
      if (value !== null) this.add(field as Reading['field'], value);
    for (const match of coveredSince(before, line.plain)) marks.push({ field: 'title', ...match });
  }

  /** Adds a reading of a field. */
  add(field: Reading['field'], value: unknown): void {
    this.readings.push({ field, value });
  }

  /** Takes over what a heading says for everything below it, where nothing of its own stands. */
  inherit(heading: PartDraft): void {
    const own = new Set(this.readings.map(({ field }) => field));
    for (const reading of heading.readings) if (!own.has(reading.field)) this.readings.push(reading);
  }

  /** Whether any reading of a field is there. */
  has(field: Reading['field']): boolean {
    return this.readings.some((reading) => reading.field === field);
  }

  /** The part with its questions, as far as it can be said. */
  finish(divisions: readonly (string | null)[] = []): {
    readonly part: SheetPart;
    readonly questions: readonly SheetQuestion[];
  } {
    const first = <Value>(field: Reading['field']): Value | null =>
      (this.readings.find((reading) => reading.field === field)?.value as Value | undefined) ?? null;
    const one = <Value>(field: Reading['field']): Value | null => this.agreed(field, first(field));
    const part: SheetPart = {
      ...blankPart(this.label, this.kind, this.id),
      scope: scopeOf([...this.appliesTo], divisions),
      title: this.title(first('title')),
      source: {
        composer: first('composer'),
        book: first('book'),
        number: first('number'),
        page: one('page'),
        edition: first('edition'),
      },
      measures: this.spans(),
      tempo: this.tempo(),
      key: this.key(),
      octaves: this.octaves(),
      noteValue: one('noteValue'),
      range: first('range'),
      articulation: first('articulation'),
      memory: one('memory'),
      repeats: one('repeats') ?? 'unstated',
      accompaniment: one('accompaniment'),
      maxSeconds: one('maxSeconds'),
      minSeconds: one('minSeconds'),
      points: one('points'),
    };
    this.askDuration(part);
    return { part, questions: this.questions };
  }

  private title(read: string | null): string | null {
    if (read !== null) return read;
    return this.kind === 'scale' &&
      this.texts.concat(this.label).some((text) => /arpeggio/iu.test(text)) &&
      !/scale/iu.test(`${this.label} ${this.texts.join(' ')}`)
      ? 'arpeggio'
      : null;
  }

  private ask(field: string, ask: string, candidates: readonly unknown[]): void {
    this.questions.push({ partId: this.id, about: `${this.label}/${field}`, ask, candidates });
  }

  private agreed<Value>(field: Reading['field'], first: Value | null): Value | null {
    const values = distinct(
      this.readings.filter((reading) => reading.field === field).map(({ value }) => value),
    );
    if (values.length <= 1) return first;
    this.ask(
      field,
      `The sheet gives ${values.length} answers for ${field} of ${this.label}: ${values.map(String).join(', ')}. Which one holds?`,
      values,
    );
    return null;
  }

  private tempo(): TempoMark {
    const marks = this.readings
      .filter(({ field }) => field === 'tempo')
      .map(({ value }) => value as TempoMark);
    const words = marks.find((mark) => mark.words !== null)?.words ?? null;
    const numbered = distinctTempos(marks.filter(({ bound }) => bound !== 'words'));
    if (numbered.length > 1) {
      this.ask(
        'tempo',
        `The sheet gives ${numbered.length} tempos for ${this.label}. Which one holds?`,
        numbered,
      );
      return words === null ? NO_TEMPO : { ...NO_TEMPO, bound: 'words', words };
    }
    const [mark] = numbered;
    if (mark) {
      const question = questionOfMark(mark, String(mark.bpmMin ?? mark.bpmMax));
      if (question) this.ask('tempo', question.question, question.candidates);
      return { ...mark, words };
    }
    if (words !== null) {
      this.ask('tempo', `"${words}" has no number. What is the target tempo of ${this.label}?`, []);
      return { ...NO_TEMPO, bound: 'words', words };
    }
    if (this.isAsMarked)
      this.ask('tempo', `${this.label} is to be played as marked. What tempo does the score give?`, []);
    return NO_TEMPO;
  }

  private spans(): readonly SheetSpan[] {
    const lists = distinct(
      this.readings
        .filter(({ field }) => field === 'measures')
        .map(({ value }) => value as readonly SheetSpan[]),
    );
    if (lists.length > 1) {
      // A single measure named besides is a remark on it, not another span to play.
      const runs = lists.filter((list) => list.some(({ from, to }) => from !== to));
      if (runs.length === 1) return this.forwards(present(runs[0]));
      this.ask('measures', `The sheet names different measures for ${this.label}. Which ones hold?`, lists);
      return [];
    }
    return this.forwards(lists[0] ?? []);
  }

  private forwards(spans: readonly SheetSpan[]): readonly SheetSpan[] {
    const backwards = spans.find(({ from, to }) => isBackwards(from, to));
    if (backwards)
      this.ask(
        'measures',
        `${this.label} runs backwards, from ${backwards.from} to ${backwards.to}. Which measures are meant?`,
        [],
      );
    return spans;
  }

  private key(): string | null {
    const keys = distinct(
      this.readings.filter(({ field }) => field === 'key').flatMap(({ value }) => value as readonly string[]),
    );
    if (keys.length <= 1) return keys[0] ?? null;
    const count =
      /\b(two|three|four|five|six|seven|eight|nine|ten|twelve|\d{1,2})\s+(?:\w+\s+)?scales/iu.exec(
        this.texts.join(' '),
      )?.[1];
    this.ask(
      'key',
      count !== undefined && countWord(count) !== keys.length
        ? `The sheet speaks of ${count} scales and names ${keys.length}. Which ones are asked?`
        : `${this.label} names ${keys.length} keys: ${keys.join(', ')}. Is each of them played?`,
      keys,
    );
    return null;
  }

  private octaves(): number | null {
    const counts = distinct(
      this.readings
        .filter(({ field }) => field === 'octaves')
        .flatMap(({ value }) => value as readonly number[]),
    );
    if (counts.length <= 1) return counts[0] ?? null;
    this.ask(
      'octaves',
      `${this.label} is asked over ${counts.join(' and ')} octaves. Which one holds?`,
      counts,
    );
    return null;
  }

  private askDuration({ minSeconds, maxSeconds }: SheetPart): void {
    if (minSeconds !== null && maxSeconds !== null && minSeconds > maxSeconds)
      this.ask(
        'maxSeconds',
        `${this.label} must last at least ${minSeconds} s and at most ${maxSeconds} s. Which one holds?`,
        [minSeconds, maxSeconds],
      );
  }
}

const NUMBER_WORDS = ['two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten'];

function countWord(text: string): number {
  const place = NUMBER_WORDS.indexOf(text.toLowerCase());
  return place >= 0 ? place + 2 : text.toLowerCase() === 'twelve' ? 12 : Number(text);
}

function distinct<Value>(values: readonly Value[]): Value[] {
  const seen = new Map(values.map((value) => [JSON.stringify(value), value]));
  return [...seen.values()];
}

/** Stretches that were covered between two states of a line. */
function coveredSince(before: string, after: string): { readonly start: number; readonly end: number }[] {
  const stretches: { start: number; end: number }[] = [];
  for (let n = 0; n < after.length; n += 1) {
    if (after[n] === before[n]) continue;
    const last = stretches.at(-1);
    if (last && last.end === n) last.end = n + 1;
    else stretches.push({ start: n, end: n + 1 });
  }
  return stretches;
}
