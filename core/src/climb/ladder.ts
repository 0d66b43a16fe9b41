import { fail, ok, type Result } from '../base/index.js';
import { checkBpm, clickAt, DIAL, type BeatUnit } from '../music/index.js';

/**
 * How far one rung lies from the next.
 * Shape:  percent counts percent of the target; dial uses the metronome's own numbers; bpm a fixed step
 * Units:  percent of target, or beats per minute
 */
export type LadderStep =
  | { readonly kind: 'percent'; readonly size: number }
  | { readonly kind: 'bpm'; readonly size: number }
  | { readonly kind: 'dial' };

/** The usual step: 4 percent of the target. Source: common practice, no source. */
export const DEFAULT_STEP: LadderStep = Object.freeze({ kind: 'percent', size: 4 });
/** Where a climb starts when no clean tempo is known: half the target. Source: common practice, no source. */
export const DEFAULT_START_PERCENT = 50;
/** More rungs than this are a slip of the pen (our own limit). */
export const MAX_RUNGS = 200;

/**
 * One tempo step.
 * Shape:  `index` from 0 at the bottom
 * Units:  beats of the ladder's unit per minute; percent of the target; the click in its own unit per minute
 */
export interface Rung {
  readonly index: number;
  readonly bpm: number;
  readonly percent: number;
  readonly click: { readonly unit: BeatUnit; readonly bpm: number };
}

/** What a ladder is built from: two ends, a step and the unit that both ends count. */
export interface LadderOptions {
  readonly fromBpm: number;
  readonly toBpm: number;
  readonly step: LadderStep;
  readonly unit: BeatUnit;
}

/** Why no ladder can be built. */
export type LadderCode = 'bpm-out-of-range' | 'ladder-backwards' | 'ladder-step';

/**
 * The rungs from the start to the target: both ends are rungs and the last step is shortened to land on the target.
 * Shape:  rising, at least one rung
 * Units:  beats of `unit` per minute
 * Errors: bpm-out-of-range; ladder-backwards; ladder-step for a step of 0 or less or over MAX_RUNGS rungs
 * Source: the design's check: 60 to 127 in steps of 10 is eight rungs
 */
export function buildLadder({
  fromBpm,
  toBpm,
  step,
  unit,
}: LadderOptions): Result<readonly Rung[], LadderCode> {
  for (const [bpm, where] of [
    [fromBpm, 'from'],
    [toBpm, 'to'],
  ] as const) {
    const checked = checkBpm(bpm, where);
    if (!checked.ok) return checked;
  }
  if (fromBpm > toBpm)
    return fail(
      'ladder-backwards',
      'from',
      `A ladder climbs; it cannot start at ${fromBpm} and end at ${toBpm}.`,
    );
  const size = step.kind === 'percent' ? (toBpm * step.size) / 100 : step.kind === 'bpm' ? step.size : 1;
  if (!(size > 0) || (toBpm - fromBpm) / size > MAX_RUNGS) {
    return fail(
      'ladder-step',
      'step',
      `A step must be above 0 and leave at most ${MAX_RUNGS} rungs; this one does not.`,
    );
  }
  const between =
    step.kind === 'dial'
      ? DIAL.filter((mark) => mark > fromBpm && mark < toBpm)
      : evenSteps(fromBpm, toBpm, size);
  const tempos = fromBpm === toBpm ? [toBpm] : [fromBpm, ...between, toBpm];
  return ok(tempos.map((bpm, index) => rung(bpm, index, toBpm, unit)));
}

function evenSteps(fromBpm: number, toBpm: number, size: number): number[] {
  const steps: number[] = [];
  // A rung within a thousandth of the target would be the target twice (rounding of the sums).
  for (let n = 1; fromBpm + n * size < toBpm - 0.001; n += 1) steps.push(fromBpm + n * size);
  return steps;
}

function rung(bpm: number, index: number, toBpm: number, unit: BeatUnit): Rung {
  const exact = round(bpm);
  const click = clickAt(exact, unit, toBpm);
  return {
    index,
    bpm: exact,
    percent: round((bpm / toBpm) * 100),
    click: { unit: click.unit, bpm: round(click.bpm) },
  };
}

function round(value: number): number {
  return Math.round(value * 100) / 100;
}

/**
 * The usual ladder of a passage: half tempo to target by 4 percent.
 * Shape:  14 rungs
 * Units:  beats of `unit` per minute
 * Errors: as buildLadder
 * Source: common practice, no source
 */
export function passageLadder(
  targetBpm: number,
  unit: BeatUnit,
  step: LadderStep = DEFAULT_STEP,
): Result<readonly Rung[], LadderCode> {
  const fromBpm = Math.max((targetBpm * DEFAULT_START_PERCENT) / 100, Math.min(10, targetBpm));
  return buildLadder({ fromBpm, toBpm: targetBpm, step, unit });
}
