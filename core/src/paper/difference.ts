import type { MeasureDigest } from '../score/index.js';

/** What another reading of the same music has otherwise, by printed number. Shape: lists in the order of the music */
export interface MeasureDifference {
  readonly gone: readonly string[];
  readonly fresh: readonly string[];
  readonly changed: readonly { readonly number: string; readonly before: string; readonly after: string }[];
  readonly isSame: boolean;
}

type Measure = Pick<MeasureDigest, 'number' | 'quarters' | 'time'>;

/**
 * Lays the measures of one source against those of another, number by number.
 * Shape:  `before` and `after` of what changed are meters, or lengths in quarters where the meters are alike
 * Units:  printed numbers
 */
export function measureDifference(before: readonly Measure[], after: readonly Measure[]): MeasureDifference {
  const [old, now] = [byNumber(before), byNumber(after)];
  const gone = [...old.keys()].filter((number) => !now.has(number));
  const fresh = [...now.keys()].filter((number) => !old.has(number));
  const changed = [...now].flatMap(([number, measure]) => {
    const known = old.get(number);
    if (!known || (known.time === measure.time && Math.abs(known.quarters - measure.quarters) < 1e-9))
      return [];
    const isMeter = known.time !== measure.time;
    return [
      {
        number,
        before: isMeter ? known.time : `${known.quarters} quarter notes`,
        after: isMeter ? measure.time : `${measure.quarters} quarter notes`,
      },
    ];
  });
  return { gone, fresh, changed, isSame: gone.length + fresh.length + changed.length === 0 };
}

/** Measures by their numbers; of two with one number the first. */
function byNumber(measures: readonly Measure[]): Map<string, Measure> {
  return new Map(
    [...measures]
      .reverse()
      .map((measure) => [measure.number, measure] as const)
      .reverse(),
  );
}

/** Numbers as people say them: "1–4, 7". Shape: runs of whole numbers joined */
export function numberRuns(numbers: readonly string[]): string {
  const runs: { from: string; to: string }[] = [];
  for (const number of numbers) {
    const last = runs.at(-1);
    if (last && Number(number) === Number(last.to) + 1) last.to = number;
    else runs.push({ from: number, to: number });
  }
  return runs.map(({ from, to }) => (from === to ? from : `${from}–${to}`)).join(', ');
}
