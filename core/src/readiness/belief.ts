import { MODEL } from './model.data.js';

/** Where a rep was played: by itself, joined to its neighbours, in a run of the part, or in a mock. */
export type RepContext = keyof typeof MODEL.contextCost;

/**
 * What is believed of a passage's skill if its steepness were this one: a normal distribution over theta.
 * Shape:  `weight` 0 to 1, of all steepnesses 1; `sd` above 0
 * Units:  logits at the target tempo; `steepness` in logits per natural-log unit of tempo
 */
export interface BeliefAtSteepness {
  readonly steepness: number;
  readonly weight: number;
  readonly mean: number;
  readonly sd: number;
}

/**
 * What is believed of one passage: skill and steepness together.
 * Shape:  one normal distribution for each of MODEL.steepness, in that order
 * Units:  logits at the target tempo
 * Source: Rasch 1960, one-parameter logistic form, with a lapse
 */
export type Belief = readonly BeliefAtSteepness[];

/** The belief before any rep: even odds at `priorShare` of the target, whatever the steepness. */
export const PRIOR: Belief = Object.freeze(
  MODEL.steepness.map((steepness, n) =>
    Object.freeze({
      steepness,
      weight: MODEL.steepnessWeights[n] ?? 0,
      mean: steepness * Math.log(MODEL.priorShare),
      sd: MODEL.priorSds[n] ?? MODEL.maxSd,
    }),
  ),
);

/**
 * 17 equal steps over ±4 standard deviations with their normal weights: the trapezoid rule on a bell curve. Half a
 * standard deviation apart it is off by less than 1e-6 for a logistic of the widest belief.
 */
const GRID_FROM = -4;
const GRID_STEP = 0.5;
const GRID = Array.from({ length: 17 }, (_, n) => GRID_FROM + n * GRID_STEP);
const WEIGHTS = GRID.map((z) => Math.exp((-z * z) / 2));
const TOTAL_WEIGHT = WEIGHTS.reduce((sum, weight) => sum + weight, 0);

/**
 * The logistic function.
 * Shape:  0 to 1
 * Units:  logits in, a chance out
 * Source: Rasch 1960
 */
export function logistic(logits: number): number {
  return 1 / (1 + Math.exp(-logits));
}

/**
 * The chance of a clean rep of a player of known skill: nobody is surer than the lapse allows.
 * Shape:  0 to 1 − lapse
 * Units:  logits
 * Source: Rasch 1960; the lapse from the design
 */
export function cleanChanceAt(theta: number, cost: number): number {
  return (1 - MODEL.lapse) * logistic(theta - cost);
}

/**
 * How many logits a tempo and a context cost against the target tempo alone.
 * Shape:  negative below the target tempo
 * Units:  logits; `steepness` in logits per natural-log unit of tempo; `tempoShare` is tempo over target
 * Source: the design's model: k·ln(b/target) + c(context)
 */
export function difficulty(steepness: number, tempoShare: number, context: RepContext): number {
  return steepness * Math.log(tempoShare) + MODEL.contextCost[context];
}

/**
 * The chance of a clean rep under a belief, averaged over its uncertainty.
 * Shape:  0 to 1 − lapse
 * Units:  a chance; `tempoShare` is tempo over target
 * Source: Rasch 1960; the average by the trapezoid rule
 */
export function chanceOfClean(belief: Belief, tempoShare: number, context: RepContext): number {
  let sum = 0;
  for (const { steepness, weight, mean, sd } of belief) {
    const cost = difficulty(steepness, tempoShare, context);
    // The grid's steps are equal, so the odds against go down by one factor: two exponentials instead of seventeen.
    let against = Math.exp(cost - mean - sd * GRID_FROM);
    const fewer = Math.exp(-sd * GRID_STEP);
    let inside = 0;
    for (const density of WEIGHTS) {
      inside += density / (1 + against);
      against *= fewer;
    }
    sum += weight * inside;
  }
  return ((1 - MODEL.lapse) * sum) / TOTAL_WEIGHT;
}

