import { normalDraws, seededRandom, type Random } from '../base/index.js';
import { gainAt, halfLifeDays, type Belief } from './belief.js';
import { MODEL, STATE_KNEES } from './model.data.js';

/**
 * A passage as the forecast plays it on.
 * Shape:  `belief` as of today; `voice` how much of its hazard counts in the part, 0 to 1; `reps` planned for each day from
 *         tomorrow, days without are 0
 * Units:  reps; days of practice so far
 */
export interface PassageAhead {
  readonly belief: Belief;
  readonly practiceDays: number;
  readonly voice: number;
  readonly reps: readonly number[];
}

/** What is played on. Shape: `paths` 1,000 by default; `rate` of learning, 1 as the model supposes, with its spread */
export interface ForecastOptions {
  readonly passages: readonly PassageAhead[];
  readonly days: number;
  readonly rate: LearningRate;
  /** Hazard of what nobody tracks: it stays as it is. */
  readonly restHazard: number;
  readonly seed: number;
  readonly paths?: number;
}

/** How fast somebody learns, as a multiple of what the model supposes. */
export interface LearningRate {
  readonly mean: number;
  readonly sd: number;
}

/** One day of a forecast. Shape: `day` 0 is today; chances of a clean run, the middle 80 % of the paths between low and high */
export interface ForecastDay {
  readonly day: number;
  readonly chance: number;
  readonly low: number;
  readonly high: number;
  /** Share of the paths in which every passage is reliable at its target. */
  readonly ready: number;
}

/** Paths of a forecast by default. Source: the design. */
export const FORECAST_PATHS = 1000;

/** What pages draw with: a forecast moves with what was played, not by chance. */
export const FORECAST_SEED = 20_261_129;

/** Logits that a clean chance of 80 % alone needs, with the lapse. */
const RELIABLE_THETA = Math.log(
  STATE_KNEES.reliableChance / (1 - MODEL.lapse) / (1 - STATE_KNEES.reliableChance / (1 - MODEL.lapse)),
);

/**
 * How ready a program will be on each day until its own: simulated paths of the practice that is planned.
 * Shape:  days + 1 entries, today first
 * Units:  chances 0 to 1
 * Source: the design: simulated paths, seeded, at least a thousand
 */
export function forecast(options: ForecastOptions): ForecastDay[] {
  const { passages, days, paths = FORECAST_PATHS } = options;
  const random = seededRandom(options.seed);
  const normal = normalDraws(random);
  const hazards = Array.from({ length: days + 1 }, () => new Float64Array(paths));
  const unready = Array.from({ length: days + 1 }, () => new Uint8Array(paths));
  for (let path = 0; path < paths; path += 1) {
    const rate = Math.max(0.1, options.rate.mean + normal() * options.rate.sd);
    for (const passage of passages)
      playOn(passage, { random, normal, rate, days }, (day, { theta }) => {
        const of = hazards[day];
        // −ln of the chance of clean at the target, where a run's context costs the same for all.
        if (of)
          of[path] =
            (of[path] ?? 0) + passage.voice * (LAPSE_HAZARD + Math.log(1 + Math.exp(RUN_COST - theta)));
        const missing = unready[day];
        if (missing && theta < RELIABLE_THETA) missing[path] = 1;
      });
  }
  return hazards.map((of, day) => {
    const chances = Float64Array.from(of, (hazard) => Math.exp(-hazard - options.restHazard)).sort();
    const at = (share: number): number => chances[Math.min(paths - 1, Math.floor(share * paths))] ?? 0;
    const missing = unready[day]?.reduce((sum, one) => sum + one, 0) ?? 0;
    return {
      day,
      chance: chances.reduce((sum, chance) => sum + chance, 0) / paths,
      low: at(0.1),
      high: at(0.9),
      ready: 1 - missing / paths,
    };
  });
}

/** One day of a passage's fan. Shape: day 0 is today; the middle 80 % of the paths between low and high. Units: shares of the target */
export interface FanDay {
  readonly day: number;
  readonly low: number;
  readonly middle: number;
  readonly high: number;
}

/**
 * At which share of its target a passage will be reliable alone on each day, on simulated paths of what is planned.
 * Shape:  days + 1 entries, today first; shares at most 1
 * Units:  shares of the target tempo
 */
export function tempoFan(
  passage: Omit<PassageAhead, 'voice'>,
  { days, rate, seed, paths = FORECAST_PATHS }: Pick<ForecastOptions, 'days' | 'rate' | 'seed' | 'paths'>,
): FanDay[] {
  const random = seededRandom(seed);
  const normal = normalDraws(random);
  const shares = Array.from({ length: days + 1 }, () => new Float64Array(paths));
  for (let path = 0; path < paths; path += 1) {
    const own = Math.max(0.1, rate.mean + normal() * rate.sd);
    playOn({ ...passage, voice: 1 }, { random, normal, rate: own, days }, (day, { theta, steepness }) => {
      const of = shares[day];
      if (of) of[path] = Math.min(MOST_SHARE, Math.exp((theta - RELIABLE_THETA) / steepness));
    });
  }
  return shares.map((of, day) => {
    const sorted = of.sort();
    const at = (share: number): number => sorted[Math.min(paths - 1, Math.floor(share * paths))] ?? 0;
    return { day, low: at(0.1), middle: at(0.5), high: at(0.9) };
  });
}

