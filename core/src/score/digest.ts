import {
  meterText,
  pitchName,
  toNumber,
  type QuarterBpm,
  type QuarterCount,
  type Transposition,
} from '../music/index.js';
import type { ScoreWarning } from './issues.js';
import type { MeasureSource, PartInfo, Score } from './model.js';
import { soundedNotes } from './sounded-notes.js';
import { measureSeconds, quarterBpmAt } from './tempo-map.js';

/**
 * One measure as stored, sent and printed.
 * Shape:  `number` as printed; `quarterBpm` is the tempo in force at its start, null where none is known
 * Units:  quarter notes; quarter notes per minute; seconds at the file's own tempo
 */
export interface MeasureDigest {
  readonly index: number;
  readonly number: string;
  readonly implicit: boolean;
  readonly time: string;
  readonly fifths: number;
  readonly quarters: QuarterCount;
  readonly quarterBpm: QuarterBpm | null;
  readonly seconds: number | null;
  readonly rehearsal: string | null;
  readonly endsInDoubleBar: boolean;
  readonly source: MeasureSource;
  /** Notes a quarter, where they were told and are not known themselves. */
  readonly toldNotes: number | null;
}

/**
 * The parsed score in the form that is stored beside the file, sent to the browser and printed by the command line.
 * Shape:  `order` holds measure indexes as played; `notes` are pitch names in file order, ties joined
 * Units:  seconds null where the file states no tempo
 * Source: docs/formats.md
 */
export interface ScoreDigest {
  readonly title: string | null;
  readonly instrument: string;
  readonly partId: string;
  readonly transpose: Transposition;
  readonly measures: readonly MeasureDigest[];
  readonly order: readonly number[];
  readonly seconds: { readonly straight: number | null; readonly unrolled: number | null };
  readonly notes: { readonly written: readonly string[]; readonly sounding: readonly string[] };
  readonly parts: readonly PartInfo[];
  readonly warnings: readonly ScoreWarning[];
}

/**
 * Sums a score up for storage and print.
 * Shape:  plain data, safe to turn into JSON
 * Units:  as ScoreDigest
 * Source: docs/formats.md
 */
export function digestScore(score: Score): ScoreDigest {
  const seconds = measureSeconds(score.measures, score.tempos);
  const notes = soundedNotes(score);
  return {
    title: score.title,
    instrument: score.instrument,
    partId: score.partId,
    transpose: score.transposition,
    measures: score.measures.map((measure) => ({
      index: measure.index,
      number: measure.number,
      implicit: measure.implicit,
      time: meterText(measure.meter),
      fifths: measure.fifths,
      quarters: toNumber(measure.length),
      quarterBpm: quarterBpmAt(score.tempos, measure.start),
      seconds: seconds[measure.index] ?? null,
      rehearsal: measure.rehearsal,
      endsInDoubleBar: measure.endsInDoubleBar,
      source: measure.source,
      toldNotes: measure.toldNotes,
    })),
    order: score.order,
    seconds: {
      straight: total(seconds),
      unrolled: total(score.order.map((index) => seconds[index] ?? null)),
    },
    notes: {
      written: notes.map(({ written }) => pitchName(written)),
      sounding: notes.map(({ sounding }) => pitchName(sounding)),
    },
    parts: score.parts,
    warnings: score.warnings,
  };
}

function total(seconds: readonly (number | null)[]): number | null {
  let sum = 0;
  for (const part of seconds) {
    if (part === null) return null;
    sum += part;
  }
  return sum;
}
