import { SECONDS_BEFORE_A_REP } from '../climb/index.js';
import { indexesOf, inSpan, type Span } from '../score/index.js';
import { afterPractice, chanceOfClean, informationOf, PRIOR, type Belief } from './belief.js';
import { WITNESS } from './model.data.js';
import {
  beliefAt,
  readinessOf,
  STATES,
  type PassageReadiness,
  type PassageRecord,
  type ReadinessState,
} from './passage-record.js';

/**
 * One tracked stretch of a part: a passage, or a seam.
 * Shape:  half-open run of measure indexes
 * Units:  `seconds` of the stretch at its target tempo
 */
export interface TrackedPassage extends Span {
  readonly id: string;
  readonly isSeam: boolean;
  readonly seconds: number;
  readonly record: PassageRecord;
}

/** One measure of a part's score. Units: seconds at target tempo; demand 0 to 1. */
export interface MeasureToJudge {
  readonly seconds: number;
  readonly demand: number;
}

/** A part as its readiness needs it: what it asks for, run by run, every measure of the score, and what is tracked. */
export interface PartToJudge {
  readonly runs: readonly Span[];
  readonly measures: readonly MeasureToJudge[];
  readonly passages: readonly TrackedPassage[];
}

/**
 * A part's readiness at an instant.
 * Shape:  `chance` and `expectedSlips` null while nothing of it has a rep; `untracked` measures lie in no passage,
 *         `unplayed` ones in none that was played
 * Units:  chance 0 to 1; slips a run; measure indexes; `movesMost` is a passage id
 * Source: the design's model: hazards of measures
 */
export interface PartReadiness {
  readonly state: ReadinessState;
  readonly chance: number | null;
  readonly expectedSlips: number | null;
  readonly measures: number;
  readonly untracked: readonly number[];
  readonly unplayed: readonly number[];
  readonly reps: number;
  readonly movesMost: string | null;
  /** The state of every asked measure by its index. */
  readonly measureStates: ReadonlyMap<number, ReadinessState>;
}

/** Measures ask at least so much of a player, however empty they look (our own floor). */
const DEMAND_FLOOR = 0.1;
/** So many measures make a passage of their own where nobody has cut one (the middle of 2 to 8). */
const MEASURES_OF_A_PASSAGE = 4;
/** The hazard of a passage nobody has opened. */
const UNOPENED_HAZARD = -Math.log(chanceOfClean(PRIOR, 1, 'run'));

/** A passage with what was judged of it. */
interface Judged {
  readonly passage: TrackedPassage;
  /** What is believed of it now. */
  readonly belief: Belief;
  readonly readiness: PassageReadiness;
  /** −ln of its chance in a run. */
  readonly hazard: number;
  /** How much its word counts; 0 without reps. */
  readonly weight: number;
  /** The sum of its measures' demands. */
  readonly demand: number;
}

/** A measure with those that speak for it. */
interface JudgedMeasure {
  readonly index: number;
  readonly demand: number;
  readonly speakers: readonly Judged[];
  readonly hazard: number | null;
  readonly isTracked: boolean;
  /** The state of the passage that is known best of those over it. */
  readonly state: ReadinessState;
}

/**
 * How ready a part is: the chance of a clean run over all it asks.
 * Shape:  a passage's hazard −ln(chance) is spread over its measures by their demand; a measure takes the mean of what
 *         the played passages over it say, weighted by what is known of them, so that overlaps count once; a seam adds
 *         only what the join costs beyond its two sides; measures that nothing played covers are the rest, one
 *         unopened passage
 * Units:  milliseconds since 1970
 * Source: the design's model, chapter 9
 */
