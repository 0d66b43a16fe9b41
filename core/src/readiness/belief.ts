import { MODEL } from './model.data.js';

/** Where a rep was played: by itself, joined to its neighbours, in a run of the part, or in a mock. */
export type RepContext = keyof typeof MODEL.contextCost;

/**
 * What is believed of one passage's skill: a normal distribution over theta.
 * Shape:  `sd` above 0
 * Units:  logits at the target tempo
 * Source: Rasch 1960, one-parameter logistic form
 */
export interface Belief {
  readonly mean: number;
  readonly sd: number;
}

/** The belief before any rep. */
export const PRIOR: Belief = Object.freeze({ mean: MODEL.priorMean, sd: MODEL.priorSd });

/** 33 equal steps over ±4 standard deviations with their normal weights: the trapezoid rule on a bell curve. */
const GRID = Array.from({ length: 33 }, (_, n) => -4 + n / 4);
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
 * How many logits a tempo and a context cost against the target tempo alone.
 * Shape:  negative below the target tempo
 * Units:  logits
 * Source: the design's model: k·ln(b/target) + c(context), k = 12
 */
export function difficulty(tempoShare: number, context: RepContext): number {
  return MODEL.tempoSlope * Math.log(tempoShare) + MODEL.contextCost[context];
}

/**
 * The chance of a clean rep under a belief, averaged over its uncertainty.
 * Shape:  0 to 1
 * Units:  a chance; `tempoShare` is tempo over target
 * Source: Rasch 1960; the average by the trapezoid rule
 */
export function chanceOfClean(belief: Belief, tempoShare: number, context: RepContext): number {
  return meanChance(belief, difficulty(tempoShare, context)).chance;
}

function meanChance(belief: Belief, cost: number): { readonly chance: number; readonly slope: number } {
  let sum = 0;
  let slope = 0;
  for (let n = 0; n < GRID.length; n += 1) {
    const weight = WEIGHTS[n] ?? 0;
    const chance = logistic(belief.mean + belief.sd * (GRID[n] ?? 0) - cost);
    sum += weight * chance;
    slope += weight * chance * (1 - chance);
  }
  return { chance: sum / TOTAL_WEIGHT, slope: slope / TOTAL_WEIGHT };
}

/**
 * The share of the target tempo at which a rep alone is clean with a given chance.
 * Shape:  0.05 to 1.5
 * Units:  tempo over target
 * Source: the design's model, solved by Newton's method on the logit of the averaged chance
 */
export function shareAtChance(belief: Belief, wanted: number): number {
  const goal = Math.log(wanted / (1 - wanted));
  let cost = belief.mean - goal * Math.sqrt(1 + (Math.PI * belief.sd ** 2) / 8);
  // The logit of the averaged chance is nearly straight, so six steps leave less than 1e-9.
  for (let step = 0; step < 6; step += 1) {
    const { chance, slope } = meanChance(belief, cost);
    const miss = Math.log(chance / (1 - chance)) - goal;
    cost += (miss * chance * (1 - chance)) / slope;
    if (Math.abs(miss) < 1e-9) break;
  }
  return Math.min(MAX_SHARE, Math.max(MIN_SHARE, Math.exp(cost / MODEL.tempoSlope)));
}

/** Bounds of a clean tempo as a share of the target (our own: outside them the number says nothing). */
const MIN_SHARE = 0.05;
const MAX_SHARE = 1.5;

/**
 * The belief after one rep: Bayes' rule on a grid, kept as the normal distribution with the same mean and variance.
 * Shape:  the expected gain of practising is added after the evidence
 * Units:  logits
 * Source: Rasch 1960 for the likelihood; assumed-density filtering
 */
export function afterRep(belief: Belief, tempoShare: number, context: RepContext, isClean: boolean): Belief {
  const cost = difficulty(tempoShare, context);
  let total = 0;
  let first = 0;
  let second = 0;
  for (let n = 0; n < GRID.length; n += 1) {
    const theta = belief.mean + belief.sd * (GRID[n] ?? 0);
    const chance = logistic(theta - cost);
    const weight = (WEIGHTS[n] ?? 0) * (isClean ? chance : 1 - chance);
    total += weight;
    first += weight * theta;
    second += weight * theta * theta;
  }
  const mean = first / total;
  const variance = Math.max(1e-6, second / total - mean * mean);
  return {
    mean: mean + gainAt(mean, MODEL.gainPerRep),
    sd: Math.min(MODEL.maxSd, Math.sqrt(variance + MODEL.repVariance)),
  };
}

/**
 * What one rep adds to a skill: less and less as the passage becomes sure.
 * Shape:  from `gainPerRep` far below the knee to nothing far above
 * Units:  logits
 * Source: diminishing returns of practice (common practice, no source); numbers are our own
 */
export function gainAt(theta: number, gainPerRep: number): number {
  return gainPerRep * (1 - logistic(theta - MODEL.gainKnee));
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
 * The belief after days without practice: it sinks towards the prior and widens.
 * Shape:  unchanged for 0 days or less
 * Units:  days
 * Source: exponential forgetting; numbers are our own
 */
export function afterDays(belief: Belief, days: number, practiceDays: number): Belief {
  if (days <= 0) return belief;
  const kept = 2 ** (-days / halfLifeDays(practiceDays));
  return {
    mean: MODEL.priorMean + (belief.mean - MODEL.priorMean) * kept,
    sd: Math.min(MODEL.maxSd, Math.sqrt(belief.sd ** 2 + MODEL.dayVariance * days)),
  };
}
