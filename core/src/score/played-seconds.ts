import type { QuarterBpm, QuarterCount } from '../music/index.js';
import type { Span } from '../spans/index.js';

/** What the length of a performance needs of a measure. Units: quarter notes; the file's tempo where it starts, or null. */
export interface PlayedMeasure {
  readonly quarters: QuarterCount;
  readonly quarterBpm: QuarterBpm | null;
}

/** A stretch that is played again. Shape: half-open measure indexes. */
export type RepeatedStretch = Span;

/**
 * How long some measures last at a target tempo, repeats taken or left out. Tempo changes inside the piece keep their
 * proportion to the tempo at the first measure played.
 * Shape:  0 for no measures; fermatas and ritardandi are not in it
 * Units:  seconds; quarter notes per minute
 * Source: arithmetic: quarters × 60 / quarter-bpm over every stretch
 * @example playedSeconds([{ quarters: 4, quarterBpm: null }], [0, 0], { spans: [{ fromIndex: 0, endIndex: 1 }], quarterBpm: 120, withRepeats: true }) // 4
 */
export function playedSeconds(
  measures: readonly PlayedMeasure[],
  order: readonly number[],
  {
    spans,
    quarterBpm,
    withRepeats,
  }: { readonly spans: readonly Span[]; readonly quarterBpm: QuarterBpm; readonly withRepeats: boolean },
): number {
  const isAsked = (index: number): boolean =>
    spans.some(({ fromIndex, endIndex }) => index >= fromIndex && index < endIndex);
  const played = playedOrder(order, withRepeats).filter(isAsked);
  const opening = measures[played[0] ?? 0]?.quarterBpm ?? null;
  return played.reduce((seconds, index) => {
    const measure = measures[index];
    const ratio = opening === null || measure?.quarterBpm == null ? 1 : measure.quarterBpm / opening;
    return seconds + ((measure?.quarters ?? 0) * 60) / (quarterBpm * ratio);
  }, 0);
}

/** The order of playing, with repeats or without. Units: measure indexes */
export function playedOrder(order: readonly number[], withRepeats: boolean): readonly number[] {
  return withRepeats ? order : straightOrder(order);
}

/**
 * The order of playing with repeats left out: of a repeated section the last time through stays, with its ending; a
 * jump back to the beginning that stops before its end (da capo al fine) is no repeat and stays.
 * Shape:  measure indexes
 * Source: common practice
 */
function straightOrder(order: readonly number[]): number[] {
  const laterMax = [...order];
  for (let n = order.length - 2; n >= 0; n -= 1) laterMax[n] = Math.max(order[n] ?? 0, laterMax[n + 1] ?? 0);
  const straight: number[] = [];
  order.forEach((index, n) => {
    const last = order[n - 1] ?? -1;
    if (index <= last && (laterMax[n] ?? 0) >= last) while ((straight.at(-1) ?? -1) >= index) straight.pop();
    straight.push(index);
  });
  return straight;
}

/**
 * The stretches that the order of playing goes over again, outermost first.
 * Shape:  in the order they are met, each once
 * Units:  measure indexes
 */
export function repeatedStretches(order: readonly number[]): RepeatedStretch[] {
  const found = new Map<string, RepeatedStretch>();
  order.forEach((index, n) => {
    const next = order[n + 1];
    if (next !== undefined && next <= index)
      found.set(`${next}-${index}`, { fromIndex: next, endIndex: index + 1 });
  });
  return [...found.values()];
}
