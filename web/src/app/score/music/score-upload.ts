import { ChangeDetectionStrategy, Component, DestroyRef, inject, input, output, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Button } from 'primeng/button';
import { v7 as newId } from 'uuid';
import type { MeasureDigest } from '@vivid-cue/core/score';
import type { ScoreRoomView } from '@vivid-cue/contract';
import { troubleOf } from '../../data/problem';
import { ScoreApi } from '../../data/score-api';
import { ScoreReaderClient } from '../../data/score-reader';
import { SessionStore } from '../../data/session-store';
import { ProblemNote } from '../../ui/problem-note';
import { DifferenceNote } from './difference-note';

const MAX_BYTES = 10 * 1024 * 1024;

/** Takes a score file, by choosing or dropping it. */
@Component({
  selector: 'vc-score-upload',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, DifferenceNote, ProblemNote],
  template: `
    <div
      class="drop"
      [class.is-over]="isOver()"
      (dragover)="over($event)"
      (dragleave)="isOver.set(false)"
      (drop)="drop($event)"
    >
      <input
        #chooser
        class="visually-hidden"
        type="file"
        accept=".musicxml,.xml,.mxl,.abc"
        tabindex="-1"
        aria-label="Score file"
        (change)="choose(chooser)"
      />
      <h3>A digital score</h3>
      <p class="soft">
        MusicXML as notation programs export it (.musicxml, .xml, .mxl), up to 10 MB, or ABC notation (.abc).
        Drop it here, or
      </p>
      <p-button
        [label]="fileName() ? 'Choose another file' : 'Choose a file'"
        icon="pi pi-upload"
        [loading]="isBusy()"
        (onClick)="chooser.click()"
      />
      @if (found(); as measures) {
        <div class="failure">
          <vc-difference-note
            [before]="before() ?? []"
            [after]="measures"
            [vocabulary]="session.vocabulary()"
          />
          <p-button [label]="'Replace by ' + fileName()" [loading]="isBusy()" (onClick)="send()" />
        </div>
      }
      @if (failure()) {
        <div class="failure">
          <vc-problem-note [message]="failure()" />
          @if (canRetry()) {
            <p-button
              [label]="'Send ' + fileName() + ' again'"
              severity="secondary"
              [outlined]="true"
              (onClick)="send()"
            />
          }
        </div>
      }
    </div>
  `,
  styles: `
    .drop {
      padding: 24px;
      border: 2px dashed var(--rule-strong);
      border-radius: 6px;
    }
    .drop.is-over {
      border-color: var(--primary);
    }
    .soft {
      margin: 6px 0 14px;
    }
    .failure {
      display: flex;
      flex-direction: column;
      align-items: flex-start;
      gap: 10px;
      margin-top: 16px;
    }
  `,
})
export class ScoreUpload {
  private readonly api = inject(ScoreApi);
  private readonly reader = inject(ScoreReaderClient);
  protected readonly session = inject(SessionStore);
  private readonly destroyRef = inject(DestroyRef);
  private file: File | null = null;
  private id = newId();

  readonly programPartId = input.required<string>();
  /** The measures that are there; null where none are. */
  readonly before = input<readonly MeasureDigest[] | null>(null);
  readonly instrument = input('');
  readonly uploaded = output<ScoreRoomView>();
  /** Pages were dropped, not a digital score. */
  readonly pages = output<readonly File[]>();

  protected readonly isOver = signal(false);
  protected readonly isBusy = signal(false);
  /** The measures of the file that was chosen, to be compared. */
  protected readonly found = signal<readonly MeasureDigest[] | null>(null);
  protected readonly failure = signal<string | null>(null);
  protected readonly canRetry = signal(false);
  protected readonly fileName = signal('');

  protected over(event: DragEvent): void {
    event.preventDefault();
    this.isOver.set(true);
  }

  protected drop(event: DragEvent): void {
    event.preventDefault();
    this.isOver.set(false);
    const files = [...(event.dataTransfer?.files ?? [])];
    const [file] = files;
    // Pages belong on the other side: what is dropped here by mistake goes there.
    if (files.length > 1 || file?.type.startsWith('image/') === true || file?.type === 'application/pdf')
      this.pages.emit(files);
    else if (file) this.take(file);
  }

  protected choose(chooser: HTMLInputElement): void {
    const file = chooser.files?.[0];
    chooser.value = '';
    if (file) this.take(file);
  }

  private take(file: File): void {
    this.file = file;
    this.id = newId();
    this.fileName.set(file.name);
    this.canRetry.set(false);
    this.found.set(null);
    if (file.size > MAX_BYTES) {
      this.failure.set(
        `A score file has at most 10 MB; ${file.name} has ${(file.size / 1048576).toFixed(1)} MB.`,
      );
      return;
    }
    if (this.before()) void this.compare(file);
    else this.send();
  }

  /** What would change is shown before it does. */
  private async compare(file: File): Promise<void> {
    this.isBusy.set(true);
    this.failure.set(null);
    const bytes = await file.arrayBuffer();
    this.reader
      .outline({ kind: 'outline', bytes, instrument: this.instrument() })
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe((news) => {
        if ('step' in news) return;
        this.isBusy.set(false);
        // A file that cannot be read here is sent: the server's sentence is the better one.
        if ('result' in news) this.found.set(news.result.measures);
        else this.send();
      });
  }

  protected send(): void {
    if (!this.file || this.isBusy()) return;
    this.isBusy.set(true);
    this.failure.set(null);
    this.api
      .upload(this.programPartId(), this.id, this.file)
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: (room) => {
          this.isBusy.set(false);
          this.uploaded.emit(room);
        },
        error: (error: unknown) => {
          const trouble = troubleOf(error);
          this.isBusy.set(false);
          this.failure.set(trouble.message);
          this.canRetry.set(trouble.isOffline);
        },
      });
  }
}
