import { Injectable } from '@angular/core';
import { Observable, Subscription } from 'rxjs';

/** Time a page has to show what a worker brought before the next one starts, in milliseconds. */
const BREATH_MS = 60;

/** What work is for: something looked at already, or what will be read in it. */
export type TurnRank = 'seen' | 'read';

/**
 * Lets heavy work run in as many workers at once as leave the page a processor of its own: on a small machine the first
 * lines of a score are engraved, then it is read, or the page would wait for both.
 */
@Injectable({ providedIn: 'root' })
export class WorkerTurns {
  private free = Math.max(1, (navigator.hardwareConcurrency || 2) - 1);
  private readonly waiting = new Set<{ readonly rank: TurnRank; readonly begin: () => void }>();

  /**
   * Runs work when its turn has come; what is waited for with open eyes goes before what is not.
   * Shape:  the work's own values; who unsubscribes gives the turn back, taken or not
   * Errors: those of the work
   */
  run<T>(work: () => Observable<T>, rank: TurnRank = 'read'): Observable<T> {
    return new Observable<T>((subscriber) => {
      const own = new Subscription();
      const turn = {
        rank,
        begin: (): void => {
          own.add(() => setTimeout(() => this.next(), BREATH_MS));
          own.add(work().subscribe(subscriber));
        },
      };
      own.add(() => this.waiting.delete(turn));
      this.waiting.add(turn);
      this.start();
      return own;
    });
  }

  private next(): void {
    this.free += 1;
    this.start();
  }

  private start(): void {
    const waiting = [...this.waiting];
    const turn = waiting.find(({ rank }) => rank === 'seen') ?? waiting[0];
    if (!turn || this.free < 1) return;
    this.waiting.delete(turn);
    this.free -= 1;
    turn.begin();
  }
}
