import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  output,
  signal,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Textarea } from 'primeng/textarea';
import { v7 as newId } from 'uuid';
import { troubleOf } from '../data/problem';
import { StudioApi } from '../data/studio-api';
import { InstrumentList } from '../ui/instrument-list';
import { ProblemNote } from '../ui/problem-note';
import { readStudentLines } from './student-lines';

/** Several students from a pasted list. */
@Component({
  selector: 'vc-add-students',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, FormsModule, InputText, InstrumentList, ProblemNote, Textarea],
  template: `
    <form (ngSubmit)="submit()">
      <vc-problem-note [message]="failure()" />
      <div class="field">
        <label for="student-lines">One student a line</label>
        <textarea
          pTextarea
          id="student-lines"
          name="lines"
          rows="9"
          spellcheck="false"
          placeholder="Ilse Vantongeren, clarinet"
          [ngModel]="text()"
          (ngModelChange)="text.set($event)"
        ></textarea>
        <span class="hint">A name, then a comma or tab and the instrument; or paste names alone.</span>
      </div>
      <div class="field">
        <label for="instrument-for-all">Instrument of those who have none</label>
        <input
          pInputText
          id="instrument-for-all"
          name="instrument"
          maxlength="60"
          list="instruments-for-all"
          autocomplete="off"
          [ngModel]="instrument()"
          (ngModelChange)="instrument.set($event)"
        />
        <vc-instrument-list listId="instruments-for-all" />
      </div>
      @if (missing(); as names) {
        <p class="wrong" role="status">No instrument yet: {{ names }}</p>
      }
      <div class="buttons">
        <p-button label="Cancel" type="button" severity="secondary" [text]="true" (onClick)="closed.emit()" />
        <p-button [label]="label()" type="submit" [disabled]="!isReady()" [loading]="isBusy()" />
      </div>
    </form>
  `,
  styles: `
    form {
      display: flex;
      flex-direction: column;
      gap: 16px;
    }
  `,
})
export class AddStudents {
  private readonly api = inject(StudioApi);
  private readonly destroyRef = inject(DestroyRef);
  /** The identifiers of a list that was sent and not answered: sent again, they make the same students. */
  private sent: { readonly text: string; readonly ids: readonly string[] } | null = null;

  /** How many were added. */
  readonly added = output<number>();
  readonly closed = output<void>();

  protected readonly text = signal('');
  protected readonly instrument = signal('');
  protected readonly isBusy = signal(false);
  protected readonly failure = signal<string | null>(null);
  private readonly lines = computed(() => readStudentLines(this.text(), this.instrument()));
  protected readonly missing = computed(() => this.lines().withoutInstrument.join(', ') || null);
  protected readonly isReady = computed(() => this.lines().students.length > 0 && this.missing() === null);
  protected readonly label = computed(() => {
    const count = this.lines().students.length;
    return count === 0 ? 'Add them' : `Add ${count} ${count === 1 ? 'student' : 'students'}`;
  });

  protected submit(): void {
    const { students } = this.lines();
    if (!this.isReady() || this.isBusy()) return;
    this.isBusy.set(true);
    const key = JSON.stringify(students);
    if (this.sent?.text !== key) this.sent = { text: key, ids: students.map(() => newId()) };
    const { ids } = this.sent;
    this.api
      .addStudents({ students: students.map((student, n) => ({ id: ids[n] ?? newId(), ...student })) })
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: (list) => this.added.emit(list.length),
        error: (error: unknown) => {
          this.isBusy.set(false);
          this.failure.set(troubleOf(error).message);
        },
      });
  }
}
