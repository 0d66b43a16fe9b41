import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  inject,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { RecordReadView } from '@vivid-cue/contract';
import { RECORD_BYTES, RECORD_TOO_LARGE } from '@vivid-cue/contract/record-limits';
import { Button } from 'primeng/button';
import { v7 as newId } from 'uuid';
import { troubleOf } from '../data/problem';
import { StudioApi } from '../data/studio-api';
import { ProblemNote } from '../ui/problem-note';

/** A student from a record that was exported before, here or in another studio. */
@Component({
  selector: 'vc-read-record',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, ProblemNote],
  template: `
    <vc-problem-note [message]="failure()" />
    <p>
      The file that <em>Export</em> on a student’s page gives: name, programs, scores, passages, reps and cues
      come back, and readiness is counted anew from the reps. Calendar addresses stay behind.
    </p>
    <label class="visually-hidden" for="record-file">Record of a student</label>
    <input
      #file
      id="record-file"
      type="file"
      accept=".json,application/json"
      hidden
      (change)="read(file.files)"
    />
    <div class="buttons">
      <p-button label="Cancel" type="button" severity="secondary" [text]="true" (onClick)="closed.emit()" />
      <p-button
        [label]="isBusy() ? 'Reading the record' : 'Choose the file'"
        type="button"
        [loading]="isBusy()"
        (onClick)="file.click()"
      />
    </div>
  `,
})
export class ReadRecord {
  private readonly api = inject(StudioApi);
  private readonly destroyRef = inject(DestroyRef);
  private readonly input = viewChild.required<ElementRef<HTMLInputElement>>('file');

  /** A record that is sent again, because the answer did not come, makes the same student. */
  private readonly studentId = newId();

  readonly taken = output<RecordReadView>();
  readonly closed = output<void>();
  protected readonly isBusy = signal(false);
  protected readonly failure = signal<string | null>(null);

  protected read(files: FileList | null): void {
    const [file] = files ?? [];
    if (!file || this.isBusy()) return;
    if (file.size > RECORD_BYTES) {
      this.refused(RECORD_TOO_LARGE);
      return;
    }
    this.isBusy.set(true);
    this.failure.set(null);
    this.api
      .readRecord(this.studentId, file)
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: (record) => this.taken.emit(record),
        error: (error: unknown) => {
          this.refused(troubleOf(error).message);
        },
      });
  }

  private refused(message: string): void {
    this.isBusy.set(false);
    this.failure.set(message);
    // The same file may be chosen again.
    this.input().nativeElement.value = '';
  }
}
