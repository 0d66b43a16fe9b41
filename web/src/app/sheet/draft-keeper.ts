import { computed, DestroyRef, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { catchError, debounceTime, firstValueFrom, fromEvent, map, of, Subject, type Observable } from 'rxjs';
import { DRAFT_LIMIT, type DraftView } from '@vivid-cue/contract';
import { troubleOf } from '../data/problem';
import { SheetDrafts } from '../data/sheet-drafts';
import { StudioApi } from '../data/studio-api';
import { momentText } from '../ui/texts';
import type { SheetFields, SheetRest } from './sheet-form';

const TYPING_PAUSE_MS = 400;
/** The device has every pause, the server the longer ones. */
const SENDING_PAUSE_MS = 1600;

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

/** A draft that another device or another window kept meanwhile. Units: `savedAt` in ms since 1970 */
export interface OtherDraft {
  readonly state: DeskState;
  readonly version: number;
  readonly savedAt: number;
}

/**
 * Keeps what is typed at a desk: on the device after each pause, when the page is hidden and when it is left; on the
 * server after longer ones, so that another device finds it. What another desk kept meanwhile is never written over.
 */
@Injectable()
export class DraftKeeper {
  private readonly drafts = inject(SheetDrafts);
  private readonly api = inject(StudioApi);
  private readonly destroyRef = inject(DestroyRef);
  private readonly sending = new Subject<void>();
  private desk: KeptDesk | null = null;
  private version = 0;
  /** Calls to the server follow each other, so that a draft that was dropped does not come back. */
  private last: Promise<unknown> = Promise.resolve();

  /** When what now stands on the desk was kept. Shape: null where it was not restored */
  readonly restoredAt = signal<number | null>(null);
  /** What another desk kept of the same sheet. */
  readonly other = signal<OtherDraft | null>(null);
  private readonly kept = signal<{ readonly at: number; readonly isSent: boolean } | null>(null);
  /** That what stands here is kept, in words; null before anything is. */
  readonly keptText = computed(() => {
    const kept = this.kept();
    if (!kept) return null;
    const at = momentText(kept.at);
    return kept.isSent ? `draft kept ${at}` : `draft kept on this device ${at}`;
  });

  follow(desk: KeptDesk): void {
    this.desk = desk;
    const keep = (): void => void this.keep();
    desk.changes$.pipe(debounceTime(TYPING_PAUSE_MS), takeUntilDestroyed(this.destroyRef)).subscribe(keep);
    this.sending
      .pipe(debounceTime(SENDING_PAUSE_MS), takeUntilDestroyed(this.destroyRef))
      .subscribe(() => this.send());
    fromEvent(window, 'online')
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe(() => this.send());
    const leave = (): void => {
      keep();
      this.send();
    };
    document.addEventListener('visibilitychange', leave);
    this.destroyRef.onDestroy(() => {
      document.removeEventListener('visibilitychange', leave);
      leave();
    });
  }

  /** What was kept of this desk, here or on the server; null where nothing was. */
  async find(): Promise<DeskState | null> {
    const [local, remote] = await Promise.all([
      this.drafts.find<DeskState>(this.desk?.sheetId() ?? null),
      this.readServer(),
    ]);
    if (!local && !remote) return null;
    const isElsewhere = remote !== null && remote.version !== (local?.version ?? 0);
    if (remote && (!local || (isElsewhere && local.isSent))) {
      this.version = remote.version;
      this.restoredAt.set(remote.savedAt);
      return remote.state;
    }
    this.version = local?.version ?? 0;
    this.restoredAt.set(local?.savedAt ?? null);
    if (isElsewhere) this.other.set(remote);
    return local?.state ?? null;
  }

  /** Goes on with what another desk kept, or keeps what stands here over it. Shape: what is then to stand, null for this */
  settle(isTaken: boolean): DeskState | null {
    const other = this.other();
    this.other.set(null);
    if (!other) return null;
    this.version = other.version;
    if (isTaken) return other.state;
    void this.keep();
    this.send();
    return null;
  }

  /** Throws the draft away: it was saved, or is not wanted. */
  async drop(): Promise<void> {
    this.restoredAt.set(null);
    this.other.set(null);
    this.kept.set(null);
    this.version = 0;
    await this.drafts.drop(this.desk?.sheetId() ?? null);
    void this.inTurn(() => this.api.dropSheetDraft(this.place()));
  }

  private async keep(): Promise<void> {
    const state = this.desk?.state() ?? null;
    if (state === null) return;
    const { version } = this;
    await this.drafts.keep(this.desk?.sheetId() ?? null, { state, version, isSent: false });
    this.kept.set({ at: Date.now(), isSent: false });
    this.sending.next();
  }

  private send(): void {
    const state = this.desk?.state() ?? null;
    const text = state === null ? '' : JSON.stringify(state);
    if (state === null || text.length > DRAFT_LIMIT || this.other() !== null) return;
    const sheetId = this.desk?.sheetId() ?? null;
    const place = this.place();
    void this.inTurn(async () => {
      try {
        const version = Math.max(1, this.version);
        const draft = await firstValueFrom(this.api.keepSheetDraft(place, version, text));
        this.version = draft.version;
        await this.drafts.keep(sheetId, { state, version: draft.version, isSent: true });
        this.kept.set({ at: Date.now(), isSent: true });
      } catch (error) {
        // Away or busy: it stands on the device, and is sent with the next change or when the server is back.
        const trouble = troubleOf(error);
        if (trouble.code === 'version-stale') this.other.set(readable(trouble.current as DraftView | null));
      }
    });
  }

  private inTurn(call: () => Promise<unknown> | Observable<unknown>): Promise<unknown> {
    const done = this.last.then(async () => {
      const made = call();
      await (made instanceof Promise ? made : firstValueFrom(made.pipe(catchError(() => of(null)))));
    });
    this.last = done.catch(() => undefined);
    return this.last;
  }

  private readServer(): Promise<OtherDraft | null> {
    return firstValueFrom(
      this.api.sheetDraft(this.place()).pipe(
        map(({ draft }) => readable(draft)),
        catchError(() => of(null)),
      ),
    );
  }

  /** The draft of a new sheet goes under the studio's own identifier. */
  private place(): string {
    return this.desk?.sheetId() ?? this.drafts.studioId();
  }
}

/** A draft of the server as a desk has it. Shape: null where it cannot be read */
function readable(draft: DraftView | null): OtherDraft | null {
  if (!draft) return null;
  try {
    return {
      state: JSON.parse(draft.state) as DeskState,
      version: draft.version,
      savedAt: draft.savedAt,
    };
  } catch {
    return null;
  }
}
