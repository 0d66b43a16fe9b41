import { Injectable } from '@angular/core';
import { Observable, Subscription } from 'rxjs';

/** Time a page has to show what a worker brought before the next one starts, in milliseconds. */
const BREATH_MS = 60;

/**
 * Lets heavy work run in as many workers at once as leave the page a processor of its own: on a small machine a score is
 * read first and engraved then, or the page would wait for both.
 */
@Injectable({ providedIn: 'root' })
export class WorkerTurns {
  private free = Math.max(1, (navigator.hardwareConcurrency || 2) - 1);
  private readonly waiting = new Set<() => void>();

  /**
   * Runs work when its turn has come.
   * Shape:  the work's own values; who unsubscribes gives the turn back, taken or not
   * Errors: those of the work
   */
  run<T>(work: () => Observable<T>): Observable<T> {
    return new Observable<T>((subscriber) => {
      const own = new Subscription();
      const begin = (): void => {
        own.add(() => setTimeout(() => this.next(), BREATH_MS));
        own.add(work().subscribe(subscriber));
      };
      own.add(() => this.waiting.delete(begin));
      this.waiting.add(begin);
      this.start();
      return own;
    });
  }

  private next(): void {
    this.free += 1;
    this.start();
  }

  private start(): void {
    const [begin] = this.waiting;
    if (!begin || this.free < 1) return;
    this.waiting.delete(begin);
    this.free -= 1;
    begin();
  }
}
