import { normalDraw, type Random } from '../../base/index.js';
import { logistic, type RepContext } from '../index.js';

/** Somebody who learns a passage. Shape: chances 0 to 1 of a clean rep at a share of the target tempo. */
export interface Learner {
  chance(tempoShare: number, context: RepContext): number;
  /** One rep was played. */
  practise(tempoShare: number): void;
  /** Days went by. */
  rest(days: number): void;
}

const between = (random: Random, low: number, high: number): number => low + (high - low) * random();
const HARDER: Readonly<Record<RepContext, number>> = { alone: 0, joined: 0.5, run: 1, mock: 1.5 };

/**
 * Two states, known or not, with slips and guesses; unknown, a passage still goes when it is slow enough.
 * Source: Corbett and Anderson 1995, knowledge tracing; tempo and contexts are our own
 */
export function tracedLearner(random: Random): Learner {
  const learn = between(random, 0.015, 0.06);
  const slip = between(random, 0.03, 0.12);
  const guess = between(random, 0.08, 0.25);
  const easyShare = between(random, 0.45, 0.65);
  const nerves = between(random, 0.03, 0.15);
  let isKnown = false;
  return {
    chance: (share, context) => {
      const slow = Math.min(1, Math.max(0, (0.95 - share) / (0.95 - easyShare)));
      const chance = isKnown ? 1 - slip : guess + (1 - slip - guess) * slow;
      return chance * (1 - nerves * HARDER[context]);
    },
    practise: () => {
      isKnown ||= random() < learn;
    },
    rest: () => undefined,
  };
}

/**
 * Errors that fall with a power of the number of reps, and rise with tempo.
 * Source: Newell and Rosenbloom 1981, power law of practice; tempo and contexts are our own
 */
export function powerLearner(random: Random): Learner {
  const first = between(random, 0.7, 1.3);
  const rate = between(random, 0.3, 0.55);
  const tempo = between(random, 3, 6);
  const nerves = between(random, 0.1, 0.6);
  let reps = 1;
  return {
    chance: (share, context) =>
      1 -
      Math.min(0.97, first * reps ** -rate * Math.exp(tempo * (share - 1)) * (1 + nerves * HARDER[context])),
    practise: () => {
      reps += 1;
    },
    rest: (days) => {
      reps = Math.max(1, reps * 0.985 ** days);
    },
  };
}

/**
 * Good and bad days: a mood that drifts from day to day as a first-order autoregression, over a skill that grows.
 * Source: autoregressive process of order one; its numbers are our own
 */
export function moodyLearner(random: Random): Learner {
  const steepness = between(random, 6, 15);
  const growth = between(random, 0.03, 0.08);
  const persistence = between(random, 0.4, 0.85);
  const swing = between(random, 0.5, 1);
  const nerves = between(random, 0.4, 1);
  let skill = between(random, -5.5, -2.5);
  let mood = normalDraw(random, 0, swing);
  return {
    chance: (share, context) =>
      0.98 * logistic(skill + mood - steepness * Math.log(share) - nerves * HARDER[context]),
    practise: () => {
      skill += growth * (1 - logistic(skill - 2));
    },
    rest: (days) => {
      for (let day = 0; day < days; day += 1)
        mood = persistence * mood + normalDraw(random, 0, swing * Math.sqrt(1 - persistence ** 2));
      skill -= 0.02 * days;
    },
  };
}

/** A tempo up to which it goes, that rises overnight: most is learned between the sessions. Source: our own. */
export function overnightLearner(random: Random): Learner {
  const width = between(random, 0.03, 0.08);
  const lapse = between(random, 0.01, 0.05);
  const overnight = between(random, 0.012, 0.03);
  const nerves = between(random, 0.02, 0.06);
  let ceiling = between(random, 0.55, 0.75);
  return {
    chance: (share, context) => (1 - lapse) * logistic((ceiling - nerves * HARDER[context] - share) / width),
    practise: () => {
      ceiling = Math.min(1.15, ceiling + 0.0012);
    },
    rest: (days) => {
      ceiling = Math.min(1.15, ceiling + overnight * Math.min(2, days));
    },
  };
}
