import { asSeconds, beatCount, type Meter, type QuarterBpm, type Seconds } from '../music/index.js';
import { clickPatternsOf, type ClickPattern } from './click-patterns.js';

/**
 * How a passage is clicked.
 * Shape:  `meters` of its measures in order, with the lengths of those that are not full; `pattern` by its id, the plain
 *         beats where a meter has it not; `countIn` measures before; `silentAfter` measures that are clicked before the
 *         click falls silent, null for never; `isAlternating` for one measure on, one off
 * Units:  quarter notes a minute
 */
export interface ClickSettings {
  readonly measures: readonly { readonly meter: Meter; readonly quarters: number }[];
  readonly quarterBpm: QuarterBpm;
  readonly pattern: string;
  readonly countIn: number;
  readonly silentAfter: number | null;
  readonly isAlternating: boolean;
}

/**
 * One click.
 * Shape:  `measure` counts the measures of the passage from 0, negative in the count-in; `level` 2 downbeat, 1 beat,
 *         0 between; a silent one is seen and not heard
 * Units:  seconds from the first click
 */
export interface Click {
  readonly at: Seconds;
  readonly measure: number;
  readonly beat: number;
  readonly level: 0 | 1 | 2;
  readonly isSilent: boolean;
}

/**
 * Every click of a passage, the count-in included.
 * Shape:  in time order; a measure that is shorter than its meter is an upbeat and is clicked from its end
 * Units:  seconds from the first click
 */
export function clickTimes(settings: ClickSettings): Click[] {
  const { measures, quarterBpm, countIn } = settings;
  const secondsPerQuarter = 60 / quarterBpm;
  const before = beforePlaying(settings);
  if (!before) return [];
  const { countMeter, missing: upbeat } = before;
  const clicks: Click[] = [];
  let start = 0;
  const push = (
    meter: Meter,
    measure: number,
    { from, to }: { readonly from: number; readonly to: number },
  ): void => {
    const pattern = patternOf(meter, settings.pattern);
    const isSilent = measure >= 0 && isMuted(measure, settings);
    for (const { at, level } of pattern.strokes)
      if (at >= from - 1e-9 && at < to - 1e-9)
        clicks.push({
          at: asSeconds((start + at - from) * secondsPerQuarter),
          measure,
          beat: Math.floor(at / pattern.beat + 1e-9),
          level,
          isSilent,
        });
    start += to - from;
  };
  for (let n = countIn; n > 0; n -= 1) push(countMeter, -n, { from: 0, to: fullLength(countMeter) });
  if (upbeat > 1e-9 && countIn > 0) push(countMeter, -1, { from: 0, to: upbeat });
  measures.forEach(({ meter, quarters }, measure) => {
    const missing = measure === 0 ? upbeat : 0;
    push(meter, measure, { from: missing, to: missing + quarters });
  });
  return clicks;
}

function fullLength(meter: Meter): number {
  return (beatCount(meter) * 4) / meter.beatType;
}

function patternOf(meter: Meter, id: string): ClickPattern {
  const [beats, ...others] = clickPatternsOf(meter);
  const chosen = others.find((one) => one.id === id) ?? beats;
  return chosen ?? { id: 'beats', name: 'beats', strokes: [], beat: 1 };
}

function isMuted(measure: number, { silentAfter, isAlternating }: ClickSettings): boolean {
  if (isAlternating) return measure % 2 === 1;
  return silentAfter !== null && measure >= silentAfter;
}

/**
 * How long a passage with its count-in lasts.
 * Units:  seconds
 */
export function clickSeconds(settings: ClickSettings): Seconds {
  const before = beforePlaying(settings)?.quarters ?? 0;
  const quarters = settings.measures.reduce((sum, measure) => sum + measure.quarters, before);
  return asSeconds((quarters * 60) / settings.quarterBpm);
}

/** What is counted before a passage: in the meter of its first full measure. Units: quarters */
interface BeforePlaying {
  readonly countMeter: Meter;
  /** What its first measure lacks: 0 for a full one. */
  readonly missing: number;
  readonly quarters: number;
}

/** An upbeat is counted in within its own measure: the count stops where it begins. Shape: null without a measure */
function beforePlaying({ measures, countIn }: ClickSettings): BeforePlaying | null {
  const [head] = measures;
  if (!head) return null;
  const { meter } = measures.find((one) => one.quarters >= fullLength(one.meter) - 1e-9) ?? head;
  const missing = Math.max(0, fullLength(head.meter) - head.quarters);
  const count = countIn * fullLength(meter) + (countIn > 0 && missing > 1e-9 ? missing : 0);
  return { countMeter: meter, missing, quarters: count };
}
