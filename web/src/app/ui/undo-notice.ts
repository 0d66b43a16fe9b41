import { inject, Injectable } from '@angular/core';
import { MessageService } from 'primeng/api';
import type { Observable } from 'rxjs';
import { troubleOf } from '../data/problem';

/** Something that was removed and can come back. */
export interface Undoable {
  /** What was done: "sixteenths, low removed". */
  readonly done: string;
  readonly detail?: string;
  /** What it is once that is taken back: "sixteenths, low is there again". */
  readonly undone: string;
  /** Takes it back. */
  readonly undo: () => Observable<unknown>;
  /** Called when it is back. */
  readonly back: () => void;
}

const SHOWN_MS = 12_000;

/** Notices with Undo; each names the state that holds when it is read. */
@Injectable({ providedIn: 'root' })
export class UndoNotice {
  private readonly messages = inject(MessageService);

  /** Says what was done and offers to take it back; then says that it was, or why it could not be. */
  offer({ done, detail, undone, undo, back }: Undoable): void {
    this.messages.clear();
    this.messages.add({
      severity: 'secondary',
      summary: done,
      ...(detail !== undefined && { detail }),
      life: SHOWN_MS,
      data: {
        undo: () =>
          undo().subscribe({
            next: () => {
              back();
              this.messages.add({ severity: 'secondary', summary: `Taken back: ${undone}`, life: 5_000 });
            },
            error: (error: unknown) =>
              this.messages.add({
                severity: 'error',
                summary: 'Not taken back',
                detail: troubleOf(error).message,
                life: SHOWN_MS,
              }),
          }),
      },
    });
  }
}
