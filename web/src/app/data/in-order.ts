import { firstValueFrom, from, type Observable } from 'rxjs';

/**
 * Requests of one page, one after the other: the next is sent when the one before was answered. So answers come in the
 * order of the wishes, and a list that an answer carries whole is never older than what stands on the screen.
 */
export class InOrder {
  private last: Promise<unknown> = Promise.resolve();

  /** Sends when it is its turn. Shape: the answer, or the request's own error. */
  run<T>(call: Observable<T>): Observable<T> {
    return from(this.after(() => firstValueFrom(call)));
  }

  /** Does something when all before it is done. Shape: what comes of it, or its own error. */
  after<T>(work: () => Promise<T>): Promise<T> {
    const turn = this.last.then(work);
    this.last = turn.catch(() => undefined);
    return turn;
  }
}
