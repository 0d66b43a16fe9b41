import { Injectable } from '@angular/core';
import type { AccompanyingNote, OwnPart } from '@vivid-cue/core/mock';
import type { Span } from '@vivid-cue/core/spans';
import { AskedWorker } from './asked-worker';

/** What is to be accompanied. */
export interface AccompanyQuestion {
  readonly id: number;
  readonly bytes: ArrayBuffer;
  readonly partId: string;
  readonly span: Span;
  readonly own: OwnPart;
}

/** The notes that accompany, or why there are none. */
export interface AccompanyAnswer {
  readonly id: number;
  readonly notes: readonly AccompanyingNote[];
  readonly failure: string | null;
}

/** Reads the other parts of a score in a worker. */
@Injectable({ providedIn: 'root' })
export class Accompanist {
  private readonly worker = new AskedWorker<AccompanyQuestion, AccompanyAnswer>(
    () => new Worker(new URL('../workers/accompany.worker', import.meta.url), { type: 'module' }),
    'The other parts could not be read; reload the page.',
  );

  /** Errors: rejects with one sentence */
  async notes(wish: Omit<AccompanyQuestion, 'id'>): Promise<readonly AccompanyingNote[]> {
    const { notes, failure } = await this.worker.ask(wish);
    if (failure !== null) throw new Error(failure);
    return notes;
  }
}
