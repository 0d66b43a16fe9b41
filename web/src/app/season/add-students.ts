import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  output,
  signal,
} from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Textarea } from 'primeng/textarea';
import { catchError, map, of, switchMap, type Observable } from 'rxjs';
import { v7 as newId } from 'uuid';
import type { SheetLine, StudentView } from '@vivid-cue/contract';
import { troubleOf } from '../data/problem';
import { StudioApi } from '../data/studio-api';
import { InstrumentList } from '../ui/instrument-list';
import { ProblemNote } from '../ui/problem-note';
import { readStudentLines } from './student-lines';

/** No roster is larger. Units: bytes (our own) */
const MOST_BYTES = 1_000_000;

/** Several students from a pasted list or a roster, with the sheet that is for all. */
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
        <label class="from-file"
          >Or read a roster (CSV)
          <input type="file" accept=".csv,.tsv,.txt,text/csv" (change)="readRoster($event)" />
        </label>
      </div>
      @if (sheets().length > 0) {
        <div class="field">
          <label for="sheet-for-all">Sheet for all of them</label>
          <select id="sheet-for-all" name="sheet" [ngModel]="sheetId()" (ngModelChange)="sheetId.set($event)">
            <option value="">none yet</option>
            @for (sheet of sheets(); track sheet.id) {
              <option [value]="sheet.id">{{ sheet.title }}, {{ sheet.instrument }}</option>
            }
          </select>
        </div>
      }
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
    .from-file {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      align-items: center;
      font-weight: 400;
    }
    .from-file input {
      width: auto;
    }
    select {
      min-height: 40px;
      padding: 0 10px;
      border: 1px solid var(--rule-strong);
      border-radius: 4px;
      background: var(--sheet);
      color: var(--ink);
      font: 400 16px var(--font-text);
    }
  `,
})
export class AddStudents {
  private readonly api = inject(StudioApi);
  private readonly destroyRef = inject(DestroyRef);
  /** The identifiers of a list that was sent and not answered: sent again, they make the same students. */
  private sent: { readonly text: string; readonly ids: readonly string[] } | null = null;

  private readonly programIds = new Map<string, string>();

  /** How many were added. */
  readonly added = output<number>();
  readonly closed = output<void>();

  protected readonly text = signal('');
  protected readonly instrument = signal('');
  protected readonly sheetId = signal('');
  protected readonly sheets = toSignal(
    inject(StudioApi)
      .sheets()
      .pipe(catchError(() => of<SheetLine[]>([]))),
    {
      initialValue: [],
    },
  );
  protected readonly isBusy = signal(false);
  protected readonly failure = signal<string | null>(null);
  private readonly lines = computed(() => readStudentLines(this.text(), this.instrument()));
  protected readonly missing = computed(() => this.lines().withoutInstrument.join(', ') || null);
  protected readonly isReady = computed(() => this.lines().students.length > 0 && this.missing() === null);
  protected readonly label = computed(() => {
    const count = this.lines().students.length;
    return count === 0 ? 'Add them' : `Add ${count} ${count === 1 ? 'student' : 'students'}`;
  });

  protected async readRoster(event: Event): Promise<void> {
    const input = event.target as HTMLInputElement;
    const [file] = input.files ?? [];
    input.value = '';
    if (!file) return;
    if (file.size > MOST_BYTES) {
      this.failure.set('A roster of students is a small table; this file is larger than 1 MB.');
      return;
    }
    const { rosterLines } = await import('./roster-csv');
    const lines = rosterLines(await file.text());
    this.failure.set(lines === '' ? `There is no name in ${file.name}.` : null);
    // What was typed stays; the list is looked over before it is added.
    this.text.update((text) => [text.trimEnd(), lines].filter((part) => part !== '').join('\n'));
  }

  /** Gives the sheet to those who were added. Shape: how many they are */
  private withSheet(students: readonly StudentView[]): Observable<number> {
    const sheetId = this.sheetId();
    if (sheetId === '') return of(students.length);
    const programs = students.map((student) => ({ id: this.programIdOf(student.id), studentId: student.id }));
    return this.api.addPrograms(sheetId, { programs }).pipe(map(() => students.length));
  }

  /** Sent again, a list makes the same programs. */
  private programIdOf(studentId: string): string {
    const known = this.programIds.get(studentId) ?? newId();
    this.programIds.set(studentId, known);
    return known;
  }

  protected submit(): void {
    const { students } = this.lines();
    if (!this.isReady() || this.isBusy()) return;
    this.isBusy.set(true);
    const key = JSON.stringify(students);
    if (this.sent?.text !== key) this.sent = { text: key, ids: students.map(() => newId()) };
    const { ids } = this.sent;
    this.api
      .addStudents({ students: students.map((student, n) => ({ id: ids[n] ?? newId(), ...student })) })
      .pipe(
        switchMap((list) => this.withSheet(list)),
        takeUntilDestroyed(this.destroyRef),
      )
      .subscribe({
        next: (count) => this.added.emit(count),
        error: (error: unknown) => {
          this.isBusy.set(false);
          this.failure.set(troubleOf(error).message);
        },
      });
  }
}
