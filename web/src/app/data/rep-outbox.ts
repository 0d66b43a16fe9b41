import { inject, Injectable, signal } from '@angular/core';
import Dexie, { type Table } from 'dexie';
import { firstValueFrom, Subject } from 'rxjs';
import type { PassageView, RepInput } from '@vivid-cue/contract';
import { troubleOf } from './problem';
import { ScoreApi } from './score-api';

/** A rep that waits for its answer. */
export interface WaitingRep {
  readonly order?: number;
  readonly passageId: string;
  readonly rep: RepInput;
}

class OutboxDatabase extends Dexie {
  readonly reps!: Table<WaitingRep, number>;

  constructor() {
    super('vivid-cue-outbox');
    this.version(1).stores({ reps: '++order, passageId' });
  }
}

const RETRY_MS = 4000;

/**
 * Keeps every rep on this device until the server has it, and sends them one by one in their order. Sending twice is
 * harmless: the identifier is the client's.
 */
@Injectable({ providedIn: 'root' })
export class RepOutbox {
  private readonly api = inject(ScoreApi);
  private readonly database = new OutboxDatabase();
  private readonly answers = new Subject<PassageView>();
  private sending: Promise<void> | null = null;
  private retry: ReturnType<typeof setTimeout> | null = null;

  /** Reps not yet acknowledged. */
  readonly waiting = signal<readonly WaitingRep[]>([]);
  /** Why they wait, or null while all is well. */
  readonly trouble = signal<string | null>(null);
  /** Passages as the server has them after each rep. */
  readonly answered$ = this.answers.asObservable();

  constructor() {
    window.addEventListener('online', () => void this.flush());
    void this.reload().then(() => this.flush());
  }

  /** Puts a rep in and starts sending. */
  async add(passageId: string, rep: RepInput): Promise<void> {
    this.waiting.update((list) => [...list, { passageId, rep }]);
    await this.database.reps.add({ passageId, rep });
    await this.reload();
    void this.flush();
  }

  /** Takes a rep out that was not sent yet; false when it is already on its way or gone. */
  async withdraw(repId: string): Promise<boolean> {
    await this.sending;
    const found = (await this.database.reps.toArray()).find(({ rep }) => rep.id === repId);
    if (found?.order === undefined) return false;
    await this.database.reps.delete(found.order);
    await this.reload();
    return true;
  }

  /** Sends what waits; one sender at a time. */
  flush(): Promise<void> {
    this.sending ??= this.sendAll().finally(() => {
      this.sending = null;
    });
    return this.sending;
  }

  private async sendAll(): Promise<void> {
    for (
      let next = await this.database.reps.orderBy('order').first();
      next;
      next = await this.database.reps.orderBy('order').first()
    ) {
      try {
        const passage = await firstValueFrom(this.api.logRep(next.passageId, next.rep));
        await this.drop(next);
        this.trouble.set(null);
        this.answers.next(passage);
      } catch (error) {
        const { message, isOffline, status } = troubleOf(error);
        const isLost = status === 404 || status === 409 || status === 422;
        this.trouble.set(
          isOffline ? 'No connection: reps are kept on this device and sent when it is back.' : message,
        );
        if (isLost) {
          await this.drop(next);
          continue;
        }
        this.scheduleRetry();
        return;
      }
    }
  }

  private async drop({ order }: WaitingRep): Promise<void> {
    if (order !== undefined) await this.database.reps.delete(order);
    await this.reload();
  }

  private async reload(): Promise<void> {
    this.waiting.set(await this.database.reps.orderBy('order').toArray());
  }

  private scheduleRetry(): void {
    if (this.retry !== null) clearTimeout(this.retry);
    this.retry = setTimeout(() => void this.flush(), RETRY_MS);
  }
}
