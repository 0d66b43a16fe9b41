import { inject, Injectable, signal } from '@angular/core';
import type { Table } from 'dexie';
import type { Observable } from 'rxjs';
import { concatMap, defer, from, last, map, of, switchMap, tap } from 'rxjs';
import { TAKE_LIMITS } from '@vivid-cue/contract/take-limits';
import type { TakeForm, TakeInput, TakeView } from '@vivid-cue/contract';
import { Outbox } from './outbox';
import { TakeApi, type TakeRoutes } from './take-api';
import { ownerKey, TakeDatabase, type TakeOwner, type WaitingTake } from './take-database';

/** How much of a take has been sent. Shape: 0 to 1 */
export interface Sending {
  readonly takeId: string;
  readonly share: number;
}

/** A piece to send. */
interface Piece {
  readonly form: TakeForm;
  readonly n: number;
  readonly bytes: Blob;
}

/** Takes that were kept and are not with the server yet: sent in pieces, going on where they were. */
@Injectable({ providedIn: 'root' })
export class TakeOutbox extends Outbox<WaitingTake, string> {
  private readonly api = inject(TakeApi);
  readonly database = new TakeDatabase();
  private readonly owner = signal<TakeOwner | null>(null);
  readonly underway = signal<Sending | null>(null);

  constructor() {
    super('vivid-cue-take-outbox', 'takes');
  }

  /** Says whose takes these are; what waits of theirs is sent. */
  open(owner: TakeOwner): void {
    const known = this.owner();
    if (known && ownerKey(known) === ownerKey(owner)) return;
    this.owner.set(owner);
    this.follow();
  }

  /** Puts a take in and starts sending. */
  add(take: Omit<WaitingTake, 'owner' | 'door' | 'refusal' | 'order'>): Promise<void> {
    const owner = this.owner();
    if (!owner) throw new Error('Nobody says whose take this is; reload the page.');
    return this.put({ ...take, owner: ownerKey(owner), door: owner.door, refusal: null });
  }

  /** Sends a take that was refused once more, as when room was made. */
  async again(takeId: string): Promise<void> {
    const found = await this.find(takeId);
    if (found?.order === undefined) return;
    await this.table.update(found.order, { refusal: null } as never);
    this.follow();
  }

  /** Lets go of a take that the server will not take. */
  async letGo(takeId: string): Promise<void> {
    const found = await this.find(takeId);
    if (found) await this.drop(found);
  }

  protected get table(): Table<WaitingTake, number> {
    return this.database.waiting;
  }

  protected own(): Promise<WaitingTake[]> {
    const owner = this.owner();
    return this.database.waiting
      .where('owner')
      .equals(owner ? ownerKey(owner) : '')
      .sortBy('order');
  }

  protected idOf({ facts }: WaitingTake): string {
    return facts.id;
  }

  protected goingWith(): readonly WaitingTake[] {
    return [];
  }

  protected deliver([take]: readonly [WaitingTake, ...WaitingTake[]]): Observable<string> {
    const routes = this.api[take.door];
    const { id } = take.facts;
    return from(inputOf(take)).pipe(
      switchMap((input) => routes.create(take.facts.studentId, input)),
      switchMap((view) =>
        this.sendMissing(routes, take, view).pipe(switchMap(() => said(routes, take, view.marksVersion))),
      ),
      map(() => id),
      tap({ finalize: () => this.underway.set(null) }),
    );
  }

  private sendMissing(
    routes: TakeRoutes,
    take: WaitingTake,
    { arrived, isWhole }: TakeView,
  ): Observable<unknown> {
    if (isWhole) return of(true);
    const { id } = take.facts;
    const all = [...piecesOf('sound', take.sound), ...piecesOf('original', take.original?.file ?? null)];
    const missing = all.filter(({ form, n }) => !arrived[form].includes(n));
    return from(missing).pipe(
      concatMap((piece, sent) =>
        defer(() => {
          this.underway.set({ takeId: id, share: (all.length - missing.length + sent) / all.length });
          return routes.chunk(id, piece);
        }),
      ),
      last(undefined, null),
    );
  }

  protected close(): void {
    this.database.close();
  }
}

/** Sends what was marked and heard on this device; where somebody marked it meanwhile, theirs stands. */
function said(routes: TakeRoutes, { facts, marks, told }: WaitingTake, version: number): Observable<unknown> {
  const { taps, fine, downbeats } = marks;
  const hasMarks = taps.length + fine.length + downbeats.length > 0;
  const reading: Observable<unknown> = told ? routes.keepReading(facts.id, told) : of(null);
  if (!hasMarks || version > 1) return reading;
  return reading.pipe(switchMap(() => routes.mark(facts.id, marks, version)));
}

function piecesOf(form: TakeForm, blob: Blob | null): Piece[] {
  if (!blob) return [];
  const size = TAKE_LIMITS.chunkBytes;
  return Array.from({ length: Math.ceil(blob.size / size) }, (_, n) => ({
    ...{ form, n },
    bytes: blob.slice(n * size, (n + 1) * size),
  }));
}

async function inputOf({ facts, seconds, level, sound, original }: WaitingTake): Promise<TakeInput> {
  const { id, programPartId, sittingId, atMs, withRepeats, asked } = facts;
  return {
    ...{ id, programPartId, sittingId, at: new Date(atMs).toISOString(), seconds, level, withRepeats, asked },
    sound: await sumsOf(sound),
    original: original && { kind: original.kind, ...(await sumsOf(original.file)) },
  };
}

/** What is announced of a form. Shape: SHA-256 in hexadecimal */
async function sumsOf(blob: Blob): Promise<{ readonly bytes: number; readonly sha256: string }> {
  const hash = new Uint8Array(await crypto.subtle.digest('SHA-256', await blob.arrayBuffer()));
  return { bytes: blob.size, sha256: [...hash].map((one) => one.toString(16).padStart(2, '0')).join('') };
}