/** Bounds of a reliable tempo as a share of the target (our own: outside them the number says nothing). */
const MIN_SHARE = 0.05;
const MAX_SHARE = 1.5;
/** So close are two tempos one: a thousandth of the target is under a metronome's step. */
const SHARE_TOLERANCE = 0.0005;

/**
 * The share of the target tempo at which a rep alone is clean with a given chance.
 * Shape:  0.05 to 1.5
 * Units:  tempo over target
 * Source: the design's model; the chance falls with tempo, so halving the bracket finds the place
 */
export function shareAtChance(belief: Belief, wanted: number): number {
  let low = MIN_SHARE;
  let high = MAX_SHARE;
  if (chanceOfClean(belief, high, 'alone') >= wanted) return high;
  while (high - low > SHARE_TOLERANCE) {
    const middle = (low + high) / 2;
    if (chanceOfClean(belief, middle, 'alone') >= wanted) low = middle;
    else high = middle;
  }
  return low;
}

/**
 * How a rep went.
 * Shape:  `optimism` of who says so, 0 where it was heard
 * Units:  logits
 */
export interface HeardRep {
  readonly context: RepContext;
  readonly isClean: boolean;
  readonly optimism?: number;
}

/**
 * The belief after one rep: Bayes' rule on a grid for each steepness, kept as the normal distribution with the same
 * mean and variance; the steepness that foresaw the rep better gains weight.
 * Shape:  the expected gain of practising is added after the evidence
 * Units:  logits
 * Source: Rasch 1960 for the likelihood; assumed-density filtering
 */
export function afterRep(
  belief: Belief,
  tempoShare: number,
  { context, isClean, optimism = 0 }: HeardRep,
): Belief {
  const updated = belief.map((one, n) =>
    practised(
      heard(one, difficulty(one.steepness, tempoShare, context) - optimism, isClean),
      n,
      VARIANCES[n],
    ),
  );
  const total = updated.reduce((sum, { weight }) => sum + weight, 0);
  return updated.map((one) => ({ ...one, weight: one.weight / total }));
}

/** The belief at one steepness after it was heard how a rep went. */
function heard(one: BeliefAtSteepness, cost: number, isClean: boolean): BeliefAtSteepness {
  let total = 0;
  let first = 0;
  let second = 0;
  for (let n = 0; n < GRID.length; n += 1) {
    const theta = one.mean + one.sd * (GRID[n] ?? 0);
    const chance = cleanChanceAt(theta, cost);
    const likelihood = (WEIGHTS[n] ?? 0) * (isClean ? chance : 1 - chance) ** MODEL.evidencePower;
    total += likelihood;
    first += likelihood * theta;
    second += likelihood * theta * theta;
  }
  const mean = first / total;
  return {
    steepness: one.steepness,
    weight: (one.weight * total) / TOTAL_WEIGHT,
    mean,
    sd: Math.sqrt(Math.max(1e-6, second / total - mean * mean)),
  };
}

/** The belief at the nth steepness after the practice that a rep is, wider by what nobody knows of its gain. */
function practised(one: BeliefAtSteepness, n: number, variance = 0): BeliefAtSteepness {
  return {
    steepness: one.steepness,
    weight: one.weight,
    mean: one.mean + gainAt(one.mean, GAINS[n] ?? 0),
    sd: variance === 0 ? one.sd : Math.min(MODEL.maxSd, Math.sqrt(one.sd ** 2 + variance)),
  };
}

/** Numbers set for a steepness of 12, for each steepness of the model in its order. */
const GAINS = MODEL.steepness.map((steepness) => MODEL.gainPerRep * (steepness / 12) ** MODEL.gainGrowth);
const VARIANCES = MODEL.steepness.map(
  (steepness) => MODEL.repVariance * (steepness / 12) ** MODEL.varianceGrowth,
);

/**
 * What one rep adds to a skill: less and less as the passage becomes sure.
 * Shape:  from `gainPerRep` far below the knee to nothing far above
 * Units:  logits
 * Source: diminishing returns of practice (common practice, no source); numbers are our own
 */
