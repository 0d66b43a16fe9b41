import { normalDraw, type Random } from '../base/index.js';
import { cleanChanceAt, difficulty, gainAt, halfLifeDays, type RepContext } from './belief.js';
import { MODEL } from './model.data.js';

/** How far players stand apart at their start. Units: log tempo (our own). */
const START_SPREAD = 0.15;

/** Who plays. Shape: what is not given is as the model supposes it. Units: logits. */
export interface PlayerTraits {
  readonly gainPerRep?: number;
  readonly startTheta?: number;
  readonly steepness?: number;
  /** Where the gain fades out, and how much a rep or a day moves skill by chance (variance). */
  readonly gainKnee?: number;
  readonly repVariance?: number;
  readonly moodVariance?: number;
}

/**
 * A simulated player of one passage: true skill that grows with reps and sinks with rest, as the model supposes, but
 * with traits of its own.
 * Shape:  changes with every call; randomness is passed in
 * Units:  logits, days
 * Source: the design's model; used by the demo and the calibration spec
 */
export class SimulatedPlayer {
  private readonly traits: Required<PlayerTraits>;
  private readonly prior: number;
  private theta: number;
  private practiceDays = 0;

  constructor(
    private readonly random: Random,
    traits: PlayerTraits = {},
  ) {
    const steepness = traits.steepness ?? 12;
    this.prior = steepness * Math.log(MODEL.priorShare);
    this.theta = traits.startTheta ?? normalDraw(random, this.prior, steepness * START_SPREAD);
    this.traits = {
      gainPerRep: MODEL.gainPerRep,
      gainKnee: MODEL.gainKnee,
      repVariance: MODEL.repVariance,
      moodVariance: MODEL.moodVariance,
      startTheta: this.theta,
      ...traits,
      steepness,
    };
  }

  /** The true chance of a clean rep now. */
  chance(tempoShare: number, context: RepContext): number {
    return cleanChanceAt(this.theta, difficulty(this.traits.steepness, tempoShare, context));
  }

  /** Plays one rep and learns from it. Gives whether it was clean. */
  play(tempoShare: number, context: RepContext): boolean {
    const isClean = this.random() < this.chance(tempoShare, context);
    const { gainPerRep, gainKnee, repVariance } = this.traits;
    this.theta +=
      gainAt(this.theta, gainPerRep, gainKnee) + normalDraw(this.random, 0, Math.sqrt(repVariance));
    return isClean;
  }

  /** A practice day begins. */
  startDay(): void {
    this.practiceDays += 1;
  }

  /** Days pass without practice. */
  rest(days: number): void {
    const halfLife = halfLifeDays(this.practiceDays);
    this.theta = this.prior + (this.theta - this.prior) * 2 ** (-days / halfLife);
    const variance = MODEL.dayVariance * days + this.traits.moodVariance;
    this.theta += normalDraw(this.random, 0, Math.sqrt(variance));
  }
}
