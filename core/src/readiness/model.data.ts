/**
 * The numbers of the readiness model. k and the contexts are the design's; the prior and the rates of change were set
 * by us and are held by the calibration spec (no outside source).
 */
export const MODEL = Object.freeze({
  /** Logits lost per natural-log unit of tempo: at half tempo a rep is 12 × ln 2 = 8.3 logits easier. */
  tempoSlope: 12,
  /** Logits a context costs: alone, joined to neighbours, in a run, in a mock. */
  contextCost: Object.freeze({ alone: 0, joined: 0.4, run: 0.8, mock: 1.2 }),
  /** Skill at target tempo of a passage nobody has opened, in logits. */
  priorMean: -5,
  priorSd: 2.2,
  /** Expected gain of skill with each rep, and its uncertainty (variance), in logits; the gain fades out around the knee. */
  gainPerRep: 0.06,
  gainKnee: 2.5,
  repVariance: 0.012,
  /** Skill sinks towards the prior with a half-life in days that grows with the number of practice days. */
  halfLifeDays: 14,
  halfLifeGrowth: 0.5,
  /** Variance added by each day without practice, in squared logits. */
  dayVariance: 0.06,
  maxSd: 2.6,
});

/** Knees between the states, as shares of the target tempo or chances (set by us, no outside source). */
export const STATE_KNEES = Object.freeze({
  /** Chance of a clean rep alone that makes a tempo "clean". */
  cleanChance: 0.8,
  /** Clean at this share of the target: no longer only grounded. */
  climbingShare: 0.7,
  /** Chance of clean in a run that counts as holding, over at least so many practice days and days between. */
  holdingChance: 0.8,
  holdingDays: 3,
  holdingSpreadDays: 7,
});
