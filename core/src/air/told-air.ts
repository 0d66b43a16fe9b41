import { toNumber } from '../music/index.js';
import type { Score, Span } from '../score/index.js';
import type { AirMusic, NotedPlace } from './places.js';

/**
 * What somebody marked at the end of a measure whose notes are not known.
 * Shape:  `beats` of rest there; 0 for a place where a breath is possible, or must be taken
 * Units:  printed beats
 */
export interface BoxMark {
  readonly index: number;
  readonly beats: number;
  readonly isMust: boolean;
}

/**
 * A stretch of measures without their notes, with the places that were marked on its boxes: the sums are the same.
 * Shape:  as airMusic; places rising; a rest at the end of the stretch only shortens it; null for no measure
 * Units:  quarters
 * Source: docs/computation.md §5
 */
export function toldAirMusic({ measures }: Score, span: Span, marks: readonly BoxMark[]): AirMusic | null {
  const own = measures.slice(span.fromIndex, span.endIndex);
  const [first, last] = [own[0], own.at(-1)];
  if (!first || !last) return null;
  const restOf = (index: number): number => {
    const measure = measures[index];
    const beats = marks.find((mark) => mark.index === index)?.beats ?? 0;
    return measure ? Math.min(toNumber(measure.length), (beats * 4) / measure.meter.beatType) : 0;
  };
  const places = own.slice(0, -1).flatMap(({ index, start, length, meter }): NotedPlace[] => {
    if (!marks.some((mark) => mark.index === index)) return [];
    const end = toNumber(start) + toNumber(length);
    const rest = restOf(index);
    const at = end - rest;
    return [
      {
        ...{ at, resumes: end, measureIndex: index, added: [], before: toNumber(length) - rest },
        beat: ((toNumber(length) - rest) * meter.beatType) / 4 + 1,
        kind: rest > 0 ? 'rest' : 'marked place',
        after: { measureIndex: index, ordinal: 0 },
      },
    ];
  });
  const end = toNumber(last.start) + toNumber(last.length) - restOf(last.index);
  return { start: toNumber(first.start), end, places };
}
