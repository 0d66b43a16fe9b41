/**
 * The numbers of the readiness model. Contexts and the lapse are the design's; the steepnesses are near the design's 4, 8,
 * 12, 20, with a flat one for players to whom tempo matters little. The rest was set by us on simulated learners of five
 * foreign kinds, and is held by the calibration spec on kinds written afterwards (no outside source).
 */
export const MODEL = Object.freeze({
  /** Logits lost per natural-log unit of tempo. Nobody knows it of a player before; each has its weight. */
  steepness: Object.freeze([2, 5, 10, 18] as const),
  steepnessWeights: Object.freeze([0.4, 0.1, 0.2, 0.3] as const),
  /** Everybody misses now and then what is long learned. */
  lapse: 0.025,
  /** Logits a context costs: alone, joined to neighbours, in a run, in a mock. */
  contextCost: Object.freeze({ alone: 0, joined: 0.4, run: 0.8, mock: 1.2 }),
  /** Share of the target tempo at which a passage nobody has opened goes clean every other time. */
  priorShare: 0.5,
  /** How far from that a player may be, at each steepness, in logits. */
  priorSds: Object.freeze([2.2, 1.5, 2.4, 4] as const),
  /** Expected gain of skill with each rep at a steepness of 12, and its uncertainty (variance), in logits. */
  gainPerRep: 0.08,
  repVariance: 0.1,
  /** Both grow with a power of steepness/12: a steep player's logits are worth less tempo each. */
  gainGrowth: 0.1,
  varianceGrowth: 0.6,
  /** The gain fades out around so many logits at target. */
  gainKnee: 1.5,
  /** Skill sinks towards the prior with a half-life in days that grows with the number of practice days. */
  halfLifeDays: 45,
  halfLifeGrowth: 0.5,
  /** Variance added by each day without practice, for at most so many days, in squared logits. */
  dayVariance: 0.03,
  maxIdleDays: 14,
  /** Variance of a new day against the day before: some days are good and some are not, in squared logits. */
  moodVariance: 0.3,
  /** A rep counts for less than one free witness: reps of one sitting resemble each other. */
  evidencePower: 0.8,
  maxSd: 4,
});

/** Knees between the states, as shares of the target tempo or chances (set by us, no outside source). */
export const STATE_KNEES = Object.freeze({
  /** Chance of a clean rep alone that makes a tempo "reliable". */
  reliableChance: 0.8,
  /** Reliable at this share of the target: no longer only grounded. */
  climbingShare: 0.7,
  /** Chance of clean in a run that counts as holding, over at least so many practice days and days between. */
  holdingChance: 0.8,
  holdingDays: 3,
  holdingSpreadDays: 7,
});

/** What joined reps and runs add to a passage's word on a run, beside reps alone (set by us, no outside source). */
export const WITNESS = Object.freeze({ joined: 0.5, run: 1 });
