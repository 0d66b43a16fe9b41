import { firstValueFrom, from, type Observable } from 'rxjs';

/**
 * Requests of one page, one after the other: the next is sent when the one before was answered. So answers come in the
 * order of the wishes, and a list that an answer carries whole is never older than what stands on the screen.
 */
export class InOrder {
  private last: Promise<unknown> = Promise.resolve();

  /** Sends when it is its turn. Shape: the answer, or the request's own error. */
  run<T>(call: Observable<T>): Observable<T> {
    const turn = this.last.then(() => firstValueFrom(call));
    this.last = turn.catch(() => undefined);
    return from(turn);
  }
}
