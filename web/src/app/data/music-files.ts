import { Injectable } from '@angular/core';

/** Where the files of music come from: the studio's routes, or a desk's with what its device keeps. */
@Injectable()
export abstract class MusicFiles {
  abstract score(scoreId: string): Promise<ArrayBuffer>;
  /** A page's picture, wide enough to cut lines out of it. */
  abstract page(pageId: string): Promise<Blob>;

  /** Awaited before something is fetched that a later visit without a connection needs. */
  ready(): Promise<void> {
    return Promise.resolve();
  }
}
