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
 * Errors: none
 * Source: none
 */
export interface LadderPlace {
  readonly rungIndex: number;
  readonly streak: number;
  readonly needed: number;
  readonly isDone: boolean;
}

/**
 * The place on a ladder after a row of reps. A rep counts for the rung nearest at or below its tempo; playing another
 * rung by choice starts there.
 * Shape:  reps in the order played
 * Units:  beats per minute in the ladder's unit
 * Errors: none
 * Source: rules of common practice, no source
 */
export function placeOnLadder(
  rungBpms: readonly number[],
  reps: readonly LadderRep[],
  rule: RungRule,
): LadderPlace {
  const needed = rule === 'five-in-a-row' ? 5 : rule === 'three-in-a-row' ? 3 : NO_SURPRISES.reps;
  const top = Math.max(0, rungBpms.length - 1);
  let rungIndex = 0;
  let run: LadderRep[] = [];
  let isDone = false;
  for (const rep of reps) {
    const played = rungOf(rungBpms, rep.bpm);
    if (played !== rungIndex) run = [];
    rungIndex = played;
    run = rep.isClean ? [...run, rep] : [];
    const isMet = run.length >= needed && (rule !== 'no-surprises' || daysIn(run) >= NO_SURPRISES.days);
    isDone = isMet ? rungIndex === top : isDone && rungIndex === top && rep.isClean;
    if (isMet && rungIndex < top) {
      rungIndex += 1;
      run = [];
    }
  }
  return { rungIndex, streak: Math.min(run.length, needed), needed, isDone };
}

/** A tempo this close below a rung is that rung: metronomes take whole numbers, rungs need not be whole. */
const RUNG_TOLERANCE_BPM = 0.51;

function rungOf(rungBpms: readonly number[], bpm: number): number {
  return Math.max(
    0,
    rungBpms.findLastIndex((rungBpm) => rungBpm <= bpm + RUNG_TOLERANCE_BPM),
  );
}

function daysIn(reps: readonly LadderRep[]): number {
  return new Set(reps.map(({ day }) => day)).size;
}
