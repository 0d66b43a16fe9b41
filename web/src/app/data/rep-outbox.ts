import { computed, DestroyRef, effect, inject, Injectable, signal } from '@angular/core';
import Dexie, { liveQuery, type Subscription, type Table } from 'dexie';
import { firstValueFrom, Subject } from 'rxjs';
import { v7 as newId } from 'uuid';
import { MOST_REPS, type PassageView, type RepInput } from '@vivid-cue/contract';
import type { Bpm } from '@vivid-cue/core/music';
import { troubleOf, type Trouble } from './problem';
import { ScoreApi } from './score-api';
import { SessionStore } from './session-store';

/** A rep that waits for its answer. */
export interface WaitingRep {
  readonly order?: number;
  /** Whose rep it is: on a shared device each studio sends only its own. */
  readonly studioId: string;
  readonly passageId: string;
  readonly rep: RepInput;
  /** Why the server will not take it, or null while it may. */
  readonly refusal: string | null;
}

class OutboxDatabase extends Dexie {
  readonly reps!: Table<WaitingRep, number>;

  constructor() {
    super('vivid-cue-outbox');
    this.version(1).stores({ reps: '++order, studioId' });
    this.version(2)
      .stores({ reps: '++order, studioId' })
      .upgrade((change) => change.table('reps').toCollection().modify({ refusal: null }));
  }
}

/** What one tab tells the others: a rep has left, with the passage as the server has it then. */
interface Acknowledged {
  readonly repId: string;
  readonly passage: PassageView;
}

const CHANNEL = 'vivid-cue-outbox';
const FIRST_RETRY_MS = 4000;
const LONGEST_RETRY_MS = 60_000;

/**
 * Keeps every rep on this device until the server has it, and sends them in their order: those of a passage that waited
 * together, in one request; where one of them is refused, one by one. Sending twice is
 * harmless: the identifier is the client's. Several tabs share one outbox: one of them sends, all of them show the same.
 */
@Injectable({ providedIn: 'root' })
export class RepOutbox {
  private readonly api = inject(ScoreApi);
  private readonly session = inject(SessionStore);
  private readonly database = new OutboxDatabase();
  private readonly channel = new BroadcastChannel(CHANNEL);
  private readonly answers = new Subject<PassageView>();
  private sending: Promise<void> | null = null;
  /** Done when every rep that was put in is on the device. */
  private storing: Promise<unknown> = Promise.resolve();
  /** Reps taken out: a sender that has read one already passes it over. */
  private readonly withdrawn = new Set<string>();
  /** Reps that are sent by themselves, because one of those that went together was refused. */
  private readonly single = new Set<string>();
  /** Reps that left, here or in another tab: a list read before that does not bring them back. */
  private readonly left = new Set<string>();
  private retry: ReturnType<typeof setTimeout> | null = null;
  private retryMs = FIRST_RETRY_MS;
  private watch: Subscription | null = null;
  private readonly all = signal<readonly WaitingRep[]>([]);

  /** Reps not yet acknowledged that the server may still take. */
  readonly waiting = computed(() => this.all().filter(({ refusal }) => refusal === null));
  /** Reps that the server will not take as they are, each with its reason. */
  readonly refused = computed(() => this.all().filter(({ refusal }) => refusal !== null));
  /** Why they wait, or null while all is well. */
  readonly trouble = signal<string | null>(null);
  /** Passages as the server has them after each rep, whichever tab sent it. */
  readonly answered$ = this.answers.asObservable();

  constructor() {
    const flush = (): void => void this.flush();
    window.addEventListener('online', flush);
    inject(DestroyRef).onDestroy(() => {
      window.removeEventListener('online', flush);
      if (this.retry !== null) clearTimeout(this.retry);
      this.watch?.unsubscribe();
      this.channel.close();
      this.database.close();
    });
    this.channel.addEventListener('message', ({ data }: MessageEvent<Acknowledged>) => {
      this.acknowledge(data);
    });
    effect(() => {
      if (this.session.instructor() !== null) this.follow();
    });
  }