export function partReadinessAt(part: PartToJudge, nowMs: number): PartReadiness {
  const demands = part.measures.map(({ demand }) => Math.max(DEMAND_FLOOR, demand));
  const judged = part.passages.map((passage) => judge(passage, demands, nowMs));
  const measures = indexesOf(part.runs).map((index) => judgeMeasure(index, demands[index] ?? 1, judged));
  const reps = judged.reduce((sum, { readiness }) => sum + readiness.reps, 0);
  const unplayed = measures.filter(({ hazard }) => hazard === null);
  const isKnown = unplayed.length < measures.length;
  const slips = expectedSlips(measures, judged, unplayed.length);
  return {
    state: partState(part, measures, judged),
    chance: isKnown ? Math.exp(-slips) : null,
    expectedSlips: isKnown ? slips : null,
    measures: measures.length,
    untracked: measures.filter(({ isTracked }) => !isTracked).map(({ index }) => index),
    unplayed: unplayed.map(({ index }) => index),
    reps,
    movesMost: movesMost(measures, judged),
    measureStates: new Map(measures.map((measure) => [measure.index, measure.state])),
  };
}

/** A passage as it goes into a part's forecast. Shape: `voice` how much of its hazard stands in the part's, 0 to 1 */
export interface PassageVoice {
  readonly id: string;
  readonly voice: number;
  readonly belief: Belief;
  readonly practiceDays: number;
}

/**
 * What a part's forecast is made from: each passage with its voice, whether played or not, and the hazard of what lies
 * in none of them.
 * Shape:  played passages speak as in partReadinessAt; where none was played, those that lie there share the measure
 * Units:  milliseconds since 1970; −ln of a chance
 */
export function partVoicesAt(
  part: PartToJudge,
  nowMs: number,
): { readonly voices: readonly PassageVoice[]; readonly restHazard: number } {
  const demands = part.measures.map(({ demand }) => Math.max(DEMAND_FLOOR, demand));
  const judged = part.passages.map((passage) => judge(passage, demands, nowMs));
  const measures = indexesOf(part.runs).map((index) => {
    const measure = judgeMeasure(index, demands[index] ?? 1, judged);
    if (measure.speakers.length > 0) return measure;
    const over = judged.filter(({ passage }) => !passage.isSeam && inSpan(passage, index));
    return { ...measure, speakers: over.map((one) => ({ ...one, weight: 1 })) };
  });
  const untracked = measures.filter(({ speakers }) => speakers.length === 0).length;
  return {
    voices: judged.map((one) => ({
      id: one.passage.id,
      voice: voiceOf(one, measures),
      belief: one.belief,
      practiceDays: one.passage.record.practiceDays,
    })),
    restHazard: UNOPENED_HAZARD * Math.min(1, untracked / MEASURES_OF_A_PASSAGE),
  };
}

function judge(passage: TrackedPassage, demands: readonly number[], nowMs: number): Judged {
  const { record } = passage;
  const belief = beliefAt(record, nowMs);
  const readiness = readinessOf(record, belief);
  let demand = 0;
  for (let index = passage.fromIndex; index < passage.endIndex; index += 1) demand += demands[index] ?? 1;
  return {
    passage,
    belief,
    readiness,
    demand,
    hazard: readiness.chance === null ? UNOPENED_HAZARD : -Math.log(readiness.chance),
    weight: record.reps === 0 ? 0 : informationOf(belief) * contextWeight(record),
  };
}

/** Runs say more about a run than reps joined to their neighbours do, and those more than reps alone. */
function contextWeight({ reps, joinedReps, runReps }: PassageRecord): number {
  return 1 + (WITNESS.joined * joinedReps + WITNESS.run * runReps) / reps;
}

function judgeMeasure(index: number, demand: number, judged: readonly Judged[]): JudgedMeasure {
  const over = judged.filter(({ passage }) => inSpan(passage, index));
  const played = over.filter(({ weight }) => weight > 0);
  const sides = played.filter(({ passage }) => !passage.isSeam);
  // A seam speaks for a measure only where nothing else does.
  const speakers = sides.length > 0 ? sides : played;
  let [total, hazard] = [0, 0];
  let best: Judged | null = null;
  for (const one of speakers) {
    total += one.weight;
    hazard += (one.weight * one.hazard * demand) / one.demand;
    if (best === null || one.weight > best.weight) best = one;
  }
  return {
    index,
    demand,
    speakers,
    hazard: best === null ? null : hazard / total,
    isTracked: over.length > 0,
    state: best?.readiness.state ?? (over.length > 0 ? 'mapped' : 'unopened'),
  };
}

