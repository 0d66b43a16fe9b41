import { fail, ok, type Result } from '../base/index.js';
import { checkBpm, clickAt, DIAL, type BeatUnit, type Bpm } from '../music/index.js';

/**
 * How far one rung lies from the next.
 * Shape:  usual is eight rungs, denser near the top; percent counts percent of the target; dial uses the metronome's
 *         own numbers; bpm a fixed step
 * Units:  percent of target, or beats per minute
 */
export type LadderStep =
  | { readonly kind: 'usual' }
  | { readonly kind: 'percent'; readonly size: number }
  | { readonly kind: 'bpm'; readonly size: number }
  | { readonly kind: 'dial' };

/** The usual step. Source: the design: a ladder spends a student's minutes. */
export const DEFAULT_STEP: LadderStep = Object.freeze({ kind: 'usual' });
/** Percent of the target of the usual rungs, from half of it. Source: the design. */
export const USUAL_PERCENTS: readonly number[] = Object.freeze([50, 58, 66, 74, 82, 89, 95, 100]);
/** Rungs lie at least so far apart: nobody hears less. Units: beats per minute (common practice, no source). */
export const MIN_STEP_BPM = 1;
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
  readonly bpm: Bpm;
  readonly percent: number;
  readonly click: { readonly unit: BeatUnit; readonly bpm: Bpm };
}

/** What a ladder is built from: two ends, a step and the unit that both ends count. */
export interface LadderOptions {
  readonly fromBpm: Bpm;
  readonly toBpm: Bpm;
  readonly step: LadderStep;
  readonly unit: BeatUnit;
}

/** Why no ladder can be built. */
export type LadderCode = 'bpm-out-of-range' | 'ladder-backwards' | 'ladder-step';

/**
 * The rungs from the start to the target: both ends are rungs and the last step is shortened to land on the target.
 * Shape:  strictly rising, at least one rung, not rounded
 * Units:  beats of `unit` per minute
 * Errors: bpm-out-of-range; ladder-backwards; ladder-step for a step below MIN_STEP_BPM or over MAX_RUNGS rungs
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
  const refusal = stepIssue(step, fromBpm, toBpm);
  if (refusal !== null) return fail('ladder-step', 'step', refusal);
  const tempos = [fromBpm, ...between(step, fromBpm, toBpm).filter((bpm) => bpm < toBpm), toBpm];
  return ok([...new Set(tempos)].map((bpm, index) => rung(bpm, index, { toBpm, unit })));
}

function stepIssue(step: LadderStep, fromBpm: Bpm, toBpm: Bpm): string | null {
  if (step.kind === 'usual' || step.kind === 'dial') return null;
  const size = stepBpm(step, toBpm);
  if (!(size >= MIN_STEP_BPM))
    return `Rungs lie at least ${MIN_STEP_BPM} beat a minute apart; this step is ${tidy(size)}. Choose a larger one, or the usual eight rungs.`;
  if ((toBpm - fromBpm) / size > MAX_RUNGS)
    return `A ladder has at most ${MAX_RUNGS} rungs; choose a larger step.`;
  return null;
}

function stepBpm({ kind, size }: Extract<LadderStep, { size: number }>, toBpm: Bpm): number {
  return kind === 'percent' ? (toBpm * size) / 100 : size;
}

/** The rungs between the ends, rising; some may reach the target. */
function between(step: LadderStep, fromBpm: Bpm, toBpm: Bpm): number[] {
  if (step.kind === 'dial') return DIAL.filter((mark) => mark > fromBpm);
  if (step.kind === 'usual') return usualRungs(fromBpm, toBpm);
  const size = stepBpm(step, toBpm);
  const count = Math.ceil((toBpm - fromBpm) / size) - 1;
  // Sums of percents stay whole until the one division, so that no rung drifts.
  return Array.from({ length: Math.max(0, count) }, (_, n) =>
    step.kind === 'percent' ? (fromBpm * 100 + (n + 1) * step.size * toBpm) / 100 : fromBpm + (n + 1) * size,
  );
}

/** The usual percents, drawn together where the climb starts higher; rungs too near to their neighbours are left out. */
function usualRungs(fromBpm: Bpm, toBpm: Bpm): number[] {
  const [lowest = 0] = USUAL_PERCENTS;
  const isWhole = fromBpm * 100 === toBpm * lowest;
  const rungs: number[] = [];
  for (const percent of USUAL_PERCENTS.slice(1, -1)) {
    const bpm = isWhole
      ? (toBpm * percent) / 100
      : fromBpm + ((toBpm - fromBpm) * (percent - lowest)) / (100 - lowest);
    const below = rungs.at(-1) ?? fromBpm;
    if (bpm - below >= MIN_STEP_BPM && toBpm - bpm >= MIN_STEP_BPM) rungs.push(bpm);
  }
  return rungs;
}

function rung(
  bpm: Bpm,
  index: number,
  { toBpm, unit }: { readonly toBpm: Bpm; readonly unit: BeatUnit },
): Rung {
  return { index, bpm, percent: tidy((bpm * 100) / toBpm), click: clickAt(bpm, unit, toBpm) };
}

/** A number without the noise of its last places. */
function tidy(value: number): number {
  return Math.round(value * 1e6) / 1e6;
}

/**
 * The ladder of a passage: half tempo to target.
 * Shape:  eight rungs by the usual step
 * Units:  beats of `unit` per minute
 * Errors: as buildLadder
 * Source: common practice, no source
 */
export function passageLadder(
  targetBpm: Bpm,
  unit: BeatUnit,
  step: LadderStep = DEFAULT_STEP,
): Result<readonly Rung[], LadderCode> {
  const fromBpm = Math.max((targetBpm * DEFAULT_START_PERCENT) / 100, Math.min(10, targetBpm));
  return buildLadder({ fromBpm, toBpm: targetBpm, step, unit });
}
