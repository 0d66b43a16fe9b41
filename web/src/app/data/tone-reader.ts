import { Injectable } from '@angular/core';
import type { LongTone } from '@vivid-cue/core/takes';
import { AskedWorker } from './asked-worker';

/** A sound in which a tone is held. Units: samples from -1 to 1; samples a second */
export interface ToneQuestion {
  readonly id: number;
  readonly samples: Float32Array<ArrayBuffer>;
  readonly rate: number;
}

/** How it was held; null where none was held for half a second. */
export interface ToneAnswer {
  readonly id: number;
  readonly tone: LongTone | null;
}

/** Measures long tones in a worker. */
@Injectable({ providedIn: 'root' })
export class ToneReader {
  private readonly worker = new AskedWorker<ToneQuestion, ToneAnswer>(
    () => new Worker(new URL('../workers/tone.worker', import.meta.url), { type: 'module' }),
    'The tone could not be measured; reload the page.',
  );

  /** Errors: rejects with one sentence */
  async toneOf(sound: Omit<ToneQuestion, 'id'>): Promise<LongTone | null> {
    return (await this.worker.ask(sound)).tone;
  }
}
