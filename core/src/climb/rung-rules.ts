import type { Bpm } from '../music/index.js';
/** When a rung is done: three clean reps in a row, five in a row, or no surprises over two days. */
export type RungRule = 'three-in-a-row' | 'five-in-a-row' | 'no-surprises';

/**
 * What slips do to the rung: two in a row lead one rung down, or the streak only begins anew.
 * Source: common practice, no source
 */
export type SlipRule = 'two-down' | 'stay';

/** Slips in a row that lead a rung down. Source: the design. */
export const SLIPS_DOWN = 2;

/** Reps that must hold no slip under `no-surprises`, and over how many days. Source: common practice, no source. */
export const NO_SURPRISES = Object.freeze({ reps: 8, days: 2 });

/** One attempt as the rules see it. */
export interface LadderRep {
  readonly bpm: Bpm;
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
 * All that must be kept of a row of reps to go on counting: the place, the running streak, and what was met so far.
 * Shape:  `streakBpm` is the slowest rep of the running streak; `topRung` the highest rung ever played, -1 before;
 *         `slips` counts those in a row on this rung; `isFirstSight` while no rep on this rung was a slip and it was never played before; `cleanBpm` the fastest
 *         tempo at which the rule was met, null before
 * Units:  reps, days, beats of the ladder's unit per minute
 */
export interface LadderState {
  readonly rungIndex: number;
  readonly streak: number;
  readonly streakDays: number;
  readonly streakBpm: Bpm | null;
  readonly lastDay: number | null;
  readonly topRung: number;
  readonly slips: number;
  readonly isFirstSight: boolean;
  readonly cleanBpm: Bpm | null;
  readonly isDone: boolean;
}

/** The bottom of a ladder before any rep. */
export const LADDER_START: LadderState = Object.freeze({
  rungIndex: 0,
  streak: 0,
  streakDays: 0,
  streakBpm: null,
  lastDay: null,
  topRung: -1,
  slips: 0,
  isFirstSight: true,
  cleanBpm: null,
  isDone: false,
});

/** Rungs that a rule met at first sight moves up, without a slip on a rung never played before. Source: the design. */
export const FIRST_SIGHT_RUNGS = 2;

/**
 * The rungs of a climb and the rules by which it goes up and down.
 * Units:  beats per minute in the ladder's unit, rising
 */
export interface LadderOf {
  readonly rungBpms: readonly Bpm[];
  readonly rule: RungRule;
  readonly slipRule: SlipRule;
}

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
  { rungBpms, rule, slipRule }: LadderOf,
): LadderState {
  const top = Math.max(0, rungBpms.length - 1);
  const rungIndex = rungOf(rungBpms, rep.bpm);
  const here = rungIndex === state.rungIndex ? state : arriveAt(state, rungIndex);
  const topRung = Math.max(here.topRung, rungIndex);
  if (!rep.isClean) return slipped({ ...here, lastDay: rep.day, topRung }, slipRule);
  const streak = here.streak + 1;
  const streakDays = here.streakDays + (here.streak === 0 || here.lastDay !== rep.day ? 1 : 0);
  const streakBpm = Math.min(here.streakBpm ?? rep.bpm, rep.bpm);
  const isMet = streak >= repsNeeded(rule) && (rule !== 'no-surprises' || streakDays >= NO_SURPRISES.days);
  const cleanBpm = isMet ? Math.max(here.cleanBpm ?? 0, streakBpm) : here.cleanBpm;
  const next = { ...here, lastDay: rep.day, topRung, cleanBpm, slips: 0 };
  if (!isMet || rungIndex === top)
    return { ...next, streak, streakDays, streakBpm, isDone: here.isDone || isMet };
  return arriveAt(next, Math.min(top, rungIndex + (here.isFirstSight ? FIRST_SIGHT_RUNGS : 1)));
}

const NO_STREAK = { streak: 0, streakDays: 0, streakBpm: null } as const;

/** The state after a slip: the streak is gone, and after two in a row so is the rung. */
function slipped(state: LadderState, slipRule: SlipRule): LadderState {
  const slips = state.slips + 1;
  const here = { ...state, ...NO_STREAK, slips, isFirstSight: false, isDone: false };
  const goesDown = slipRule === 'two-down' && slips >= SLIPS_DOWN && here.rungIndex > 0;
  return goesDown ? { ...arriveAt(here, here.rungIndex - 1), isFirstSight: false } : here;
}

/** Another rung, with nothing played on it since. */
function arriveAt(state: LadderState, rungIndex: number): LadderState {
  return {
    ...state,
    ...NO_STREAK,
    slips: 0,
    rungIndex,
    isFirstSight: rungIndex > state.topRung,
    isDone: false,
  };
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
 * The place of a passage in which something surprised: the rung does not rise above the tempo at which it did, until
 * somebody has looked at it.
 * Shape:  unchanged without a surprise, or below its rung
 * Units:  `heldBpm` in the ladder's unit, the slowest of several
 * Source: the design
 */
export function heldPlace(
  place: LadderPlace,
  rungBpms: readonly Bpm[],
  heldBpm: Bpm | null,
): LadderPlace & { readonly isHeld: boolean } {
  const heldRung = heldBpm === null ? Infinity : rungOf(rungBpms, heldBpm);
  if (place.rungIndex < heldRung) return { ...place, isHeld: false };
  return {
    ...place,
    rungIndex: heldRung,
    streak: place.rungIndex === heldRung ? place.streak : place.needed,
    isDone: false,
    isHeld: true,
  };
}

/** Clean reps that a rule asks for, in a row or without a slip. */
export function repsNeeded(rule: RungRule): number {
  return rule === 'five-in-a-row' ? 5 : rule === 'three-in-a-row' ? 3 : NO_SURPRISES.reps;
}

/** A tempo this close below a rung is that rung: metronomes take whole numbers, rungs need not be whole. */
const RUNG_TOLERANCE_BPM = 0.51;

function rungOf(rungBpms: readonly Bpm[], bpm: Bpm): number {
  const index = rungBpms.findLastIndex((rungBpm) => rungBpm <= bpm + RUNG_TOLERANCE_BPM);
  return Math.max(0, index);
}
