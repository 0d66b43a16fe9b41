import { inject, Injectable } from '@angular/core';
import { Observable } from 'rxjs';
import type { QuarterBpm } from '@vivid-cue/core/music';
import type { Span } from '@vivid-cue/core/spans';
import type { ToldTake } from '@vivid-cue/core/takes';
import { takeWorker } from './take-workers';
import { WorkerTurns } from './worker-turns';

/** A take to be read. Units: samples from -1 to 1 in one channel; `quarterBpm` the tempo it is likely to have, or null */
export interface TakeQuestion {
  readonly samples: Float32Array<ArrayBuffer>;
  readonly rate: number;
  readonly score: ArrayBuffer;
  readonly partId: string;
  /** The measures' numbers as the instructor says them. */
  readonly numbers: readonly string[];
  readonly spans: readonly Span[];
  readonly withRepeats: boolean;
  readonly quarterBpm: QuarterBpm | null;
}

/** What is told while a take is read. Shape: progress 0 to 1, then what it says or why it says nothing */
export type TakeNews =
  | { readonly progress: number }
  | { readonly told: ToldTake }
  | { readonly failure: string; readonly hasNoNotes: boolean };

/** Reads takes in a worker; who unsubscribes stops it. */
@Injectable({ providedIn: 'root' })
export class TakeReaderClient {
  private readonly turns = inject(WorkerTurns);

  read(question: TakeQuestion): Observable<TakeNews> {
    return this.turns.run(
      () =>
        new Observable<TakeNews>((subscriber) => {
          const worker = takeWorker();
          worker.addEventListener('message', ({ data }: MessageEvent<TakeNews>) => {
            subscriber.next(data);
            if (!('progress' in data)) subscriber.complete();
          });
          worker.addEventListener('error', () => {
            subscriber.next({ failure: 'The take could not be read; reload the page.', hasNoNotes: false });
            subscriber.complete();
          });
          worker.postMessage(question, [question.samples.buffer]);
          return () => worker.terminate();
        }),
    );
  }
}
