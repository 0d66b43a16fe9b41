/**
 * The planner's numbers.
 * Source: the assembly three weeks before the day and the lighter last two days are the design's; the rest is common
 *         practice, no source, or our own where it says so
 */
export const PLAN = Object.freeze({
  /** Minutes are given out in pieces of this length (our own). */
  blockMinutes: 3,
  /** No passage gets more of one day. */
  longestBlock: 15,
  /** All parts are strung together so many days before the day, and earlier with more than three parts. */
  assemblyDays: 21,
  assemblyDaysPerPart: 2,
  partsWithoutMore: 3,
  /** Never before this share of the season, however short it is. */
  earliestAssembly: 0.4,
  /** Days between runs after the assembly, and between takes at a comfortable tempo before it. */
  runEvery: 7,
  /** Days before the day on which it is played as on the day. */
  mocks: Object.freeze([10, 5] as readonly number[]),
  /** The last days are lighter: how many, and which share of the minutes. */
  lightDays: 2,
  lightShare: 0.5,
  /** Gaps after which something learned is played again, by how often it was: each longer than the one before. */
  reviewGaps: Object.freeze([1, 2, 4, 7, 10] as readonly number[]),
  reviewMinutes: 2,
  /** From this chance of clean in a run on, a passage is only played again now and then: the load stays light (our own). */
  enoughChance: 0.9,
  /** Share of the target at which seams are worth practising on both sides. */
  seamShare: 0.7,
  /** Reps of one passage in a day after which most of the day's gain is had (our own). */
  repsOfADay: 24,
  /** How sure a skill is after a dozen reps, in logits (our own). */
  sd: 0.8,
  /** A break is due after so much playing, in minutes. */
  breakEvery: 30,
  /** A part that is run takes its length and this much to begin and to say what slipped, in seconds. */
  runOverhead: 90,
});
