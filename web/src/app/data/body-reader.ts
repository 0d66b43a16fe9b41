import { Injectable } from '@angular/core';
import type { AirPin, BowStroke, BoxMark, BreathPlan, MeasuredAir } from '@vivid-cue/core/air';
import type { HandPath, HandPin, HandSolver, RollAdvice, RuleAdvice } from '@vivid-cue/core/hands';
import type { QuarterBpm } from '@vivid-cue/core/music';
import type { Span } from '@vivid-cue/core/score';
import type { Book } from '@vivid-cue/contract';
import { AskedWorker } from './asked-worker';
import type { DrillWish } from './driller';

/** The music that air and hands are worked out for. */
export type BodyMusic = Pick<DrillWish, 'bytes' | 'partId' | 'instrument' | 'numbers'>;

/** What is asked. Units: measure indexes; quarter notes a minute of the opening, null for the file's own tempo */
export interface BodyWish {
  readonly span: Span;
  readonly quarterBpm: QuarterBpm | null;
  readonly air: MeasuredAir;
  readonly breathPins: readonly AirPin[];
  /** What was marked on measures whose notes are not known. */
  readonly boxes: readonly BoxMark[];
  readonly handPins: readonly HandPin[];
  readonly hasValve: boolean;
  readonly leads: 'R' | 'L';
  readonly school: 'doubles' | 'alternate';
  /** The studio's own rules, and those it does without. */
  readonly book: Pick<Book, 'rules' | 'silenced'>;
}

/** The same with its number; the music comes along where the worker does not have it. */
export interface BodyQuestion extends BodyWish {
  readonly id: number;
  readonly music: BodyMusic | null;
}

/** A breath plan as it is shown. Units: seconds of a long tone; of the music at the tempo of the plan */
export interface ShownBreaths {
  readonly plan: BreathPlan;
  readonly capacity: number;
  readonly usable: number;
  readonly reasons: readonly string[];
  readonly ways: readonly string[];
}

/** What air and hands do in a stretch. Shape: null for what the instrument does not have */
export interface BodyResult {
  readonly breaths: ShownBreaths | null;
  readonly hands: { readonly solver: HandSolver; readonly path: HandPath } | null;
  /** The strings of a bowed instrument; null for others. */
  readonly strings: { readonly solver: HandSolver; readonly path: HandPath } | null;
  /** Where the upper row of a keyboard is struck, in words; "" for other instruments. */
  readonly spots: string;
  readonly rolls: readonly RollAdvice[];
  readonly strokes: readonly BowStroke[];
  /** What the rule book says of these notes. */
  readonly advice: readonly RuleAdvice[];
  readonly quarterBpm: QuarterBpm;
  readonly beatQuarters: number;
}

/** What the worker answers. */
export interface BodyAnswer {
  readonly id: number;
  readonly result: BodyResult | null;
  readonly failure: string | null;
}

/** Works out air and hands in a web worker, which keeps the music it read last. */
@Injectable({ providedIn: 'root' })
export class BodyReader {
  private readonly worker = new AskedWorker<BodyQuestion, BodyAnswer>(
    () => new Worker(new URL('../workers/body.worker', import.meta.url), { type: 'module' }),
    'Air and hands could not be loaded; reload the page.',
  );
  private sent: ArrayBuffer | null = null;

  /**
   * What air and hands do in a stretch.
   * Errors: rejects with a sentence
   */
  async read(music: BodyMusic, wish: BodyWish): Promise<BodyResult> {
    const isKnown = this.sent === music.bytes;
    this.sent = music.bytes;
    try {
      const { result, failure } = await this.worker.ask({ ...wish, music: isKnown ? null : music });
      if (result === null) throw new Error(failure ?? 'Air and hands could not be worked out.');
      return result;
    } catch (error) {
      // A worker that was lost has lost the music too.
      this.sent = null;
      throw error;
    }
  }
}
