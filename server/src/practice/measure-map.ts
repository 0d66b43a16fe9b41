import type { ScoreDigest } from '@vivid-cue/core/score';

/** One measure of a stored map. Units: quarter notes. */
export interface MappedMeasure {
  readonly number: string;
  readonly implicit: boolean;
  readonly quarters: number;
  readonly rehearsal: string | null;
}

/**
 * The little of a score that season and passages need, as text.
 * Shape:  JSON list of [number, implicit 0 or 1, quarters], and the rehearsal mark where one stands
 * Units:  quarter notes
 */
export function writeMeasureMap(digest: ScoreDigest): string {
  return JSON.stringify(
    digest.measures.map(({ number, implicit, quarters, rehearsal }) => [
      number,
      implicit ? 1 : 0,
      quarters,
      ...(rehearsal === null ? [] : [rehearsal]),
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
  return (JSON.parse(text) as [string, 0 | 1, number, string?][]).map(
    ([number, implicit, quarters, rehearsal]) => ({
      number,
      implicit: implicit === 1,
      quarters,
      rehearsal: rehearsal ?? null,
    }),
  );
}
