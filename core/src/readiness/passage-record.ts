import type { QuarterBpm } from '../music/index.js';
import {
  afterDays,
  afterRep,
  beliefAtTarget,
  chanceOfClean,
  cleanChanceAt,
  difficulty,
  PRIOR,
  shareAtChance,
  thetaQuantile,
  type Belief,
  type RepContext,
} from './belief.js';
import { STATE_KNEES } from './model.data.js';

/**
 * One attempt at a passage.
 * Shape:  `atMs` any instant
 * Units:  milliseconds since 1970; quarter notes per minute; `day` a running count of calendar days in the studio's zone
 */
export interface Rep {
  readonly atMs: number;
  readonly day: number;
  readonly quarterBpm: QuarterBpm;
  readonly context: RepContext;
  readonly isClean: boolean;
  /** How much more is reported than heard, in logits; nothing where it was heard. */
  readonly optimism?: number;
}

/**
 * All that must be kept of a passage's reps to tell its readiness on any later day: the snapshot's core.
 * Shape:  `firstDay`, `lastDay`, `lastAtMs` null before the first rep; `runReps` counts runs and mocks
 * Units:  as Rep; `belief` as of the last rep
 */
export interface PassageRecord {
  readonly belief: Belief;
  readonly reps: number;
  readonly joinedReps: number;
  readonly runReps: number;
  readonly practiceDays: number;
  readonly firstDay: number | null;
  readonly lastDay: number | null;
  readonly lastAtMs: number | null;
}

/** A passage before its first rep. */
export const UNOPENED_RECORD: PassageRecord = Object.freeze({
  belief: PRIOR,
  reps: 0,
  joinedReps: 0,
  runReps: 0,
  practiceDays: 0,
  firstDay: null,
  lastDay: null,
  lastAtMs: null,
});

const DAY_MS = 86_400_000;

/**
 * The record after one more rep.
 * Shape:  reps in the order played; a rep dated before the last one counts as of the last one
 * Units:  `targetQuarterBpm` in quarter notes per minute
 */
export function addRep(record: PassageRecord, rep: Rep, targetQuarterBpm: QuarterBpm): PassageRecord {
  const isNewDay = record.lastDay === null || rep.day > record.lastDay;
  const rested = afterDays(record.belief, daysSince(record, rep.atMs), record.practiceDays);
  return {
    belief: afterRep(rested, rep.quarterBpm / targetQuarterBpm, {
      context: rep.context,
      isClean: rep.isClean,
      optimism: rep.optimism ?? 0,
    }),
    reps: record.reps + 1,
    joinedReps: record.joinedReps + (rep.context === 'joined' ? 1 : 0),
    runReps: record.runReps + (rep.context === 'run' || rep.context === 'mock' ? 1 : 0),
    practiceDays: record.practiceDays + (isNewDay ? 1 : 0),
    firstDay: record.firstDay ?? rep.day,
    lastDay: isNewDay ? rep.day : record.lastDay,
    lastAtMs: Math.max(rep.atMs, record.lastAtMs ?? rep.atMs),
  };
}

function daysSince(record: PassageRecord, atMs: number): number {
  return record.lastAtMs === null ? 0 : Math.max(0, (atMs - record.lastAtMs) / DAY_MS);
}

/** The six states, from nobody has looked at it to it stays. */
export type ReadinessState = 'unopened' | 'mapped' | 'grounded' | 'climbing' | 'at-tempo' | 'holding';

/** The states in their order: the rung glyph fills as many steps as the place in this list. */
export const STATES: readonly ReadinessState[] = [
  'unopened',
  'mapped',
  'grounded',
  'climbing',
  'at-tempo',
  'holding',
];

/**
 * A passage's readiness at an instant.
 * Shape:  numbers null while there is no rep
 * Units:  chances 0 to 1 of clean at target in a run
 * Source: the design's model
 */
export interface PassageReadiness {
  readonly state: ReadinessState;
  readonly chance: number | null;
  readonly reps: number;
  readonly practiceDays: number;
}