function expectedSlips(
  measures: readonly JudgedMeasure[],
  judged: readonly Judged[],
  unplayed: number,
): number {
  const known = measures.reduce((sum, { hazard }) => sum + (hazard ?? 0), 0);
  const joins = judged.reduce((sum, one) => sum + joinCost(one, measures), 0);
  return known + joins + UNOPENED_HAZARD * Math.min(1, unplayed / MEASURES_OF_A_PASSAGE);
}

/** What a played seam costs beyond what its two sides say of its measures. */
function joinCost({ passage, weight, hazard }: Judged, measures: readonly JudgedMeasure[]): number {
  if (!passage.isSeam || weight === 0) return 0;
  const said = measures.filter(({ index }) => inSpan(passage, index));
  if (said.length === 0) return 0;
  return Math.max(0, hazard - said.reduce((sum, one) => sum + (one.hazard ?? 0), 0));
}

/** At tempo or holding only if every measure is; below that where the middle of the part stands. */
function partState(
  part: PartToJudge,
  measures: readonly JudgedMeasure[],
  judged: readonly Judged[],
): ReadinessState {
  if (judged.length === 0) return 'unopened';
  const weighed = measures.map((measure) => ({
    rank: STATES.indexOf(measure.state),
    seconds: part.measures[measure.index]?.seconds ?? 0,
  }));
  const lowest = Math.min(...weighed.map(({ rank }) => rank));
  const rank =
    lowest >= STATES.indexOf('at-tempo')
      ? lowest
      : Math.min(weightedMedian(weighed), STATES.indexOf('climbing'));
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

/** The passage where a minute of practice takes most off the part's hazard. */
function movesMost(measures: readonly JudgedMeasure[], judged: readonly Judged[]): string | null {
  const isMostPlayed = measures.filter(({ hazard }) => hazard !== null).length * 2 >= measures.length;
  // A join is no matter while most of the piece has not been played.
  const heard = judged.filter(({ passage }) => isMostPlayed || !passage.isSeam);
  let best: { readonly id: string; readonly gain: number } | null = null;
  for (const { one, worth } of heard
    .map((next) => ({ one: next, worth: voiceOf(next, measures) / secondsOfRep(next.passage) }))
    .sort((a, b) => b.one.hazard * b.worth - a.one.hazard * a.worth)) {
    // No minute takes off more than is there: what follows cannot gain as much.
    if (best !== null && one.hazard * worth < best.gain) break;
    const later = -Math.log(chanceOfClean(afterPractice(one.belief), 1, 'run'));
    const gain = (one.hazard - later) * worth;
    if (best === null || gain > best.gain) best = { id: one.passage.id, gain };
  }
  return best?.id ?? null;
}

function secondsOfRep({ seconds }: TrackedPassage): number {
  return seconds + SECONDS_BEFORE_A_REP;
}

/** How much of a passage's hazard stands in the part's: 1 where it alone speaks, 0 where others do. */
function voiceOf(one: Judged, measures: readonly JudgedMeasure[]): number {
  if (one.passage.isSeam) return joinCost(one, measures) > 0 ? 1 : 0;
  let voice = 0;
  for (const { index, demand, speakers } of measures) {
    if (!inSpan(one.passage, index)) continue;
    const total = speakers.reduce((weights, { weight }) => weights + weight, 0);
    const own = speakers.find(({ passage }) => passage.id === one.passage.id)?.weight ?? 0;
    voice += ((total === 0 ? 1 : own / total) * demand) / one.demand;
  }
  return voice;
}
