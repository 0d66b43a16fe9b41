import { inject, Injectable } from '@angular/core';
import type { PreloadingStrategy, Route } from '@angular/router';
import { EMPTY, ReplaySubject, switchMap, take, type Observable } from 'rxjs';
import { Engraver } from './engraver';

/**
 * Fetches the score room and the engraving engine while a page is read from which a score is opened, so that the first
 * line of music is there soon after the click. The first page of all fetches neither.
 */
@Injectable({ providedIn: 'root' })
export class ScoreAhead implements PreloadingStrategy {
  private readonly engraver = inject(Engraver);
  private readonly wanted = new ReplaySubject<void>(1);

  preload(route: Route, load: () => Observable<unknown>): Observable<unknown> {
    return route.data?.['isAhead'] === true ? this.wanted.pipe(take(1), switchMap(load)) : EMPTY;
  }

  /** A score is likely to be opened next. */
  soon(): void {
    const begin = (): void => {
      this.wanted.next();
      this.engraver.warm();
    };
    if ('requestIdleCallback' in window) requestIdleCallback(begin, { timeout: 1500 });
    else setTimeout(begin, 500);
  }
}
