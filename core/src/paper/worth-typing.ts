import { hasKnownNotes, runsOf, type MeasureDigest, type Span } from '../score/index.js';

/** The measures that decide the tempo by what was told of them, and whose notes are unknown. */
export interface WorthTyping {
  readonly runs: readonly Span[];
  readonly count: number;
}

/** More than this nobody types at once (our own). Units: measures */
const MOST_AT_ONCE = 12;

/**
 * What is worth typing first: the measures with the most notes a quarter that were told, where their notes are unknown.
 * Shape:  null where nothing was told of notes, or where all of it is known; at most twelve measures, the first ones
 * Units:  measure indexes
 */
export function worthTyping(measures: readonly MeasureDigest[]): WorthTyping | null {
  const most = Math.max(0, ...measures.map(({ toldNotes }) => toldNotes ?? 0));
  if (most === 0) return null;
  const open = measures
    .filter((measure) => !hasKnownNotes(measure) && measure.toldNotes === most)
    .slice(0, MOST_AT_ONCE);
  if (open.length === 0) return null;
  return { runs: runsOf(open.map(({ index }) => index)), count: open.length };
}
