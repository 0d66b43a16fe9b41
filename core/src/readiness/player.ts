import { normalDraw, type Random } from '../base/index.js';
import { cleanChanceAt, difficulty, gainAt, halfLifeDays, type RepContext } from './belief.js';
import { MODEL } from './model.data.js';

/** How far players stand apart at their start. Units: log tempo (our own). */
const START_SPREAD = 0.15;

/**
 * A simulated player of one passage: true skill that grows with reps and sinks with rest, as the model supposes, but
 * with a rate and a steepness of its own.
 * Shape:  changes with every call; randomness is passed in
 * Units:  logits, days
 * Source: the design's model; used by the demo and the calibration spec
 */
export class SimulatedPlayer {
  private readonly prior: number;
  private theta: number;
  private practiceDays = 0;

  constructor(
    private readonly random: Random,
    private readonly gainPerRep: number = MODEL.gainPerRep,
    startTheta?: number,
    private readonly steepness = 12,
  ) {
    this.prior = steepness * Math.log(MODEL.priorShare);
    this.theta = startTheta ?? normalDraw(random, this.prior, steepness * START_SPREAD);
  }

  /** The true chance of a clean rep now. */
  chance(tempoShare: number, context: RepContext): number {
    return cleanChanceAt(this.theta, difficulty(this.steepness, tempoShare, context));
  }

  /** Plays one rep and learns from it. Gives whether it was clean. */
  play(tempoShare: number, context: RepContext): boolean {
    const isClean = this.random() < this.chance(tempoShare, context);
    this.theta +=
      gainAt(this.theta, this.gainPerRep) + normalDraw(this.random, 0, Math.sqrt(MODEL.repVariance));
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
    this.theta += normalDraw(this.random, 0, Math.sqrt(MODEL.dayVariance * days + MODEL.moodVariance));
  }
}
