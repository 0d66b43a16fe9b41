import { effect, inject, Injectable } from '@angular/core';
import Dexie, { type Table } from 'dexie';
import type { Observable } from 'rxjs';
import { v7 as newId } from 'uuid';
import type { PassageView, RepInput } from '@vivid-cue/contract';
import { MOST_REPS } from '@vivid-cue/contract/rep-limits';
import type { Bpm } from '@vivid-cue/core/music';
import { Outbox, type Waiting } from './outbox';
import { ScoreApi } from './score-api';
import { SessionStore } from './session-store';

/** A rep that waits for its answer. */
export interface WaitingRep extends Waiting {
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
    this.version(2)
      .stores({ reps: '++order, studioId' })
      .upgrade((change) => change.table('reps').toCollection().modify({ refusal: null }));
  }
}

/** The instructor's reps: those of a passage that waited together go in one request. */
@Injectable({ providedIn: 'root' })
export class RepOutbox extends Outbox<WaitingRep, PassageView> {
  private readonly api = inject(ScoreApi);
  private readonly session = inject(SessionStore);
  private readonly database = new OutboxDatabase();

  constructor() {
    super('vivid-cue-outbox', 'reps');
    effect(() => {
      if (this.session.instructor() !== null) this.follow();
    });
  }

  /** Puts a rep in and starts sending. */
  add(passageId: string, rep: RepInput): Promise<void> {
    return this.put({ studioId: this.studioId(), passageId, rep, refusal: null });
  }

  /** Sends a refused rep once more, under a new identifier and at another tempo where one is given. */
  async mend(repId: string, bpm?: Bpm): Promise<void> {
    const found = await this.find(repId);
    if (!found) return;
    await this.drop(found);
    await this.add(found.passageId, { ...found.rep, id: newId(), bpm: bpm ?? found.rep.bpm });
  }

  protected get table(): Table<WaitingRep, number> {
    return this.database.reps;
  }

  protected own(): Promise<WaitingRep[]> {
    return this.database.reps.where('studioId').equals(this.studioId()).sortBy('order');
  }

  protected idOf({ rep }: WaitingRep): string {
    return rep.id;
  }

  protected goingWith(first: WaitingRep, others: readonly WaitingRep[]): readonly WaitingRep[] {
    return others.filter(({ passageId }) => passageId === first.passageId).slice(0, MOST_REPS - 1);
  }

  protected deliver(batch: readonly [WaitingRep, ...WaitingRep[]]): Observable<PassageView> {
    const [{ passageId, rep }, ...more] = batch;
    if (more.length === 0) return this.api.logRep(passageId, rep);
    return this.api.logReps(
      passageId,
      batch.map((one) => one.rep),
    );
  }

  protected close(): void {
    this.database.close();
  }

  private studioId(): string {
    return this.session.instructor()?.studioId ?? '';
  }
}
