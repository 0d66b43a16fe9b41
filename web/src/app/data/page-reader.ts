import { inject, Injectable } from '@angular/core';
import { Observable } from 'rxjs';
import type { PageReading } from '@vivid-cue/core/page';
import { WorkerTurns } from './worker-turns';

/** Quarter turns of a page, clockwise. */
export type PageTurn = 0 | 1 | 2 | 3;

/** A file to be read. Shape: a picture or a PDF; `room` is how many pages the part may still take */
export interface PageWish {
  readonly file: Blob;
  readonly name: string;
  readonly turn: PageTurn;
  readonly room: number;
}

/** What is told while a file is read. Shape: of each page first its picture, perhaps a small one before the whole, then what was found on it; counted from 0 */
export type PageNews =
  | {
      readonly kind: 'page';
      readonly at: number;
      readonly of: number;
      readonly picture: Blob;
      readonly isWhole: boolean;
    }
  | { readonly kind: 'read'; readonly at: number; readonly reading: PageReading; readonly ms: number }
  | { readonly kind: 'done' }
  | { readonly kind: 'failure'; readonly message: string };

/** Reads pages of printed music in a web worker: who unsubscribes stops it. */
@Injectable({ providedIn: 'root' })
export class PageReaderClient {
  private readonly turns = inject(WorkerTurns);

  /** Reads a picture or the pages of a PDF. */
  read(wish: PageWish): Observable<PageNews> {
    return this.turns.run(
      () =>
        new Observable<PageNews>((subscriber) => {
          const worker = new Worker(new URL('../workers/page.worker', import.meta.url), { type: 'module' });
          worker.addEventListener('message', ({ data }: MessageEvent<PageNews>) => {
            subscriber.next(data);
            if (data.kind === 'done' || data.kind === 'failure') subscriber.complete();
          });
          worker.addEventListener('error', () => {
            subscriber.next({
              kind: 'failure',
              message: 'The page reader could not be loaded; reload the page.',
            });
            subscriber.complete();
          });
          worker.postMessage(wish);
          return () => worker.terminate();
        }),
      'seen',
    );
  }
}
