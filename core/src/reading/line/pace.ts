import { present, roundTo } from '../../base/index.js';
import {
  asQuarterBpm,
  asSeconds,
  isCompound,
  secondsAt,
  toNumber,
  type Bpm,
  type Meter,
  type QuarterBpm,
  type Seconds,
} from '../../music/index.js';
import type { Score } from '../../score/index.js';

/** How fast the music goes, place by place. Units: `at` in quarters from the beginning, quarters a minute. */
export interface Pace {
  readonly segments: readonly { readonly at: number; readonly quarterBpm: QuarterBpm }[];
  /** The beat that is counted in tempos for people: a dotted quarter is 1.5. */
  readonly beatQuarters: number;
}

/** The beat of a meter in quarters: three of the printed beats where it is compound. */
export function beatOf(meter: Meter): number {
  return (isCompound(meter) ? 12 : 4) / meter.beatType;
}

/**
 * The pace of a score, scaled so that its opening goes at `bpm` if one is asked.
 * Shape:  no segments where neither file nor caller gives a tempo
 * Units:  `bpm` counts beats of the first full measure
 * Source: MusicXML 4.0 for the tempos in the file
 */
export function paceOf({ tempos, measures }: Score, bpm: Bpm | null): Pace {
  const first = measures.find(({ implicit }) => !implicit) ?? measures[0];
  const beatQuarters = first ? beatOf(first.meter) : 1;
  const segments = tempos.map(({ at, quarterBpm }) => ({ at: toNumber(at), quarterBpm }));
  if (bpm === null) return { segments, beatQuarters };
  const opening = segments[0]?.quarterBpm;
  const asked = asQuarterBpm(bpm * beatQuarters);
  return {
    segments:
      opening === undefined
        ? [{ at: 0, quarterBpm: asked }]
        : segments.map(({ at, quarterBpm }, n) => ({
            at: n === 0 ? 0 : at,
            quarterBpm: asQuarterBpm((quarterBpm * asked) / opening),
          })),
    beatQuarters,
  };
}

/** Quarters a minute at a place; null where no tempo is known. */
export function quarterBpmOf({ segments }: Pace, at: number): QuarterBpm | null {
  return segments.findLast((segment) => segment.at <= at + 1e-9)?.quarterBpm ?? null;
}

/**
 * Seconds from one place to another, over each tempo between.
 * Shape:  null where a stretch has no tempo
 * Units:  quarters in, seconds out, to the microsecond
 * Source: arithmetic
 */
export function secondsBetween(pace: Pace, from: number, to: number): Seconds | null {
  const [begun, ended] = [clockAt(pace, from), clockAt(pace, to)];
  return begun === null || ended === null ? null : asSeconds(roundTo(ended - begun, 6));
}

/** When each tempo of a pace begins, reckoned once. Units: seconds from the first of them */
const clocks = new WeakMap<Pace, readonly number[]>();

function clockOf(pace: Pace): readonly number[] {
  const known = clocks.get(pace);
  if (known) return known;
  let [seconds, before] = [0, pace.segments[0]];
  const begins = pace.segments.map((segment) => {
    if (before) seconds += secondsAt(segment.at - before.at, before.quarterBpm);
    before = segment;
    return seconds;
  });
  clocks.set(pace, begins);
  return begins;
}

/** The time of a place. Shape: null before the first tempo. Units: seconds from the first tempo */
function clockAt(pace: Pace, at: number): number | null {
  const { segments } = pace;
  let [low, high] = [0, segments.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((segments[middle]?.at ?? 0) <= at) low = middle + 1;
    else high = middle;
  }
  const segment = segments[low - 1];
  return segment ? (clockOf(pace)[low - 1] ?? 0) + secondsAt(at - segment.at, segment.quarterBpm) : null;
}

/**
 * A pace that is known from the beginning: what comes before the first mark goes at its tempo.
 * Shape:  null where neither file nor caller gives a tempo
 * Units:  as paceOf
 */
export function wholePace(score: Score, bpm: Bpm | null): Pace | null {
  const { segments, beatQuarters } = paceOf(score, bpm);
  const [first, ...more] = segments;
  return first ? { segments: [{ ...first, at: 0 }, ...more], beatQuarters } : null;
}

/** One tempo throughout. Units: quarter notes a minute; quarters a beat */
export function steadyPace(quarterBpm: QuarterBpm, beatQuarters = 1): Pace {
  return { segments: [{ at: 0, quarterBpm }], beatQuarters };
}

/** How long it is from one place to another, at a pace that is known from the beginning. Units: quarters in, seconds out */
export function secondsOver(pace: Pace, from: number, to: number): Seconds {
  return present(secondsBetween(pace, from, to));
}

/**
 * When a place comes, at a pace that is known from the beginning.
 * Units:  quarters from the beginning in, seconds out
 * Errors: InvariantError where the pace is not known
 */
export function secondsTo(pace: Pace, at: number): Seconds {
  return present(secondsBetween(pace, 0, at));
}
