import type { QuarterCount } from '@vivid-cue/core/music';
import type { ScoreDigest } from '@vivid-cue/core/score';

/** One measure of a stored map. Units: quarter notes. */
export interface MappedMeasure {
  readonly number: string;
  readonly implicit: boolean;
  readonly quarters: QuarterCount;
  readonly rehearsal: string | null;
  readonly endsInDoubleBar: boolean;
  /** What the measure asks beside the others, 0 to 1; 1 throughout where the score was not read for it. */
  readonly demand: number;
}

/** What is stored of a score's reading: its digest, and what each measure asks. */
export interface StoredDigest extends ScoreDigest {
  readonly demands?: readonly number[];
}

/**
 * The little of a score that season and passages need, as text.
 * Shape:  JSON list of [number, implicit 0 or 1, quarters, rehearsal mark or null, demand, double bar 0 or 1]
 * Units:  quarter notes
 */
export function writeMeasureMap(digest: StoredDigest): string {
  return JSON.stringify(
    digest.measures.map(({ index, number, implicit, quarters, rehearsal, endsInDoubleBar }) => [
      number,
      implicit ? 1 : 0,
      quarters,
      rehearsal,
      digest.demands?.[index] ?? 1,
      endsInDoubleBar ? 1 : 0,
    ]),
  );
}

/**
 * Reads the stored map back.
 * Shape:  null where there is no score
 * Units:  quarter notes
 */
export function readMeasureMap(text: string | null): MappedMeasure[] | null {
  if (text === null) return null;
  return (JSON.parse(text) as [string, 0 | 1, number, (string | null)?, number?, (0 | 1)?][]).map(
    ([number, implicit, quarters, rehearsal, demand, doubleBar]) => ({
      number,
      implicit: implicit === 1,
      quarters,
      rehearsal: rehearsal ?? null,
      demand: demand ?? 1,
      endsInDoubleBar: doubleBar === 1,
    }),
  );
}
