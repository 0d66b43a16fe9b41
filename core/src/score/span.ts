import { fail, ok, type Result } from '../base/index.js';
import type { ScoreMeasure } from './model.js';

/** A run of measures by printed number, both included. */
export interface SpanText {
  readonly from: string;
  readonly to: string;
}

/**
 * A run of measures by index.
 * Shape:  half-open, from `fromIndex` to before `endIndex`
 * Units:  measure indexes from 0
 * Errors: none
 * Source: none
 */
export interface Span {
  readonly fromIndex: number;
  readonly endIndex: number;
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

/**
 * Finds a span of printed numbers in a measure map; the first measure of a repeated number counts.
 * Shape:  a half-open run of at least one measure
 * Units:  printed numbers in, measure indexes out
 * Errors: span-outside, span-backwards
 * Source: none
 */
export function resolveSpan(
  measures: readonly Pick<ScoreMeasure, 'number' | 'implicit'>[],
  { from, to }: SpanText,
): Result<Span, SpanCode> {
  const fromIndex = indexOfNumber(measures, from);
  const toIndex = indexOfNumber(measures, to);
  if (fromIndex < 0 || toIndex < 0) {
    const outside = fromIndex < 0 ? from : to;
    const first = measures.find(({ implicit }) => !implicit)?.number ?? measures[0]?.number ?? '';
    const last = measures.findLast(({ implicit }) => !implicit)?.number ?? measures.at(-1)?.number ?? '';
    return fail(
      'span-outside',
      'span',
      `This piece has measures ${first} to ${last}; ${outside} is not one of them.`,
    );
  }
  if (toIndex < fromIndex)
    return fail(
      'span-backwards',
      'span',
      `The span runs backwards, from ${from} to ${to}; write the earlier measure first.`,
    );
  return ok({ fromIndex, endIndex: toIndex + 1 });
}

function indexOfNumber(
  measures: readonly Pick<ScoreMeasure, 'number' | 'implicit'>[],
  number: string,
): number {
  const wanted = number.toUpperCase();
  const printed = measures.findIndex(
    (measure) => !measure.implicit && measure.number.toUpperCase() === wanted,
  );
  return printed >= 0 ? printed : measures.findIndex((measure) => measure.number.toUpperCase() === wanted);
}

/**
 * The length of a span's measures.
 * Shape:  0 or more; measures outside the list count nothing
 * Units:  quarter notes, a floating sum for seconds and drawing
 * Errors: none
 * Source: none
 */
export function spanQuarters(
  measures: readonly { readonly quarters: number }[],
  { fromIndex, endIndex }: Span,
): number {
  return measures.slice(fromIndex, endIndex).reduce((sum, { quarters }) => sum + quarters, 0);
}
