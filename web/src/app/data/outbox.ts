import { computed, DestroyRef, inject, signal } from '@angular/core';
import { liveQuery, type Subscription, type Table } from 'dexie';
import { firstValueFrom, Subject, type Observable } from 'rxjs';
import { troubleOf, type Trouble } from './problem';

/** Something that waits for its answer. */
export interface Waiting {
  readonly order?: number;
  /** Why the server will not take it, or null while it may. */
  readonly refusal: string | null;
}

/** What one tab tells the others: entries that went together have left, with the server's one answer to them all. */
interface Acknowledged<Answer> {
  readonly ids: readonly string[];
  readonly answer: Answer;
}

const FIRST_RETRY_MS = 4000;
const LONGEST_RETRY_MS = 60_000;

/**
 * Keeps what is to be sent on this device until the server has it, and sends it in its order. Sending twice is harmless:
 * the identifier is the client's. Several tabs share one outbox: one of them sends, all of them show the same.
 */
export abstract class Outbox<Entry extends Waiting, Answer> {
  private readonly channel: BroadcastChannel;
  private readonly answers = new Subject<Answer>();
  private sending: Promise<void> | null = null;
  /** Done when everything that was put in is on the device. */
  private storing: Promise<unknown> = Promise.resolve();
  /** Entries taken out: a sender that has read one already passes it over. */
  private readonly withdrawn = new Set<string>();
  /** Entries that are sent by themselves, because one of those that went together was refused. */
  private readonly single = new Set<string>();
  /** Entries that left, here or in another tab: a list read before that does not bring them back. */
  private readonly left = new Set<string>();
  private retry: ReturnType<typeof setTimeout> | null = null;
  private retryMs = FIRST_RETRY_MS;
  private watch: Subscription | null = null;
  private readonly all = signal<readonly Entry[]>([]);

  /** Entries not yet acknowledged that the server may still take. */
  readonly waiting = computed(() => this.all().filter(({ refusal }) => refusal === null));
  /** Entries that the server will not take as they are, each with its reason. */
  readonly refused = computed(() => this.all().filter(({ refusal }) => refusal !== null));
  /** Why they wait, or null while all is well. */
  readonly trouble = signal<string | null>(null);
  /** The server's answers, whichever tab sent what they are to. */
  readonly answered$ = this.answers.asObservable();

  /** Shape: `name` of the lock and channel that all tabs share; `what` waits, in sentences */
  protected constructor(
    private readonly name: string,
    private readonly what: string,
  ) {
    this.channel = new BroadcastChannel(name);
    const flush = (): void => void this.flush();
    window.addEventListener('online', flush);
    inject(DestroyRef).onDestroy(() => {
      window.removeEventListener('online', flush);
      if (this.retry !== null) clearTimeout(this.retry);
      this.watch?.unsubscribe();
      this.channel.close();
      this.close();
    });
    this.channel.addEventListener('message', ({ data }: MessageEvent<Acknowledged<Answer>>) => {
      this.acknowledge(data);
    });
  }

  /** Where entries are kept. */
  protected abstract get table(): Table<Entry, number>;
  /** The entries of who is here, in their order: on a shared device each sends only the own. */
  protected abstract own(): Promise<Entry[]>;
  /** What names an entry. */
  protected abstract idOf(entry: Entry): string;
  /** Of those that wait behind it, the ones that go in one request with the first. */
  protected abstract goingWith(first: Entry, others: readonly Entry[]): readonly Entry[];
  /** Sends entries that go together. */
  protected abstract deliver(batch: readonly [Entry, ...Entry[]]): Observable<Answer>;
  protected abstract close(): void;

  /** Puts an entry in and starts sending. */
  protected async put(entry: Entry): Promise<void> {
    this.all.update((list) => [...list, entry]);
    const stored = this.table.add(entry);
    this.storing = Promise.allSettled([this.storing, stored]);
    await stored;
    void this.flush();
  }

  /** Takes an entry out that was not sent yet; false when it is already on its way or gone. */
  async withdraw(id: string): Promise<boolean> {
    await this.storing;
    this.withdrawn.add(id);
    await this.sending;
    const found = await this.find(id);
    // Gone from the device: either the sender passed it over, and from the set too, or it was sent.
    if (found?.order === undefined) return !this.withdrawn.delete(id);
    await this.drop(found);
    return true;
  }

  /** An entry that waits on this device, or nothing. */
  protected async find(id: string): Promise<Entry | undefined> {
    return (await this.own()).find((entry) => this.idOf(entry) === id);
  }

