import { normalDraw, seededRandom, type Random } from '../../base/index.js';
import { advance, LADDER_START, passageLadder } from '../../climb/index.js';
import { asQuarterBpm } from '../../music/index.js';
import {
  addRep,
  chanceInterval,
  MODEL,
  readinessAt,
  SimulatedPlayer,
  UNOPENED_RECORD,
  type PassageRecord,
  type RepContext,
} from '../index.js';
import { moodyLearner, overnightLearner, powerLearner, tracedLearner, type Learner } from './learners.js';

const DAY_MS = 86_400_000;
const TARGET = asQuarterBpm(100);
const LADDER = passageLadder(100, 'quarter');
const RUNGS = LADDER.ok ? LADDER.value.map(({ bpm }) => bpm) : [];

/** What was stated of a run at target before a day's practice, and what was true. */
export interface Forecast {
  readonly stated: number;
  readonly truth: number;
  readonly isInside: boolean;
  readonly isClean: boolean;
  /** Rivals: the share of clean reps in the last ten, and in the last ten within 5 % of the target. */
  readonly lastTen: number;
  readonly nearTarget: number;
}

/** The model's own kind: steepness drawn from the model's list, every rate its own. */
export function ownLearner(random: Random): Learner {
  const steepness = MODEL.steepness[Math.floor(random() * MODEL.steepness.length)] ?? 10;
  const gainPerRep = Math.max(0.01, normalDraw(random, MODEL.gainPerRep, 0.03));
  const player = new SimulatedPlayer(random, { gainPerRep, steepness });
  return {
    chance: (share, context) => player.chance(share, context),
    practise: (share) => void player.play(share, 'alone'),
    rest: (days) => {
      player.startDay();
      player.rest(days);
    },
  };
}

function share(list: readonly boolean[]): number {
  return (list.filter(Boolean).length + 1) / (list.length + 2);
}

/** One learner climbs the usual ladder over two to four weeks with gaps of days; the day's forecast comes first. */
function study(learner: Learner, random: Random): Forecast[] {
  const forecasts: Forecast[] = [];
  const all: boolean[] = [];
  const near: boolean[] = [];
  let record: PassageRecord = UNOPENED_RECORD;
  let ladder = LADDER_START;
  let day = 0;
  for (let session = 0; session < 8 + Math.floor(random() * 8); session += 1) {
    if (session > 0) {
      const gap = 1 + Math.floor(random() * 3) + (random() < 0.1 ? 4 : 0);
      day += gap;
      learner.rest(gap);
    }
    if (record.reps >= 5) forecasts.push(forecastOf(learner, record, { day, random, all, near }));
    for (let n = 0; n < 12; n += 1) {
      const draw = random();
      const context: RepContext = draw < 0.15 ? 'run' : draw < 0.25 ? 'joined' : 'alone';
      const bpm = context === 'run' ? 100 : (RUNGS[ladder.rungIndex] ?? 100);
      const isClean = random() < learner.chance(bpm / 100, context);
      learner.practise(bpm / 100);
      record = addRep(
        record,
        { atMs: day * DAY_MS + n * 60_000, day, quarterBpm: asQuarterBpm(bpm), context, isClean },
        TARGET,
      );
      if (context === 'alone')
        ladder = advance(
          ladder,
          { bpm, isClean, day },
          { rungBpms: RUNGS, rule: 'three-in-a-row', slipRule: 'two-down' },
        );
      all.push(isClean);
      if (bpm >= 95) near.push(isClean);
    }
  }
  return forecasts;
}

function forecastOf(
  learner: Learner,
  record: PassageRecord,
  {
    day,
    random,
    all,
    near,
  }: { day: number; random: Random; all: readonly boolean[]; near: readonly boolean[] },
): Forecast {
  const truth = learner.chance(1, 'run');
  const { low, high } = chanceInterval(record, day * DAY_MS);
  return {
    stated: readinessAt(record, day * DAY_MS).chance ?? 0,
    truth,
    isInside: truth >= low && truth <= high,
    isClean: random() < truth,
    lastTen: share(all.slice(-10)),
    nearTarget: share(near.slice(-10)),
  };
}

/** What is stated of 150 learners of one kind, day by day. */
export function forecastsOf(make: (random: Random) => Learner, seed: number): Forecast[] {
  const random = seededRandom(seed);
  return Array.from({ length: 150 }, () => study(make(random), random)).flat();
}

/** How far stated and true chance lie apart in ten bins, each by the number of forecasts in it. */
export function calibrationError(forecasts: readonly Pick<Forecast, 'stated' | 'truth'>[]): number {
  let error = 0;
  for (let bin = 0; bin < 10; bin += 1) {
    const inside = forecasts.filter(({ stated }) => Math.min(9, Math.floor(stated * 10)) === bin);
    error += Math.abs(inside.reduce((sum, { stated, truth }) => sum + stated - truth, 0));
  }
  return error / forecasts.length;
}

/** How far stated chances and single outcomes lie apart. Source: Brier 1950 */
export function brier(forecasts: readonly Forecast[], pick: (forecast: Forecast) => number): number {
  return forecasts.reduce((sum, one) => sum + (pick(one) - Number(one.isClean)) ** 2, 0) / forecasts.length;
}

/** How often what is stated comes true, in ten bins. Shape: bins without forecasts are left out */
export function reliability(forecasts: readonly Forecast[]): readonly {
  readonly from: number;
  readonly count: number;
  readonly stated: number;
  readonly true: number;
}[] {
  return Array.from({ length: 10 }, (_, bin) => {
    const inside = forecasts.filter(({ stated }) => Math.min(9, Math.floor(stated * 10)) === bin);
    const mean = (pick: (one: Forecast) => number): number =>
      inside.reduce((sum, one) => sum + pick(one), 0) / Math.max(1, inside.length);
    return {
      from: bin / 10,
      count: inside.length,
      stated: mean(({ stated }) => stated),
      true: mean(({ truth }) => truth),
    };
  }).filter(({ count }) => count > 0);
}

/** Kinds of learner that are not made from the model. */
export const KINDS: readonly (readonly [string, (random: Random) => Learner])[] = [
  ['knowledge tracing with slips (Corbett and Anderson 1995)', tracedLearner],
  ['the power law of practice (Newell and Rosenbloom 1981)', powerLearner],
  ['good and bad days (autoregression of order one)', moodyLearner],
  ['learning overnight (our own)', overnightLearner],
];