/** Beyond the target nothing is asked, and nobody has heard it. */
const MOST_SHARE = 1;

interface Path {
  readonly random: Random;
  readonly normal: () => number;
  readonly rate: number;
  readonly days: number;
}

/** One passage on one path: a skill is drawn from what is believed, then days of practice and rest go by. */
function playOn(
  passage: PassageAhead,
  { random, normal, rate, days }: Path,
  see: (day: number, skill: { readonly theta: number; readonly steepness: number }) => void,
): void {
  const one = drawn(passage.belief, { random, normal });
  let theta = one.theta;
  let { practiceDays } = passage;
  let kept = nightOf(practiceDays);
  for (let day = 0; day <= days; day += 1) {
    if (day > 0) {
      const reps = passage.reps[day - 1] ?? 0;
      theta = one.prior + (theta - one.prior) * kept;
      if (reps > 0) {
        theta = practisedBy(theta, { reps, gain: rate * one.gain });
        practiceDays += 1;
        kept = nightOf(practiceDays);
      }
      theta += normal() * Math.sqrt(MODEL.dayVariance + reps * one.variance);
    }
    see(day, { theta, steepness: one.steepness });
  }
}

const LAPSE_HAZARD = -Math.log(1 - MODEL.lapse);
const RUN_COST = MODEL.contextCost.run;
const NIGHTS: readonly number[] = Array.from(
  { length: 400 },
  (_, practiceDays) => 2 ** (-1 / halfLifeDays(practiceDays)),
);

/** What is kept of a skill over one night. */
function nightOf(practiceDays: number): number {
  return NIGHTS[Math.min(practiceDays, NIGHTS.length - 1)] ?? 1;
}

interface Drawn {
  readonly theta: number;
  readonly steepness: number;
  readonly prior: number;
  readonly gain: number;
  readonly variance: number;
}

function drawn(belief: Belief, { random, normal }: Pick<Path, 'random' | 'normal'>): Drawn {
  let left = random();
  const one = belief.find(({ weight }) => (left -= weight) < 0) ?? belief.at(-1);
  const steepness = one?.steepness ?? 10;
  return {
    steepness,
    theta: (one?.mean ?? 0) + normal() * (one?.sd ?? 1),
    prior: steepness * Math.log(MODEL.priorShare),
    gain: MODEL.gainPerRep * (steepness / 12) ** MODEL.gainGrowth,
    variance: MODEL.repVariance * (steepness / 12) ** MODEL.varianceGrowth,
  };
}

/** Steps in which a day's gain is summed: more change it by less than two hundredths of a logit. */
const STEPS = 2;

/**
 * A skill after a day's reps, without chance.
 * Units:  logits; `gain` a rep far below the knee
 * Source: the design's model: the gain fades as the passage becomes sure
 */
export function practisedBy(
  theta: number,
  { reps, gain }: { readonly reps: number; readonly gain: number },
): number {
  let skill = theta;
  for (let step = 0; step < STEPS; step += 1) skill += (reps / STEPS) * gainAt(skill, gain);
  return skill;
}

/** What a passage's past says of how fast its player learns: where it began, where it is, after how many reps. */
export interface LearnedPassage {
  readonly belief: Belief;
  readonly reps: number;
}

/** How far rates lie apart before anything is known of somebody (our own). */
export const RATE_PRIOR: LearningRate = Object.freeze({ mean: 1, sd: 0.5 });
/** Fewer reps say nothing of a rate. */
const REPS_FOR_A_RATE = 20;

/**
 * How fast somebody learns, from all their passages, shrunk toward what is usual in the studio.
 * Shape:  the prior without a passage of 20 reps
 * Source: the path of the mean skill solved for its rate; precision-weighted mean with the prior
 */
export function learningRate(
  passages: readonly LearnedPassage[],
  prior: LearningRate = RATE_PRIOR,
): LearningRate {
  let [weights, sum] = [1 / prior.sd ** 2, prior.mean / prior.sd ** 2];
  for (const { belief, reps } of passages) {
    if (reps < REPS_FOR_A_RATE) continue;
    for (const [n, { weight, mean, sd, steepness }] of belief.entries()) {
      const start = steepness * Math.log(MODEL.priorShare);
      const perRep = MODEL.gainPerRep * (steepness / 12) ** MODEL.gainGrowth;
      // dθ/dn = g(1 − σ(θ − knee)) integrates to θ + e^(θ − knee); its length over the reps is the rate.
      const length = (at: number): number => at + Math.exp(at - MODEL.gainKnee);
      const rate = (length(mean) - length(start)) / (reps * perRep);
      const slope = 1 + Math.exp(Math.min(4, mean - MODEL.gainKnee));
      const spread = Math.hypot(sd * slope, MODEL.priorSds[n] ?? 2) / (reps * perRep);
      const precision = weight / (spread ** 2 + RATE_NOISE ** 2);
      weights += precision;
      sum += precision * Math.min(3, Math.max(0, rate));
    }
  }
  return { mean: sum / weights, sd: Math.sqrt(1 / weights) };
}

/** What passages of one player differ by, whatever is known of each (our own). */
const RATE_NOISE = 0.6;