  /** Sends what waits; one sender at a time, over all tabs. */
  flush(): Promise<void> {
    this.sending ??= this.alone(() => this.sendAll()).finally(() => {
      this.sending = null;
    });
    return this.sending;
  }

  private async alone(work: () => Promise<void>): Promise<void> {
    await navigator.locks.request(this.name, work);
  }

  private async sendAll(): Promise<void> {
    for (let next = await this.nextToSend(); next; next = await this.nextToSend()) {
      if (this.withdrawn.delete(this.idOf(next))) await this.drop(next);
      else if (!(await this.send(await this.together(next)))) return;
    }
    this.trouble.set(null);
  }

  /** An entry with the others that go with it; alone while one of them was refused. */
  private async together(first: Entry): Promise<readonly [Entry, ...Entry[]]> {
    if (this.single.delete(this.idOf(first))) return [first];
    const others = (await this.own()).filter((entry) => {
      const id = this.idOf(entry);
      const isFree = entry.refusal === null && !this.withdrawn.has(id) && !this.single.has(id);
      return isFree && id !== this.idOf(first);
    });
    return [first, ...this.goingWith(first, others)];
  }

  private async nextToSend(): Promise<Entry | undefined> {
    return (await this.own()).find(({ refusal }) => refusal === null);
  }

  /** Sends entries; false when the others must wait as well. */
  private async send(batch: readonly [Entry, ...Entry[]]): Promise<boolean> {
    const [next, ...more] = batch;
    try {
      const answer = await firstValueFrom(this.deliver(batch));
      // They leave the lists before the device: who looks between the two would count them not at all.
      const acknowledged = { ids: batch.map((sent) => this.idOf(sent)), answer };
      this.acknowledge(acknowledged);
      this.channel.postMessage(acknowledged);
      for (const sent of batch) await this.forget(sent);
      this.retryMs = FIRST_RETRY_MS;
      return true;
    } catch (error) {
      const trouble = troubleOf(error);
      const { message, isOffline } = trouble;
      if (!mayPassLater(trouble)) {
        // Of several it is not known which one is refused: each is sent by itself.
        if (more.length > 0) for (const entry of batch) this.single.add(this.idOf(entry));
        else await this.refuse(next, message);
        return true;
      }
      this.trouble.set(
        isOffline ? `No connection: ${this.what} are kept on this device and sent when it is back.` : message,
      );
      this.scheduleRetry();
      return false;
    }
  }

  /** In one turn with all of them leaving the list, so that none is ever counted twice or not at all. */
  private acknowledge({ ids, answer }: Acknowledged<Answer>): void {
    for (const id of ids) this.left.add(id);
    this.all.update((list) => list.filter((entry) => !ids.includes(this.idOf(entry))));
    this.answers.next(answer);
  }

  private async refuse(entry: Entry, refusal: string): Promise<void> {
    if (entry.order !== undefined) await this.table.update(entry.order, { refusal } as never);
    const id = this.idOf(entry);
    this.all.update((list) => list.map((one) => (this.idOf(one) === id ? { ...one, refusal } : one)));
  }

  /** Takes an entry off the device, unsent. */
  protected async drop(entry: Entry): Promise<void> {
    await this.forget(entry);
    const id = this.idOf(entry);
    this.left.add(id);
    this.all.update((list) => list.filter((one) => this.idOf(one) !== id));
  }

  private async forget({ order }: Entry): Promise<void> {
    if (order !== undefined) await this.table.delete(order);
  }

  /** Follows what is on the device for who is here, whichever tab puts it there. */
  protected follow(): void {
    this.watch?.unsubscribe();
    this.watch = liveQuery(() => this.own()).subscribe({
      next: (stored) => this.show(stored),
      error: () =>
        this.trouble.set(
          `${this.what.charAt(0).toUpperCase()}${this.what.slice(1)} cannot be kept on this device; stay on this page until they are sent.`,
        ),
    });
    void this.flush();
  }

  private show(stored: readonly Entry[]): void {
    const known = new Set(stored.map((entry) => this.idOf(entry)));
    // What was put in just now and is not on the device yet stays; what left meanwhile does not come back.
    const justAdded = this.all().filter((entry) => entry.order === undefined && !known.has(this.idOf(entry)));
    this.all.set([...stored, ...justAdded].filter((entry) => !this.left.has(this.idOf(entry))));
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
