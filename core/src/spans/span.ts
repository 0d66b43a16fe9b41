import type { QuarterCount } from '../music/index.js';
import { fail, ok, type Result } from '../base/index.js';

/** A run of measures by printed number, both included. */
export interface SpanText {
  readonly from: string;
  readonly to: string;
}

/**
 * A run of measures by index.
 * Shape:  half-open, from `fromIndex` to before `endIndex`
 * Units:  measure indexes from 0
 */
export interface Span {
  readonly fromIndex: number;
  readonly endIndex: number;
}

/** Whether a measure index lies in a span; none lies in null. */
export function inSpan(span: Span | null, index: number): boolean {
  return span !== null && span.fromIndex <= index && index < span.endIndex;
}

/** Whether a measure index lies in one of some runs; where there are none, every measure does. */
export function inRuns(runs: readonly Span[], index: number): boolean {
  return runs.length === 0 || runs.some((run) => inSpan(run, index));
}

/** The measure indexes of some runs, in their order. */
export function indexesOf(runs: readonly Span[]): number[] {
  const indexes: number[] = [];
  for (const { fromIndex, endIndex } of runs)
    for (let index = fromIndex; index < endIndex; index += 1) indexes.push(index);
  return indexes;
}

/** The printed numbers at the ends of a span. Shape: "" where the music has no such measure */
export function printedSpan(
  measures: readonly { readonly number: string }[],
  { fromIndex, endIndex }: Span,
): SpanText {
  return { from: measures[fromIndex]?.number ?? '', to: measures[endIndex - 1]?.number ?? '' };
}

/** Neighbouring measure indexes as runs. Shape: rising indexes in, half-open runs out */
export function runsOf(indexes: readonly number[]): Span[] {
  const runs: { fromIndex: number; endIndex: number }[] = [];
  for (const index of indexes) {
    const last = runs.at(-1);
    if (last?.endIndex === index) last.endIndex = index + 1;
    else runs.push({ fromIndex: index, endIndex: index + 1 });
  }
  return runs;
}

/** Why a span cannot be used. */
export type SpanCode = 'span-unreadable' | 'span-outside' | 'span-backwards';

/**
 * Reads a span as people type it: 9–12, 9-12, 9 to 12, m. 22A, bars 9 to 16.
 * Shape:  one number gives the same first and last
 * Units:  printed numbers
 * Errors: span-unreadable
 * Source: common practice
 * @example parseSpan('9–12') // { from: '9', to: '12' }
 */
export function parseSpan(text: string): Result<SpanText, SpanCode> {
  const plain = text
    .normalize('NFKC')
    .trim()
    .replace(/^(measures?|bars?|mm?\.?|bb?\.)\s*/iu, '');
  const match = /^(\d{1,4}[A-Za-z]?)(?:\s*(?:[-–—‒−]|to|through|thru)\s*(\d{1,4}[A-Za-z]?))?$/iu.exec(plain);
  if (!match) {
    return fail(
      'span-unreadable',
      'span',
      `"${text.slice(0, 40)}" is not a run of measures; write two printed numbers such as 9–12.`,
    );
  }
  const from = (match[1] ?? '').toUpperCase();
  return ok({ from, to: (match[2] ?? from).toUpperCase() });
}

/** What resolving a span needs of a measure. */
export interface NamedMeasure {
  readonly number: string;
  readonly implicit: boolean;
  readonly rehearsal?: string | null;
  readonly endsInDoubleBar?: boolean;
}

/**
 * Finds a span in a measure map: printed numbers, "start", "end", rehearsal marks ("K", "figure 7"), measures counted
 * from them ("K-6", "E+4", "end-15") and "double bar" where exactly one is in reach; the first measure of a repeated
 * number counts, and a measure that a repeat sign splits counts once.
 * Shape:  a half-open run of at least one measure
 * Units:  printed numbers or anchors in, measure indexes out
 * Errors: span-outside, span-backwards
 * Source: docs/formats.md
 */
export function resolveSpan(
  measures: readonly NamedMeasure[],
  { from, to }: SpanText,
): Result<Span, SpanCode> {
  const [isFromBar, isToBar] = [isDoubleBar(from), isDoubleBar(to)];
  const known = {
    from: isFromBar ? 0 : indexOfPoint(measures, from),
    to: isToBar ? measures.length - 1 : indexOfPoint(measures, to),
  };
  if (known.from < 0 || known.to < 0) return outside(measures, known.from < 0 ? from : to);
  const bars = measures.flatMap(({ endsInDoubleBar }, index) =>
    endsInDoubleBar === true && index >= known.from && index <= known.to ? [index] : [],
  );
  if ((isFromBar || isToBar) && bars.length !== 1) return doubleBars(measures, bars);
  const [bar = 0] = bars;
  const fromIndex = isFromBar ? bar + 1 : known.from;
  const toIndex = isToBar ? bar : known.to;
  if (toIndex < fromIndex)
    return fail(
      'span-backwards',
      'span',
      `The span runs backwards, from ${from} to ${to}; write the earlier measure first.`,
    );
  return ok({ fromIndex, endIndex: toIndex + 1 });
}

function isDoubleBar(point: string): boolean {
  return point.trim().toLowerCase() === 'double bar';
}

