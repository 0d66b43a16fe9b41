import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  type OnInit,
  signal,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { ReactiveFormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { MessageService } from 'primeng/api';
import { Button, ButtonDirective } from 'primeng/button';
import { InputNumber } from 'primeng/inputnumber';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import { of, switchMap, type Observable } from 'rxjs';
import { v7 as newId } from 'uuid';
import { parseTempo } from '@vivid-cue/core/music';
import {
  DEADLINE_KINDS,
  fieldIssuesOf,
  PART_KINDS,
  sheetChangeSchema,
  type FieldIssue,
  type SheetChange,
  type SheetView,
} from '@vivid-cue/contract';
import { troubleOf } from '../data/problem';
import { SessionStore } from '../data/session-store';
import { StudioApi } from '../data/studio-api';
import { INSTRUMENTS } from '../ui/instruments.data';
import { ProblemNote } from '../ui/problem-note';
import {
  deadlineForm,
  emptySheet,
  partForm,
  sheetForm,
  sheetFrom,
  type PartForm,
  type SheetForm,
} from './sheet-form';
import { BOUND_CHOICES, fieldsFrom, unitChoices } from './tempo-choice';

/** A sheet entered or edited by hand. */
@Component({
  selector: 'vc-sheet-editor',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    Button,
    ButtonDirective,
    InputNumber,
    InputText,
    ProblemNote,
    ReactiveFormsModule,
    RouterLink,
    Select,
  ],
  templateUrl: './sheet-editor.html',
  styleUrl: './sheet-editor.css',
})
export class SheetEditor implements OnInit {
  private readonly api = inject(StudioApi);
  private readonly router = inject(Router);
  private readonly messages = inject(MessageService);
  private readonly destroyRef = inject(DestroyRef);
  private readonly session = inject(SessionStore);
  private readonly newSheetId = newId();
  private readonly newProgramId = newId();
  private version = 0;

  /** The sheet to edit; none for a new one. */
  readonly sheetId = input<string>();
  /** The student who gets the new sheet. */
  readonly student = input<string>();

  protected readonly form = signal<SheetForm | null>(null);
  protected readonly isBusy = signal(false);
  protected readonly failure = signal<string | null>(null);
  protected readonly newer = signal<SheetView | null>(null);
  private readonly issues = signal<readonly FieldIssue[]>([]);
  protected readonly hints = signal<Readonly<Record<string, string>>>({});

  protected readonly instruments = INSTRUMENTS;
  protected readonly deadlineKinds = [...DEADLINE_KINDS];
  protected readonly partKinds = [...PART_KINDS];
  protected readonly bounds = [...BOUND_CHOICES];
  protected readonly units = computed(() => [...unitChoices(this.session.vocabulary())]);
  protected readonly zones = Intl.supportedValuesOf('timeZone')
    .concat('UTC')
    .map((value) => ({ value, label: value.replaceAll('_', ' ') }));

  ngOnInit(): void {
    const id = this.sheetId();
    if (id === undefined) {
      this.form.set(emptySheet(this.session.zone(), String(new Date().getFullYear() + 1)));
      return;
    }
    this.api
      .sheet(id)
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: (sheet) => this.show(sheet),
        error: (error: unknown) => this.failure.set(troubleOf(error).message),
      });
  }

  protected show(sheet: SheetView): void {
    this.version = sheet.version;
    this.newer.set(null);
    this.issues.set([]);
    this.failure.set(null);
    this.form.set(sheetForm(sheet, this.session.zone()));
  }

  protected issue(where: string): string {
    return this.issues().find((issue) => issue.where === where)?.message ?? '';
  }

  /** An issue of the part as a whole or of any of its tempo's fields. */
  protected partIssue(index: number): string {
    const start = `parts[${index}]`;
    const found = this.issues().filter(({ where }) => where === start || where.startsWith(`${start}.tempo`));
    return [...new Set(found.map(({ message }) => message))].join(' ');
  }

  protected addDeadline(): void {
    this.form()?.controls.deadlines.push(deadlineForm(this.session.zone()));
  }

  protected addPart(): void {
    this.form()?.controls.parts.push(partForm());
  }

  /** Reads a printed tempo into the fields; what cannot be read is said, and the fields stay. */
  protected readPrinted(part: PartForm): void {
    const { id, printed, bound, beatUnit, low, high, words } = part.controls;
    const tell = (hint: string): void => this.hints.update((hints) => ({ ...hints, [id.value]: hint }));
    if (printed.value.trim() === '') return tell('');
    const parsed = parseTempo(printed.value);
    if (!parsed.ok) return tell(parsed.issues[0]?.message ?? '');
    const mark = parsed.value;
    const fields = fieldsFrom(mark);
    bound.setValue(fields.bound);
    low.setValue(fields.low);
    high.setValue(fields.high);
    words.setValue(fields.words);
    if (mark.beatUnit !== null) beatUnit.setValue(mark.beatUnit);
    tell(
      mark.beatUnit === null && mark.bound !== 'words'
        ? 'No note value is printed; choose which note gets the beat.'
        : '',
    );
  }

  protected save(): void {
    const form = this.form();
    if (!form || this.isBusy()) return;
    const change = sheetFrom(form);
    this.issues.set(issuesOf(change));
    this.failure.set(
      this.issues().length > 0 ? 'Some fields need another look; they are marked below.' : null,
    );
    if (this.issues().length > 0) return;
    this.isBusy.set(true);
    this.send(change)
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({ next: () => this.leave(), error: (error: unknown) => this.refuse(error) });
  }

  private send(change: SheetChange): Observable<unknown> {
    const id = this.sheetId();
    if (id !== undefined) return this.api.changeSheet(id, this.version, change);
    const studentId = this.student();
    return this.api
      .addSheet({ id: this.newSheetId, ...change })
      .pipe(
        switchMap((sheet) =>
          studentId === undefined
            ? of(sheet)
            : this.api.addProgram({ id: this.newProgramId, studentId, sheetId: sheet.id }),
        ),
      );
  }

  private leave(): void {
    const studentId = this.student();
    this.messages.add({ severity: 'success', summary: 'Sheet saved', life: 4000 });
    void this.router.navigate(studentId === undefined ? ['/sheets'] : ['/students', studentId]);
  }

  private refuse(error: unknown): void {
    const trouble = troubleOf(error);
    this.isBusy.set(false);
    this.failure.set(trouble.message);
    this.issues.set(trouble.issues);
    if (trouble.code === 'version-stale') this.newer.set(trouble.current as SheetView);
  }

  /** Keeps what is on this page and saves it over the newer version. */
  protected keepMine(): void {
    this.version = this.newer()?.version ?? this.version;
    this.newer.set(null);
    this.save();
  }
}

function issuesOf(change: SheetChange): readonly FieldIssue[] {
  try {
    sheetChangeSchema.validateSync(change, { strict: true, abortEarly: false });
    return [];
  } catch (error) {
    return fieldIssuesOf(error);
  }
}
