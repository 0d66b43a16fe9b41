import { effect, inject, Injectable, signal } from '@angular/core';
import Dexie, { type Table } from 'dexie';
import { firstValueFrom, Subject } from 'rxjs';
import type { PassageView, RepInput } from '@vivid-cue/contract';
import { troubleOf } from './problem';
import { ScoreApi } from './score-api';
import { SessionStore } from './session-store';

/** A rep that waits for its answer. */
export interface WaitingRep {
  readonly order?: number;
  /** Whose rep it is: on a shared device each studio sends only its own. */
  readonly studioId: string;
  readonly passageId: string;
  readonly rep: RepInput;
}

class OutboxDatabase extends Dexie {
  readonly reps!: Table<WaitingRep, number>;

  constructor() {
    super('vivid-cue-outbox');
    this.version(1).stores({ reps: '++order, studioId' });
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
  private readonly session = inject(SessionStore);
  private readonly database = new OutboxDatabase();
  private readonly answers = new Subject<PassageView>();
  private sending: Promise<void> | null = null;
  /** Done when every rep that was put in is on the device. */
  private storing: Promise<unknown> = Promise.resolve();
  /** Reps taken out: a sender that has read one already passes it over. */
  private readonly withdrawn = new Set<string>();
  private retry: ReturnType<typeof setTimeout> | null = null;

  /** Reps not yet acknowledged. */
  readonly waiting = signal<readonly WaitingRep[]>([]);
  /** Why they wait, or null while all is well. */
  readonly trouble = signal<string | null>(null);
  /** Passages as the server has them after each rep. */
  readonly answered$ = this.answers.asObservable();

  constructor() {
    window.addEventListener('online', () => void this.flush());
    effect(() => {
      if (this.session.instructor() !== null) void this.reload().then(() => this.flush());
    });
  }

  /** Puts a rep in and starts sending. */
  async add(passageId: string, rep: RepInput): Promise<void> {
    const waiting = { studioId: this.studioId(), passageId, rep };
    this.waiting.update((list) => [...list, waiting]);
    const stored = this.database.reps.add(waiting);
    this.storing = Promise.allSettled([this.storing, stored]);
    await stored;
    // The list is not read anew here: what was read before a rep was sent would bring it back after.
    void this.flush();
  }

  /** Takes a rep out that was not sent yet; false when it is already on its way or gone. */
  async withdraw(repId: string): Promise<boolean> {
    await this.storing;
    this.withdrawn.add(repId);
    await this.sending;
    const found = (await this.own()).find(({ rep }) => rep.id === repId);
    // Gone from the device: either the sender passed it over, and from the set too, or it was sent.
    if (found?.order === undefined) return !this.withdrawn.delete(repId);
    await this.drop(found);
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
    for (let [next] = await this.own(); next; [next] = await this.own()) {
      if (this.withdrawn.delete(next.rep.id)) {
        await this.drop(next);
        continue;
      }
      try {
        const passage = await firstValueFrom(this.api.logRep(next.passageId, next.rep));
        await this.drop(next);
        // In one turn with the rep's leaving the list, so that it is never counted twice or not at all.
        this.answers.next(passage);
        this.trouble.set(null);
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

  private async drop({ order, rep }: WaitingRep): Promise<void> {
    if (order !== undefined) await this.database.reps.delete(order);
    this.waiting.update((list) => list.filter((waiting) => waiting.rep.id !== rep.id));
  }

  private async reload(): Promise<void> {
    this.waiting.set(await this.own());
  }

  /** This studio's waiting reps in the order they were played. */
  private own(): Promise<WaitingRep[]> {
    return this.database.reps.where('studioId').equals(this.studioId()).sortBy('order');
  }

  private studioId(): string {
    return this.session.instructor()?.studioId ?? '';
  }

  private scheduleRetry(): void {
    if (this.retry !== null) clearTimeout(this.retry);
    this.retry = setTimeout(() => void this.flush(), RETRY_MS);
  }
}
