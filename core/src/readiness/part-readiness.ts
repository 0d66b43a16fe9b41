import { inSpan } from '../score/index.js';
import { chanceOfClean, gainAt, PRIOR } from './belief.js';
import { MODEL } from './model.data.js';
import {
  beliefAt,
  readinessAt,
  STATES,
  type PassageRecord,
  type PassageReadiness,
  type ReadinessState,
} from './passage-record.js';

/**
 * One tracked stretch of a part: a passage, or a seam.
 * Shape:  half-open run of measure indexes
 * Units:  `seconds` of the stretch at its target tempo
 */
export interface TrackedPassage {
  readonly id: string;
  readonly fromIndex: number;
  readonly endIndex: number;
  readonly seconds: number;
  readonly record: PassageRecord;
}

/** A part as its readiness needs it: what it asks for, how long each measure lasts, what is tracked. */
export interface PartToJudge {
  readonly fromIndex: number;
  readonly endIndex: number;
  /** Seconds of every measure of the score at target tempo, by index. */
  readonly measureSeconds: readonly number[];
  readonly passages: readonly TrackedPassage[];
}

/**
 * A part's readiness at an instant.
 * Shape:  `chance` and `expectedSlips` null while no passage has a rep; `restMeasures` lie in no passage
 * Units:  chance 0 to 1; slips a run; measure indexes; `movesMost` is a passage id
 * Source: the design's model: product over passages, seams and the rest
 */
export interface PartReadiness {
  readonly state: ReadinessState;
  readonly chance: number | null;
  readonly expectedSlips: number | null;
  readonly restMeasures: readonly number[];
  readonly reps: number;
  readonly movesMost: string | null;
  /** The state of every passage by its id. */
  readonly passageStates: ReadonlyMap<string, ReadinessState>;
}

/** The chance that a passage nobody has opened goes clean in a run. */
const UNOPENED_CHANCE = chanceOfClean(PRIOR, 1, 'run');

/** A tracked passage with what was judged of it. */
interface JudgedPassage {
  readonly passage: TrackedPassage;
  readonly readiness: PassageReadiness;
}

/** Seconds of setting up before each rep, beside the playing itself (our own estimate). */
const SECONDS_BETWEEN_REPS = 8;

/**
 * How ready a part is: the chance of a clean run over its passages and the rest of its measures.
 * Shape:  measures in no passage are tracked as one unopened passage, so a part never looks done while half of it is
 *         untracked
 * Units:  milliseconds since 1970
 * Source: the design's model
 */
export function partReadinessAt(part: PartToJudge, nowMs: number): PartReadiness {
  const judged = part.passages.map((passage) => ({ passage, readiness: readinessAt(passage.record, nowMs) }));
  const restMeasures = uncovered(part);
  const reps = judged.reduce((sum, { readiness }) => sum + readiness.reps, 0);
  const chances = judged.map(({ readiness }) => readiness.chance ?? UNOPENED_CHANCE);
  if (restMeasures.length > 0) chances.push(UNOPENED_CHANCE);
  return {
    state: partState(part, judged, restMeasures),
    chance: reps === 0 ? null : chances.reduce((product, chance) => product * chance, 1),
    expectedSlips: reps === 0 ? null : chances.reduce((sum, chance) => sum + 1 - chance, 0),
    restMeasures,
    reps,
    movesMost: movesMost(judged, nowMs),
    passageStates: new Map(judged.map(({ passage, readiness }) => [passage.id, readiness.state])),
  };
}

function uncovered(part: PartToJudge): number[] {
  const rest: number[] = [];
  for (let index = part.fromIndex; index < part.endIndex; index += 1) {
    if (!part.passages.some((passage) => inSpan(passage, index))) rest.push(index);
  }
  return rest;
}

function partState(
  part: PartToJudge,
  judged: readonly JudgedPassage[],
  rest: readonly number[],
): ReadinessState {
  if (judged.length === 0) return 'unopened';
  const restSeconds = rest.reduce((sum, index) => sum + (part.measureSeconds[index] ?? 0), 0);
  const weighed = judged.map(({ passage, readiness }) => ({
    rank: STATES.indexOf(readiness.state),
    seconds: passage.seconds,
  }));
  if (rest.length > 0) weighed.push({ rank: 0, seconds: restSeconds });
  const isAllAtTempo = weighed.every(({ rank }) => rank >= STATES.indexOf('at-tempo'));
  const median = weightedMedian(weighed);
  const lowest = Math.min(...weighed.map(({ rank }) => rank));
  const rank = isAllAtTempo ? lowest : Math.min(median, STATES.indexOf('climbing'));
  return STATES[Math.max(rank, STATES.indexOf('mapped'))] ?? 'mapped';
}

function weightedMedian(weighed: readonly { readonly rank: number; readonly seconds: number }[]): number {
  const sorted = [...weighed].sort((a, b) => a.rank - b.rank);
  const half = sorted.reduce((sum, { seconds }) => sum + seconds, 0) / 2;
  let passed = 0;
  for (const { rank, seconds } of sorted) {
    passed += seconds;
    if (passed >= half) return rank;
  }
  return sorted.at(-1)?.rank ?? 0;
}

/** The passage where a minute of practice raises the chance of a clean run most: gain of ln(chance) per second. */
function movesMost(judged: readonly JudgedPassage[], nowMs: number): string | null {
  let best: { id: string; gain: number } | null = null;
  for (const { passage, readiness } of judged) {
    const { mean, sd } = beliefAt(passage.record, nowMs);
    const later = chanceOfClean({ mean: mean + gainAt(mean, MODEL.gainPerRep), sd }, 1, 'run');
    const gain =
      Math.log(later / (readiness.chance ?? UNOPENED_CHANCE)) / (passage.seconds + SECONDS_BETWEEN_REPS);
    if (best === null || gain > best.gain) best = { id: passage.id, gain };
  }
  return best?.id ?? null;
}
