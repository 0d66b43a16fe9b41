import { DestroyRef, inject, Injectable } from '@angular/core';
import Dexie, { type Table } from 'dexie';
import { SessionStore } from './session-store';

/** What was entered at a desk and not saved. Shape: `sheetId` null for a new sheet; `savedAt` in ms since 1970 */
export interface StoredDraft<State> {
  readonly studioId: string;
  readonly sheetId: string | null;
  readonly savedAt: number;
  readonly state: State;
  /** The version on the server that it goes on from; 0 where none is known. */
  readonly version: number;
  /** Whether the server has it. */
  readonly isSent: boolean;
}

/** What is kept of a desk. */
export type DraftToKeep<State> = Pick<StoredDraft<State>, 'state' | 'version' | 'isSent'>;

class DraftDatabase extends Dexie {
  readonly drafts!: Table<StoredDraft<unknown> & { readonly key: string }, string>;

  constructor() {
    super('vivid-cue-drafts');
    this.version(1).stores({ drafts: 'key' });
  }
}

/**
 * Keeps on this device what was entered at a sheet's desk and not saved yet, for each studio its own. A device that
 * keeps nothing (a private window, no room) only means that there is no draft.
 */
@Injectable({ providedIn: 'root' })
export class SheetDrafts {
  private readonly session = inject(SessionStore);
  private readonly database = new DraftDatabase();
  /** Writes follow each other, so that a draft that was dropped does not come back. */
  private last: Promise<unknown> = Promise.resolve();

  constructor() {
    inject(DestroyRef).onDestroy(() => void this.last.finally(() => this.database.close()));
  }

  /** The draft of a sheet, or of a new one. */
  async find<State>(sheetId: string | null): Promise<StoredDraft<State> | null> {
    await this.last;
    const found = await this.database.drafts.get(this.keyOf(sheetId)).catch(() => undefined);
    return (found as StoredDraft<State> | undefined) ?? null;
  }

  keep(sheetId: string | null, draft: DraftToKeep<unknown>): Promise<void> {
    const [key, studioId] = [this.keyOf(sheetId), this.studioId()];
    return this.inTurn(() =>
      this.database.drafts.put({ key, studioId, sheetId, savedAt: Date.now(), ...draft }),
    );
  }

  drop(sheetId: string | null): Promise<void> {
    const key = this.keyOf(sheetId);
    return this.inTurn(() => this.database.drafts.delete(key));
  }

  private inTurn(write: () => Promise<unknown>): Promise<void> {
    const done = this.last.then(write).then(
      () => undefined,
      () => undefined,
    );
    this.last = done;
    return done;
  }

  /** The studio, under which the draft of a new sheet goes. */
  studioId(): string {
    return this.session.instructor()?.studioId ?? '';
  }

  private keyOf(sheetId: string | null): string {
    return `${this.studioId()}/${sheetId ?? 'new'}`;
  }
}