export function gainAt(theta: number, gainPerRep: number, knee: number = MODEL.gainKnee): number {
  return gainPerRep * (1 - logistic(theta - knee));
}

/** The belief as it will be after one more rep of which nothing is known: only the gain of practising. */
export function afterPractice(belief: Belief): Belief {
  return belief.map((one, n) => practised(one, n));
}

/**
 * How long it takes to lose half of what was gained, by the number of separate practice days behind it.
 * Shape:  grows with the square root of the days
 * Units:  days
 * Source: spacing makes forgetting slower (common practice, no source); numbers are our own
 */
export function halfLifeDays(practiceDays: number): number {
  return MODEL.halfLifeDays * Math.max(1, practiceDays) ** MODEL.halfLifeGrowth;
}

/**
 * The belief after time without practice: it sinks towards the prior and widens, at once by what one day differs from
 * another once it is another day.
 * Shape:  unchanged for 0 days or less
 * Units:  days
 * Source: exponential forgetting; numbers are our own
 */
export function afterDays(belief: Belief, days: number, practiceDays: number): Belief {
  if (days <= 0) return belief;
  const kept = 2 ** (-days / halfLifeDays(practiceDays));
  // Within a day the mood turns slowly; after one it is as likely good as bad.
  const widening =
    MODEL.dayVariance * Math.min(days, MODEL.maxIdleDays) + MODEL.moodVariance * Math.min(1, days);
  return belief.map((one, n) => {
    const prior = PRIOR[n]?.mean ?? 0;
    return {
      steepness: one.steepness,
      weight: one.weight,
      mean: prior + (one.mean - prior) * kept,
      sd: Math.min(MODEL.maxSd, Math.sqrt(one.sd ** 2 + widening)),
    };
  });
}

/**
 * The same belief seen from another target tempo: a target `ratio` times as fast costs k·ln(ratio) logits.
 * Shape:  weights and widths stay
 * Units:  `ratio` above 0
 * Source: the design's model
 */
export function beliefAtTarget(belief: Belief, ratio: number): Belief {
  const log = Math.log(ratio);
  return belief.map(({ steepness, weight, mean, sd }) => ({
    steepness,
    weight,
    mean: mean - steepness * log,
    sd,
  }));
}

/**
 * The skill that is believed with a given certainty to be reached at least.
 * Shape:  `share` of the belief lies below
 * Units:  logits at the target tempo
 * Source: quantile of a mixture of normal distributions, by halving
 */
export function thetaQuantile(belief: Belief, share: number): number {
  let low = Math.min(...belief.map(({ mean, sd }) => mean - 6 * sd));
  let high = Math.max(...belief.map(({ mean, sd }) => mean + 6 * sd));
  while (high - low > 1e-4) {
    const middle = (low + high) / 2;
    const below = belief.reduce(
      (sum, { weight, mean, sd }) => sum + weight * normalCdf((middle - mean) / sd),
      0,
    );
    if (below < share) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** The share of a normal distribution below z. Source: Abramowitz and Stegun 1964, 7.1.26, error below 1.5e-7. */
function normalCdf(z: number): number {
  const x = Math.abs(z) / Math.SQRT2;
  const t = 1 / (1 + 0.3275911 * x);
  const tail =
    ((((1.061405429 * t - 1.453152027) * t + 1.421413741) * t - 0.284496736) * t + 0.254829592) *
    t *
    Math.exp(-x * x);
  return z < 0 ? tail / 2 : 1 - tail / 2;
}

/**
 * How much is known of a skill: the inverse of the variance of theta.
 * Shape:  above 0
 * Units:  one over squared logits
 */
export function informationOf(belief: Belief): number {
  const mean = belief.reduce((sum, one) => sum + one.weight * one.mean, 0);
  const variance = belief.reduce((sum, one) => sum + one.weight * (one.sd ** 2 + (one.mean - mean) ** 2), 0);
  return 1 / variance;
}