function doubleBars(measures: readonly NamedMeasure[], bars: readonly number[]): Result<Span, SpanCode> {
  const numbers = bars.map((index) => measures[index]?.number ?? '').join(', ');
  const which = bars.length === 0 ? 'no double bar' : `double bars after ${numbers}`;
  return fail(
    'span-outside',
    'span',
    `There ${bars.length > 1 ? 'are' : 'is'} ${which} in reach of what the sheet asks. Give the printed numbers instead.`,
  );
}

function outside(measures: readonly NamedMeasure[], point: string): Result<Span, SpanCode> {
  const first = measures.find(({ implicit }) => !implicit)?.number ?? measures[0]?.number ?? '';
  const last = measures.findLast(({ implicit }) => !implicit)?.number ?? measures.at(-1)?.number ?? '';
  const marks = measures.flatMap(({ rehearsal }) => rehearsal ?? []);
  const isNumber = /^\d/u.test(point);
  const holds = isNumber
    ? `This piece has measures ${first} to ${last}`
    : marks.length === 0
      ? 'This file has no rehearsal marks'
      : `This piece has the marks ${marks.join(', ')}`;
  return fail(
    'span-outside',
    'span',
    `${holds}; ${point} is not one of them.${isNumber ? '' : ' Give the printed numbers instead.'}`,
  );
}

/** A printed number, an edge, a rehearsal mark, or measures counted from one of these; -1 where none is. */
function indexOfPoint(measures: readonly NamedMeasure[], point: string): number {
  const number = indexOfNumber(measures, point);
  if (number >= 0) return number;
  const match = /^(.+?)\s*(?:([+-])\s*(\d{1,4}))?$/u.exec(point.trim());
  const anchor = indexOfAnchor(measures, match?.[1] ?? '');
  if (anchor < 0) return -1;
  return steppedFrom(measures, anchor, (match?.[2] === '-' ? -1 : 1) * Number(match?.[3] ?? 0));
}

/** So many printed measures on or back; the second half of a split measure is no measure of its own. */
function steppedFrom(measures: readonly NamedMeasure[], anchor: number, by: number): number {
  const isHalf = (index: number): boolean => index > 0 && measures[index]?.implicit === true;
  let index = anchor;
  for (let left = Math.abs(by); left > 0; left -= 1) {
    do index += Math.sign(by);
    while (isHalf(index));
  }
  return index >= 0 && index < measures.length ? index : -1;
}

function indexOfAnchor(measures: readonly NamedMeasure[], anchor: string): number {
  const name = anchor.trim().toLowerCase();
  if (name === 'start') return measures.length > 0 ? 0 : -1;
  if (name === 'end') return measures.length - 1;
  const mark = name.replace(/^(?:figure|letter|rehearsal)\s+/u, '');
  const marked = measures.findIndex(({ rehearsal }) => rehearsal?.trim().toLowerCase() === mark);
  return marked >= 0 ? marked : indexOfNumber(measures, anchor);
}

function indexOfNumber(measures: readonly NamedMeasure[], number: string): number {
  const wanted = number.toUpperCase();
  const printed = measures.findIndex(
    (measure) => !measure.implicit && measure.number.toUpperCase() === wanted,
  );
  return printed >= 0 ? printed : measures.findIndex((measure) => measure.number.toUpperCase() === wanted);
}

/**
 * A span whose numbers count the pickup as measure 1, in the printed numbers of a score that begins with one.
 * Shape:  anchors stay; a score without a pickup changes nothing
 * Units:  printed numbers
 * Source: common practice; the printed numbers are the truth
 * @example withoutPickup([{ number: '0', implicit: true, rehearsal: null }], { from: '2', to: '9' }) // { from: '1', to: '8' }
 */
export function withoutPickup(measures: readonly NamedMeasure[], { from, to }: SpanText): SpanText {
  if (measures[0]?.implicit !== true) return { from, to };
  const printed = (point: string): string => {
    const [, digits, letter = ''] = /^(\d+)([A-Za-z]?)$/u.exec(point) ?? [];
    if (digits === undefined) return point;
    const moved = `${Number(digits) - 1}${letter}`;
    // An inserted measure keeps its number where the score has it under that and no other.
    if (letter !== '' && indexOfNumber(measures, moved) < 0 && indexOfNumber(measures, point) >= 0)
      return point;
    return Number(digits) <= 1 ? 'start' : moved;
  };
  return { from: printed(from), to: printed(to) };
}

/**
 * The length of a span's measures.
 * Shape:  0 or more; measures outside the list count nothing
 * Units:  quarter notes, a floating sum for seconds and drawing
 */
export function spanQuarters(
  measures: readonly { readonly quarters: QuarterCount }[],
  { fromIndex, endIndex }: Span,
): number {
  return measures.slice(fromIndex, endIndex).reduce((sum, { quarters }) => sum + quarters, 0);
}

/**
 * The index of every printed number; of a number that stands twice, the first.
 * Units:  measure index
 */
export function measureIndexes(
  measures: readonly { readonly number: string }[],
): ReadonlyMap<string, number> {
  const indexes = new Map<string, number>();
  measures.forEach(({ number }, index) => {
    if (!indexes.has(number)) indexes.set(number, index);
  });
  return indexes;
}
