/** When a rung is done: three clean reps in a row, five in a row, or no surprises over two days. */
export type RungRule = 'three-in-a-row' | 'five-in-a-row' | 'no-surprises';

/** Reps that must hold no slip under `no-surprises`, and over how many days. Source: common practice, no source. */
export const NO_SURPRISES = Object.freeze({ reps: 8, days: 2 });

/** One attempt as the rules see it. */
export interface LadderRep {
  readonly bpm: number;
  readonly isClean: boolean;
  /** Calendar day of the rep, any running count of days. */
  readonly day: number;
}

/**
 * Where a player stands on a ladder.
 * Shape:  `rungIndex` from 0; `streak` counts towards `needed`; `isDone` once the top rung's rule is met
 * Units:  reps
 */
export interface LadderPlace {
  readonly rungIndex: number;
  readonly streak: number;
  readonly needed: number;
  readonly isDone: boolean;
}

/**
 * All that must be kept of a row of reps to go on counting: the place, and the days in the running streak.
 * Shape:  plain data
 * Units:  reps, days
 */
export interface LadderState {
  readonly rungIndex: number;
  readonly streak: number;
  readonly streakDays: number;
  readonly lastDay: number | null;
  readonly isDone: boolean;
}

/** The bottom of a ladder before any rep. */
export const LADDER_START: LadderState = Object.freeze({
  rungIndex: 0,
  streak: 0,
  streakDays: 0,
  lastDay: null,
  isDone: false,
});

/**
 * The state after one more rep. A rep counts for the rung nearest at or below its tempo; playing another rung by choice
 * starts there.
 * Shape:  reps in the order played
 * Units:  beats per minute in the ladder's unit
 * Source: rules of common practice, no source
 */
export function advance(
  state: LadderState,
  rep: LadderRep,
  rungBpms: readonly number[],
  rule: RungRule,
): LadderState {
  const top = Math.max(0, rungBpms.length - 1);
  const rungIndex = rungOf(rungBpms, rep.bpm);
  const kept = rungIndex === state.rungIndex && rep.isClean ? state : LADDER_START;
  const streak = rep.isClean ? kept.streak + 1 : 0;
  const streakDays = rep.isClean
    ? kept.streakDays + (kept.streak === 0 || kept.lastDay !== rep.day ? 1 : 0)
    : 0;
  const isMet = streak >= repsNeeded(rule) && (rule !== 'no-surprises' || streakDays >= NO_SURPRISES.days);
  if (isMet && rungIndex < top) return { ...LADDER_START, rungIndex: rungIndex + 1, lastDay: rep.day };
  return { rungIndex, streak, streakDays, lastDay: rep.day, isDone: isMet || (kept.isDone && rep.isClean) };
}

/**
 * The state as it is shown.
 * Shape:  `streak` never above `needed`
 * Units:  reps
 */
export function placeOf(state: LadderState, rule: RungRule): LadderPlace {
  const needed = repsNeeded(rule);
  return { rungIndex: state.rungIndex, streak: Math.min(state.streak, needed), needed, isDone: state.isDone };
}

/**
 * The place on a ladder after a row of reps.
 * Shape:  reps in the order played
 * Units:  beats per minute in the ladder's unit
 * Source: rules of common practice, no source
 */
export function placeOnLadder(
  rungBpms: readonly number[],
  reps: readonly LadderRep[],
  rule: RungRule,
): LadderPlace {
  return placeOf(
    reps.reduce((state, rep) => advance(state, rep, rungBpms, rule), LADDER_START),
    rule,
  );
}

function repsNeeded(rule: RungRule): number {
  return rule === 'five-in-a-row' ? 5 : rule === 'three-in-a-row' ? 3 : NO_SURPRISES.reps;
}

/** A tempo this close below a rung is that rung: metronomes take whole numbers, rungs need not be whole. */
const RUNG_TOLERANCE_BPM = 0.51;

function rungOf(rungBpms: readonly number[], bpm: number): number {
  return Math.max(
    0,
    rungBpms.findLastIndex((rungBpm) => rungBpm <= bpm + RUNG_TOLERANCE_BPM),
  );
}
