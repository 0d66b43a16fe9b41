import { meterText, toNumber, type Bpm, type Meter, type QuarterBpm } from '../../music/index.js';
import type { Score } from '../../score/index.js';
import { beatOf, quarterBpmOf, type Pace } from '../line/pace.js';
import { valueName } from '../line/value-names.js';

/**
 * Which beat to feel from a measure on.
 * Shape:  only where it is not the beat that the meter prints; `unit` as a note value
 * Units:  `printedBpm` and `bpm` in beats a minute
 */
export interface BeatToFeel {
  readonly measure: string;
  readonly unit: string;
  readonly bpm: Bpm;
  readonly printedBpm: Bpm;
  readonly why: string;
}

/** A beat between these is easy to keep; beyond them a larger or a smaller one is (common practice, no source). */
const SLOWEST_BEAT = 44;
const FASTEST_BEAT = 152;

/**
 * The beat to feel, wherever meter or tempo change it.
 * Shape:  empty without a tempo, and where the printed beat is the one to feel
 * Units:  see BeatToFeel
 * Source: common practice, no source
 */
export function beatToFeel({ measures }: Pick<Score, 'measures'>, pace: Pace): BeatToFeel[] {
  const found: BeatToFeel[] = [];
  let before = '';
  for (const { number, meter, start, length } of measures) {
    const quarterBpm = quarterBpmOf(pace, toNumber(start));
    if (quarterBpm === null) continue;
    const key = `${meterText(meter)} ${quarterBpm.toFixed(3)}`;
    if (key === before) continue;
    before = key;
    const feel = feelOf(meter, quarterBpm, toNumber(length));
    if (feel) found.push({ measure: number, ...feel });
  }
  return found;
}

function feelOf(meter: Meter, quarterBpm: QuarterBpm, length: number): Omit<BeatToFeel, 'measure'> | null {
  const printed = beatOf(meter);
  const printedBpm = quarterBpm / printed;
  const isFast = printedBpm > FASTEST_BEAT;
  if (!isFast && printedBpm >= SLOWEST_BEAT) return null;
  const unit = isFast ? largerBeat(printed, length) : smallerBeat(meter, printed);
  if (unit === null) return null;
  const bpm = quarterBpm / unit;
  const name = valueName(unit);
  const meterName = meterText(meter);
  return {
    unit: name,
    bpm: Math.round(bpm),
    printedBpm: Math.round(printedBpm),
    why: isFast
      ? `${meterName} at ${Math.round(printedBpm)} beats a minute is felt in the ${name}, ${Math.round(bpm)} a minute.`
      : `${meterName} at ${Math.round(printedBpm)} beats a minute holds better when the ${name} is felt, ${Math.round(bpm)} a minute.`,
  };
}

/** Two beats together where the measure divides so, else the whole measure. */
function largerBeat(printed: number, length: number): number | null {
  const pairs = length / (2 * printed);
  if (Math.abs(pairs - Math.round(pairs)) < 1e-6) return 2 * printed;
  return length > printed + 1e-6 && length <= 3 * printed + 1e-6 ? length : null;
}

function smallerBeat(meter: Meter, printed: number): number {
  return printed === 4 / meter.beatType ? printed / 2 : 4 / meter.beatType;
}