/**
 * How ready a passage is at an instant: the chance of clean at target in a run, and the state.
 * Shape:  with no reps there is no number, only the state
 * Units:  milliseconds since 1970
 * Source: the design's model
 */
export function readinessAt(record: PassageRecord, nowMs: number): PassageReadiness {
  return readinessOf(record, beliefAt(record, nowMs));
}

/** The same from what is believed of the passage at that instant. */
export function readinessOf(record: PassageRecord, belief: Belief): PassageReadiness {
  const { reps, practiceDays } = record;
  if (reps === 0) return { state: 'mapped', chance: null, reps, practiceDays };
  const chance = chanceOfClean(belief, 1, 'run');
  return { state: stateOf(record, belief, chance), chance, reps, practiceDays };
}

/**
 * The belief at an instant after the last rep.
 * Shape:  the prior while there is no rep
 * Units:  milliseconds since 1970
 */
export function beliefAt(record: PassageRecord, nowMs: number): Belief {
  return afterDays(record.belief, daysSince(record, nowMs), record.practiceDays);
}

/**
 * The middle 80 % of what the chance of clean at target in a run may be.
 * Shape:  low ≤ high, both 0 to 1
 * Units:  milliseconds since 1970; chances
 */
export function chanceInterval(
  record: PassageRecord,
  nowMs: number,
): { readonly low: number; readonly high: number } {
  const belief = beliefAt(record, nowMs);
  // At the target the tempo costs nothing, whatever the steepness.
  const cost = difficulty(1, 1, 'run');
  const at = (share: number): number => cleanChanceAt(thetaQuantile(belief, share), cost);
  return { low: at(0.1), high: at(0.9) };
}

/**
 * The share of the target tempo that is reliable: alone it goes clean with a chance of 80 %.
 * Shape:  0.05 to 1.5
 * Units:  tempo over target; milliseconds since 1970
 * Source: the design's model
 */
export function reliableShareAt(record: PassageRecord, nowMs: number): number {
  return shareAtChance(beliefAt(record, nowMs), STATE_KNEES.reliableChance);
}

/** The same of a belief. */
export function reliableShare(belief: Belief): number {
  return shareAtChance(belief, STATE_KNEES.reliableChance);
}

function stateOf(record: PassageRecord, belief: Belief, chance: number): ReadinessState {
  const isReliableAt = (share: number): boolean =>
    chanceOfClean(belief, share, 'alone') >= STATE_KNEES.reliableChance;
  if (!isReliableAt(1)) return isReliableAt(STATE_KNEES.climbingShare) ? 'climbing' : 'grounded';
  const spreadDays = (record.lastDay ?? 0) - (record.firstDay ?? 0);
  const isSpread =
    record.practiceDays >= STATE_KNEES.holdingDays && spreadDays >= STATE_KNEES.holdingSpreadDays;
  return chance >= STATE_KNEES.holdingChance && isSpread ? 'holding' : 'at-tempo';
}

/**
 * The same record seen from another target tempo, to which the belief is carried by the curve of the model.
 * Shape:  only the belief's means move
 * Units:  `ratio` above 0: the other target over this one
 * Source: the design's model, chapter 9
 */
export function recordAt(record: PassageRecord, ratio: number): PassageRecord {
  return ratio === 1 ? record : { ...record, belief: beliefAtTarget(record.belief, ratio) };
}

/** A belief that is told and not counted is this sure. Units: logits (our own). */
const TOLD_SD = 1;

/**
 * The belief of a passage of which only the reliable tempo is known.
 * Shape:  `share` above 0
 * Units:  tempo over target
 * Source: the design's model, solved for the skill at which a rep at that tempo is clean with a chance of 80 %
 */
export function beliefReliableAt(share: number): Belief {
  const chance = STATE_KNEES.reliableChance / cleanChanceAt(Infinity, 0);
  const logits = Math.log(chance / (1 - chance));
  return PRIOR.map(({ steepness, weight }) => ({
    steepness,
    weight,
    mean: logits + steepness * Math.log(share),
    sd: TOLD_SD,
  }));
}
