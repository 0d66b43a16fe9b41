import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { forkJoin } from 'rxjs';
import { v7 as newId } from 'uuid';
import { instrumentKey } from '@vivid-cue/core/sheet';
import type { SheetLine, StudentView } from '@vivid-cue/contract';
import { troubleOf } from '../data/problem';
import { StudioApi } from '../data/studio-api';
import { ProblemNote } from '../ui/problem-note';

/** A student in the list to choose from. */
interface Candidate extends StudentView {
  readonly hasIt: boolean;
}

/** Gives one sheet to many students; who plays an instrument of the sheet is ticked already. */
@Component({
  selector: 'vc-give-sheet',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, Dialog, ProblemNote],
  template: `
    <p-dialog
      closeAriaLabel="Close"
      header="Give this sheet"
      [modal]="true"
      [draggable]="false"
      [visible]="sheet() !== null"
      (visibleChange)="closed.emit()"
      [style]="{ width: '480px', maxWidth: '94vw' }"
    >
      @if (sheet(); as sheet) {
        <p class="soft">{{ sheet.title }}</p>
        <vc-problem-note [message]="failure()" />
        <ul>
          @for (student of candidates(); track student.id) {
            <li>
              <label>
                <input
                  type="checkbox"
                  [checked]="student.hasIt || picked().has(student.id)"
                  [disabled]="student.hasIt"
                  (change)="pick(student.id)"
                />
                <span>{{ student.name }}</span>
                <span class="soft small">{{ student.hasIt ? 'has it' : student.instrument }}</span>
              </label>
            </li>
          } @empty {
            <li class="soft">No students yet; add them in the season.</li>
          }
        </ul>
        <div class="buttons">
          <p-button label="Cancel" severity="secondary" [text]="true" (onClick)="closed.emit()" />
          <p-button
            [label]="label()"
            [disabled]="picked().size === 0"
            [loading]="isBusy()"
            (onClick)="give()"
          />
        </div>
      }
    </p-dialog>
  `,
  styles: `
    ul {
      max-height: 50vh;
      margin: 12px 0;
      padding: 0;
      overflow: auto;
      list-style: none;
    }
    label {
      display: grid;
      grid-template-columns: 24px minmax(0, 1fr) auto;
      gap: 10px;
      align-items: center;
      min-height: 36px;
    }
    input {
      width: 18px;
      height: 18px;
      accent-color: var(--primary);
    }
  `,
})
export class GiveSheet {
  private readonly api = inject(StudioApi);
  private readonly destroyRef = inject(DestroyRef);

  /** The sheet to give; null while the dialog is closed. */
  readonly sheet = input<SheetLine | null>(null);
  readonly closed = output<void>();
  /** How many got it. */
  readonly given = output<number>();

  protected readonly candidates = signal<readonly Candidate[]>([]);
  protected readonly picked = signal<ReadonlySet<string>>(new Set());
  protected readonly isBusy = signal(false);
  protected readonly failure = signal<string | null>(null);
  protected readonly label = computed(() => {
    const count = this.picked().size;
    return count === 0 ? 'Give it' : `Give it to ${count} ${count === 1 ? 'student' : 'students'}`;
  });

  constructor() {
    effect(() => {
      const sheet = this.sheet();
      if (sheet) this.load(sheet);
    });
  }

  private load({ id, instrument }: SheetLine): void {
    this.failure.set(null);
    const own = new Set(instrument.split(/\s*[,;]\s*/u).map((name) => instrumentKey(name)));
    forkJoin([this.api.season(), this.api.sheetPrograms(id)])
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: ([{ rows }, programs]) => {
          const have = new Set(programs.map(({ studentId }) => studentId));
          const students = rows
            .map(({ student }) => ({ ...student, hasIt: have.has(student.id) }))
            .sort((a, b) => a.name.localeCompare(b.name));
          const fitting = students.filter(
            (student) => !student.hasIt && own.has(instrumentKey(student.instrument)),
          );
          this.candidates.set(students);
          this.picked.set(new Set(fitting.map((student) => student.id)));
        },
        error: (error: unknown) => this.failure.set(troubleOf(error).message),
      });
  }

  protected pick(id: string): void {
    this.picked.update((picked) => {
      const next = new Set(picked);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  }

  protected give(): void {
    const sheet = this.sheet();
    if (!sheet || this.isBusy()) return;
    const programs = [...this.picked()].map((studentId) => ({ id: newId(), studentId }));
    this.isBusy.set(true);
    this.api
      .addPrograms(sheet.id, { programs })
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: () => {
          this.isBusy.set(false);
          this.given.emit(programs.length);
        },
        error: (error: unknown) => {
          this.isBusy.set(false);
          this.failure.set(troubleOf(error).message);
        },
      });
  }
}
