import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { debounceTime, type Observable } from 'rxjs';
import { SheetDrafts } from '../data/sheet-drafts';
import type { SheetFields, SheetRest } from './sheet-form';

const TYPING_PAUSE_MS = 400;

/** All that stands on the desk. Shape: `version` of the sheet it was begun on, 0 for a new one */
export interface DeskState {
  readonly version: number;
  readonly newSheetId: string;
  readonly pasted: string;
  readonly isPasting: boolean;
  readonly fields: SheetFields | null;
  readonly rest: SheetRest;
}

/** What a desk says of itself. Shape: `state` is null where nothing is to be kept */
export interface KeptDesk {
  readonly sheetId: () => string | null;
  readonly state: () => DeskState | null;
  readonly changes$: Observable<unknown>;
}

/** Keeps what is typed at a desk on the device: after each pause, when the page is hidden, and when it is left. */
@Injectable()
export class DraftKeeper {
  private readonly drafts = inject(SheetDrafts);
  private readonly destroyRef = inject(DestroyRef);
  private desk: KeptDesk | null = null;

  /** When what now stands on the desk was kept. Shape: null where it was not restored */
  readonly restoredAt = signal<number | null>(null);

  follow(desk: KeptDesk): void {
    this.desk = desk;
    const keep = (): void => void this.keep();
    desk.changes$.pipe(debounceTime(TYPING_PAUSE_MS), takeUntilDestroyed(this.destroyRef)).subscribe(keep);
    document.addEventListener('visibilitychange', keep);
    this.destroyRef.onDestroy(() => {
      document.removeEventListener('visibilitychange', keep);
      keep();
    });
  }

  /** What was kept of this desk; null where nothing was. */
  async find(): Promise<DeskState | null> {
    const draft = await this.drafts.find<DeskState>(this.desk?.sheetId() ?? null);
    this.restoredAt.set(draft?.savedAt ?? null);
    return draft?.state ?? null;
  }

  /** Throws the draft away: it was saved, or is not wanted. */
  async drop(): Promise<void> {
    this.restoredAt.set(null);
    await this.drafts.drop(this.desk?.sheetId() ?? null);
  }

  private async keep(): Promise<void> {
    const state = this.desk?.state() ?? null;
    if (state !== null) await this.drafts.keep(this.desk?.sheetId() ?? null, state);
  }
}
