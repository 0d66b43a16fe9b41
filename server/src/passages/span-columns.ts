import { parseSpan, resolveSpan, type SpanText } from '@vivid-cue/core/score';
import { Problem } from '../http/problem.js';
import { readMeasureMap } from '../practice/measure-map.js';

/** A span as stored: printed numbers beside half-open indexes. */
export interface SpanColumns {
  readonly span_from: string;
  readonly span_to: string;
  readonly from_index: number;
  readonly end_index: number;
}

/**
 * Finds typed measure numbers in a part's score.
 * Shape:  numbers as printed
 * Errors: Problem score-missing, span-refused
 */
export function spanColumns(measureMap: string | null, { from, to }: SpanText): SpanColumns {
  const measures = readMeasureMap(measureMap);
  if (!measures)
    throw new Problem('score-missing', 'This part has no score yet; upload one, then cut it into passages.');
  const typed = parseSpan(`${from}-${to}`);
  const span = typed.ok ? resolveSpan(measures, typed.value) : typed;
  if (!span.ok) {
    const message = span.issues[0]?.message ?? '';
    throw new Problem('span-refused', message, { issues: [{ where: 'span', message }] });
  }
  const { fromIndex, endIndex } = span.value;
  return {
    span_from: measures[fromIndex]?.number ?? from,
    span_to: measures[endIndex - 1]?.number ?? to,
    from_index: fromIndex,
    end_index: endIndex,
  };
}
