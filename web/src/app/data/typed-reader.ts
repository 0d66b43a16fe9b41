import { Injectable } from '@angular/core';
import type { PaperMusic, TypedPassage, TypedWork } from '@vivid-cue/core/paper';
import { AskedWorker } from './asked-worker';

/** What the worker is asked. */
export interface TypedRequest {
  readonly id: number;
  readonly paper: PaperMusic;
  readonly passage: TypedPassage;
}

/** What it answers. */
export interface TypedAnswer {
  readonly id: number;
  readonly work: TypedWork;
}

/** Reads typed passages in a web worker, so that no key press waits. */
@Injectable({ providedIn: 'root' })
export class TypedReaderClient {
  private readonly worker = new AskedWorker<TypedRequest, TypedAnswer>(
    () => new Worker(new URL('../workers/typed.worker', import.meta.url), { type: 'module' }),
    'The notes could not be read; reload the page.',
  );

  /** Reads a passage over its music. Errors: rejects with a sentence when the reader cannot be loaded */
  async read(paper: PaperMusic, passage: TypedPassage): Promise<TypedWork> {
    return (await this.worker.ask({ paper, passage })).work;
  }
}
