import { inject, Injectable, signal } from '@angular/core';
import Dexie, { type Table } from 'dexie';
import { map, type Observable } from 'rxjs';
import type {
  DeskNoteInput,
  DeskView,
  PassageView,
  RepInput,
  SurpriseInput,
  TaskTick,
  UnitInput,
} from '@vivid-cue/contract';
import { MOST_REPS } from '@vivid-cue/contract/rep-limits';
import { DeskApi } from './desk-api';
import { Outbox, type Waiting } from './outbox';

/** What a student does that the server is to know. */
export type DeskDeed =
  | { readonly kind: 'rep'; readonly id: string; readonly passageId: string; readonly rep: RepInput }
  | { readonly kind: 'taken-back'; readonly id: string; readonly repId: string; readonly passageId: string }
  | {
      readonly kind: 'surprise';
      readonly id: string;
      readonly passageId: string;
      readonly surprise: SurpriseInput;
    }
  | { readonly kind: 'note'; readonly id: string; readonly note: DeskNoteInput }
  | { readonly kind: 'unit'; readonly id: string; readonly unit: UnitInput }
  | { readonly kind: 'task'; readonly id: string; readonly tick: TaskTick };

/** A deed that waits for its answer. */
export interface WaitingDeed extends Waiting {
  readonly studentId: string;
  readonly deed: DeskDeed;
}

/** A student's desk as it was last read, and how it is entered again. */
export interface KeptDesk {
  readonly linkId: string;
  readonly code: string;
  readonly view: DeskView;
}

/** A file that the desk shows without a connection. */
export interface KeptFile {
  readonly id: string;
  readonly bytes: ArrayBuffer | Blob;
}

/** What the desk keeps on this device. */
export class DeskDatabase extends Dexie {
  readonly deeds!: Table<WaitingDeed, number>;
  readonly desks!: Table<KeptDesk, string>;
  readonly files!: Table<KeptFile, string>;

  constructor() {
    super('vivid-cue-desk');
    this.version(1).stores({ deeds: '++order, studentId', desks: 'linkId', files: 'id' });
  }
}

/** The student's deeds, in their order; reps of one passage that follow each other go in one request. */
@Injectable({ providedIn: 'root' })
export class DeskOutbox extends Outbox<WaitingDeed, PassageView | null> {
  private readonly api = inject(DeskApi);
  readonly database = new DeskDatabase();
  private readonly studentId = signal('');

  constructor() {
    super('vivid-cue-desk-outbox', 'reps and notes');
  }

  /** Says whose desk this is; what waits of theirs is sent. */
  open(studentId: string): void {
    this.studentId.set(studentId);
    this.follow();
  }

  /** Puts a deed in and starts sending. */
  add(deed: DeskDeed): Promise<void> {
    return this.put({ studentId: this.studentId(), deed, refusal: null });
  }

  /** Lets go of a deed that the server will not take. */
  async letGo(id: string): Promise<void> {
    const found = await this.find(id);
    if (found) await this.drop(found);
  }

  protected get table(): Table<WaitingDeed, number> {
    return this.database.deeds;
  }

  protected own(): Promise<WaitingDeed[]> {
    return this.database.deeds.where('studentId').equals(this.studentId()).sortBy('order');
  }

  protected idOf({ deed }: WaitingDeed): string {
    return deed.id;
  }

  protected goingWith({ deed }: WaitingDeed, others: readonly WaitingDeed[]): readonly WaitingDeed[] {
    if (deed.kind !== 'rep') return [];
    // What takes a rep back must come after it, and nothing is sent before what it rests on.
    const end = others.findIndex(
      ({ deed: next }) => next.kind !== 'rep' || next.passageId !== deed.passageId,
    );
    return others.slice(0, end < 0 ? MOST_REPS - 1 : Math.min(end, MOST_REPS - 1));
  }

  protected deliver(batch: readonly [WaitingDeed, ...WaitingDeed[]]): Observable<PassageView | null> {
    const [{ deed }] = batch;
    switch (deed.kind) {
      case 'rep':
        return this.api.logReps(
          deed.passageId,
          batch.flatMap(({ deed: one }) => (one.kind === 'rep' ? [one.rep] : [])),
        );
      case 'taken-back':
        return this.api.takeBack(deed.repId);
      case 'surprise':
        return this.api.flag(deed.passageId, deed.surprise).pipe(map(() => null));
      case 'task':
        return this.api.tick(deed.tick).pipe(map(() => null));
      case 'unit':
        return this.api.keepUnit(deed.unit).pipe(map(() => null));
      case 'note':
        return this.api.note(deed.note).pipe(map(() => null));
    }
  }

  protected close(): void {
    this.database.close();
  }
}
