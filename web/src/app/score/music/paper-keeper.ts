import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { v7 as newId } from 'uuid';
import type { PaperMusic } from '@vivid-cue/core/paper';
import type { ScoreRoomView } from '@vivid-cue/contract';
import { troubleOf } from '../../data/problem';
import { ScoreApi } from '../../data/score-api';

/** Keeps music on paper, however it was told: one at a time, with what went wrong in a sentence. */
@Injectable()
export class PaperKeeper {
  private readonly api = inject(ScoreApi);
  private readonly destroyRef = inject(DestroyRef);

  readonly isBusy = signal(false);
  readonly failure = signal<string | null>(null);

  /** Sends the music; `done` is told the room with it. */
  keep(programPartId: string, paper: PaperMusic, done: (room: ScoreRoomView) => void): void {
    if (this.isBusy()) return;
    this.isBusy.set(true);
    this.failure.set(null);
    this.api
      .keepPaper(programPartId, newId(), paper)
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: (room) => {
          this.isBusy.set(false);
          done(room);
        },
        error: (error: unknown) => {
          this.isBusy.set(false);
          this.failure.set(troubleOf(error).message);
        },
      });
  }
}