  /** Puts a rep in and starts sending. */
  async add(passageId: string, rep: RepInput): Promise<void> {
    const waiting = { studioId: this.studioId(), passageId, rep, refusal: null };
    this.all.update((list) => [...list, waiting]);
    const stored = this.database.reps.add(waiting);
    this.storing = Promise.allSettled([this.storing, stored]);
    await stored;
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

  /** Sends a refused rep once more, under a new identifier and at another tempo where one is given. */
  async mend(repId: string, bpm?: Bpm): Promise<void> {
    const found = (await this.own()).find(({ rep }) => rep.id === repId);
    if (!found) return;
    await this.drop(found);
    await this.add(found.passageId, { ...found.rep, id: newId(), bpm: bpm ?? found.rep.bpm });
  }

  /** Sends what waits; one sender at a time, over all tabs. */
  flush(): Promise<void> {
    this.sending ??= this.alone(() => this.sendAll()).finally(() => {
      this.sending = null;
    });
    return this.sending;
  }

  private async alone(work: () => Promise<void>): Promise<void> {
    await navigator.locks.request(CHANNEL, work);
  }

  private async sendAll(): Promise<void> {
    for (let next = await this.nextToSend(); next; next = await this.nextToSend()) {
      if (this.withdrawn.delete(next.rep.id)) await this.drop(next);
      else if (!(await this.send(await this.together(next)))) return;
    }
    this.trouble.set(null);
  }

  /** A rep with the others of its passage that wait; alone while one of them was refused. */
  private async together(first: WaitingRep): Promise<readonly [WaitingRep, ...WaitingRep[]]> {
    if (this.single.delete(first.rep.id)) return [first];
    const others = (await this.own()).filter(
      ({ passageId, refusal, rep }) =>
        passageId === first.passageId &&
        refusal === null &&
        rep.id !== first.rep.id &&
        !this.withdrawn.has(rep.id) &&
        !this.single.has(rep.id),
    );
    return [first, ...others.slice(0, MOST_REPS - 1)];
  }

  private async nextToSend(): Promise<WaitingRep | undefined> {
    return (await this.own()).find(({ refusal }) => refusal === null);
  }

  /** Sends reps of one passage; false when the others must wait as well. */
  private async send(batch: readonly [WaitingRep, ...WaitingRep[]]): Promise<boolean> {
    const [next, ...more] = batch;
    try {
      const call =
        more.length === 0
          ? this.api.logRep(next.passageId, next.rep)
          : this.api.logReps(
              next.passageId,
              batch.map(({ rep }) => rep),
            );
      const passage = await firstValueFrom(call);
      for (const sent of batch) {
        await this.forget(sent);
        const acknowledged = { repId: sent.rep.id, passage };
        this.acknowledge(acknowledged);
        this.channel.postMessage(acknowledged);
      }
      this.retryMs = FIRST_RETRY_MS;
      return true;
    } catch (error) {
      const trouble = troubleOf(error);
      const { message, isOffline } = trouble;
      if (!mayPassLater(trouble)) {
        // Of several it is not known which one is refused: each is sent by itself.
        if (more.length > 0) for (const { rep } of batch) this.single.add(rep.id);
        else await this.refuse(next, message);
        return true;
      }
      this.trouble.set(
        isOffline ? 'No connection: reps are kept on this device and sent when it is back.' : message,
      );
      this.scheduleRetry();
      return false;
    }
  }

  /** In one turn with the rep's leaving the list, so that it is never counted twice or not at all. */
  private acknowledge({ repId, passage }: Acknowledged): void {
    this.left.add(repId);
    this.all.update((list) => list.filter(({ rep }) => rep.id !== repId));
    this.answers.next(passage);
  }

  private async refuse({ order, rep }: WaitingRep, refusal: string): Promise<void> {
    if (order !== undefined) await this.database.reps.update(order, { refusal });
    this.all.update((list) => list.map((one) => (one.rep.id === rep.id ? { ...one, refusal } : one)));
  }

  private async drop(waiting: WaitingRep): Promise<void> {
    await this.forget(waiting);
    this.left.add(waiting.rep.id);
    this.all.update((list) => list.filter(({ rep }) => rep.id !== waiting.rep.id));
  }

  private async forget({ order }: WaitingRep): Promise<void> {
    if (order !== undefined) await this.database.reps.delete(order);
  }

  /** Follows what is on the device for this studio, whichever tab puts it there. */
  private follow(): void {
    this.watch?.unsubscribe();
    this.watch = liveQuery(() => this.own()).subscribe({
      next: (stored) => this.show(stored),
      error: () =>
        this.trouble.set('Reps cannot be kept on this device; stay on this page until they are sent.'),
    });
    void this.flush();
  }

  private show(stored: readonly WaitingRep[]): void {
    const known = new Set(stored.map(({ rep }) => rep.id));
    // What was put in just now and is not on the device yet stays; what left meanwhile does not come back.
    const justAdded = this.all().filter(({ rep, order }) => order === undefined && !known.has(rep.id));
    this.all.set([...stored, ...justAdded].filter(({ rep }) => !this.left.has(rep.id)));
  }

  /** This studio's waiting reps in the order they were played. */
  private own(): Promise<WaitingRep[]> {
    return this.database.reps.where('studioId').equals(this.studioId()).sortBy('order');
  }

  private studioId(): string {
    return this.session.instructor()?.studioId ?? '';
  }

  /** Each time twice as long, so that a server that comes back is not run over. */
  private scheduleRetry(): void {
    if (this.retry !== null) clearTimeout(this.retry);
    this.retry = setTimeout(() => void this.flush(), this.retryMs);
    this.retryMs = Math.min(LONGEST_RETRY_MS, this.retryMs * 2);
  }
}

/**
 * Whether a refusal may pass by itself: no connection, signed out, too many at once, a fault of the server, or an answer
 * that is not the server's own, such as a proxy's.
 */
function mayPassLater({ status, code }: Trouble): boolean {
  if (code === 'fault') return true;
  return status === 0 || status === 401 || status === 403 || status === 429 || status >= 500;
}
