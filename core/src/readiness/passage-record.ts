import {
  afterDays,
  afterRep,
  chanceOfClean,
  difficulty,
  logistic,
  PRIOR,
  shareAtChance,
  type Belief,
  type RepContext,
} from './belief.js';
import { MODEL, STATE_KNEES } from './model.data.js';

/**
 * One attempt at a passage.
 * Shape:  `atMs` any instant
 * Units:  milliseconds since 1970; quarter notes per minute; `day` a running count of calendar days in the studio's zone
 */
export interface Rep {
  readonly atMs: number;
  readonly day: number;
  readonly quarterBpm: number;
  readonly context: RepContext;
  readonly isClean: boolean;
}

/**
 * All that must be kept of a passage's reps to tell its readiness on any later day: the snapshot's core.
 * Shape:  `lastAtMs`, `firstDay`, `lastDay` null before the first rep
 * Units:  as Rep; `belief` as of the last rep
 */
export interface PassageRecord {
  readonly belief: Belief;
  readonly reps: number;
  readonly practiceDays: number;
  readonly firstDay: number | null;
  readonly lastDay: number | null;
  readonly lastAtMs: number | null;
}

/** A passage before its first rep. */
export const UNOPENED_RECORD: PassageRecord = Object.freeze({
  belief: PRIOR,
  reps: 0,
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
export function addRep(record: PassageRecord, rep: Rep, targetQuarterBpm: number): PassageRecord {
  const isNewDay = record.lastDay === null || rep.day > record.lastDay;
  const rested = afterDays(record.belief, daysSince(record, rep.atMs), record.practiceDays);
  return {
    belief: afterRep(rested, rep.quarterBpm / targetQuarterBpm, rep.context, rep.isClean),
    reps: record.reps + 1,
    practiceDays: record.practiceDays + (isNewDay ? 1 : 0),
    firstDay: record.firstDay ?? rep.day,
    lastDay: isNewDay ? rep.day : record.lastDay,
    lastAtMs: Math.max(rep.atMs, record.lastAtMs ?? rep.atMs),
  };
}

/**
 * The record of a whole row of reps: what the rebuild command computes.
 * Shape:  reps in the order played
 * Units:  as addRep
 */
export function recordOf(reps: readonly Rep[], targetQuarterBpm: number): PassageRecord {
  return reps.reduce((record, rep) => addRep(record, rep, targetQuarterBpm), UNOPENED_RECORD);
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
 * Shape:  numbers null while there is no rep; `low`…`high` holds the chance with 80 % belief
 * Units:  chances 0 to 1; `cleanShare` is clean tempo over target, never above 1.5
 * Source: the design's model
 */
export interface PassageReadiness {
  readonly state: ReadinessState;
  readonly chance: number | null;
  readonly low: number | null;
  readonly high: number | null;
  readonly cleanShare: number | null;
  readonly reps: number;
  readonly practiceDays: number;
}

/** Standard deviations that hold the middle 80 % of a normal distribution. Source: normal table, from memory. */
const MIDDLE_80 = 1.2816;

/**
 * How ready a passage is at an instant: the chance of clean at target in a run, its interval, the clean tempo, the
 * state.
 * Shape:  with no reps there is no number, only the state
 * Units:  milliseconds since 1970
 * Source: the design's model
 */
export function readinessAt(record: PassageRecord, nowMs: number): PassageReadiness {
  const { reps, practiceDays } = record;
  if (reps === 0)
    return { state: 'mapped', chance: null, low: null, high: null, cleanShare: null, reps, practiceDays };
  const belief = beliefAt(record, nowMs);
  const cost = difficulty(1, 'run');
  const chance = chanceOfClean(belief, 1, 'run');
  const cleanShare = cleanShareOf(belief);
  return {
    state: stateOf(record, chance, cleanShare),
    chance,
    low: logistic(belief.mean - MIDDLE_80 * belief.sd - cost),
    high: logistic(belief.mean + MIDDLE_80 * belief.sd - cost),
    cleanShare,
    reps,
    practiceDays,
  };
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
 * The share of the target tempo at which a rep alone is clean with a chance of 80 %.
 * Shape:  0.05 to 1.5
 * Units:  tempo over target
 * Source: the design's model
 */
export function cleanShareOf(belief: Belief): number {
  return shareAtChance(belief, STATE_KNEES.cleanChance);
}

function stateOf(record: PassageRecord, chance: number, cleanShare: number): ReadinessState {
  const spreadDays = (record.lastDay ?? 0) - (record.firstDay ?? 0);
  const isSpread =
    record.practiceDays >= STATE_KNEES.holdingDays && spreadDays >= STATE_KNEES.holdingSpreadDays;
  if (chance >= STATE_KNEES.holdingChance && cleanShare >= 1 && isSpread) return 'holding';
  if (cleanShare >= 1) return 'at-tempo';
  return cleanShare >= STATE_KNEES.climbingShare ? 'climbing' : 'grounded';
}

/**
 * The same record seen from another target tempo: chance at tempo b is logistic(theta − k·ln(b/target)), so a target
 * `ratio` times as fast lowers the belief by k·ln(ratio).
 * Shape:  only the belief's mean moves
 * Units:  `ratio` above 0
 * Source: the design's model, chapter 9
 */
export function recordAt(record: PassageRecord, ratio: number): PassageRecord {
  const { mean, sd } = record.belief;
  return { ...record, belief: { mean: mean - MODEL.tempoSlope * Math.log(ratio), sd } };
}
