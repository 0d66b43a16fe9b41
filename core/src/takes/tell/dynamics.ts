import { hairpinRanges, soloLine } from '../../reading/index.js';
import type { Score } from '../../score/index.js';
import { loudnessOf, type Loudness } from '../sound/loudness.js';
import type { Sound } from '../sound/sound.js';
import type { TakeMeasure } from './take-measures.js';

/** How loud a measure reached the microphone beside the whole take. Units: LU */
export interface MeasureLoudness {
  readonly pass: number;
  readonly number: string;
  readonly lu: number;
}

/** What became of a printed hairpin. Shape: printed measure numbers. Units: LU from its beginning to its end */
export interface HairpinHeard {
  readonly printed: 'crescendo' | 'diminuendo';
  readonly from: string;
  readonly to: string;
  readonly changeLu: number;
}

/**
 * The dynamics that reach the listener.
 * Units:  LU beside the gated loudness of the take: the microphone is not known
 * Source: ITU-R BS.1770-4
 */
export function dynamicsHeard(
  score: Score,
  sound: Sound,
  measures: readonly TakeMeasure[],
): { readonly measures: MeasureLoudness[]; readonly hairpins: HairpinHeard[] } {
  const loudness = loudnessOf(sound);
  const whole = loudness.integrated ?? -70;
  const sure = measures.filter(({ quarterBpm }) => quarterBpm !== null);
  return {
    measures: sure.map(({ pass, number, start, end }) => ({
      ...{ pass, number, lu: loudness.between(start, end) - whole },
    })),
    hairpins: hairpinRanges(score, soloLine(score)).flatMap(({ kind, fromIndex, lastIndex }) =>
      hairpinsHeard(kind, { fromIndex, lastIndex, sure, loudness }),
    ),
  };
}

interface HairpinPlace {
  readonly fromIndex: number;
  readonly lastIndex: number;
  readonly sure: readonly TakeMeasure[];
  readonly loudness: Loudness;
}

/** Each time a hairpin was played from its beginning to its end. */
function hairpinsHeard(
  printed: HairpinHeard['printed'],
  { fromIndex, lastIndex, sure, loudness }: HairpinPlace,
): HairpinHeard[] {
  return sure.flatMap((first, n): HairpinHeard[] => {
    const last = sure[n + lastIndex - fromIndex];
    if (first.measureIndex !== fromIndex || last?.measureIndex !== lastIndex || last.run !== first.run)
      return [];
    const quarter = Math.max(0.3, (last.end - first.start) / 4);
    const changeLu =
      loudness.between(last.end - quarter, last.end) - loudness.between(first.start, first.start + quarter);
    return [{ printed, from: first.number, to: last.number, changeLu }];
  });
}
