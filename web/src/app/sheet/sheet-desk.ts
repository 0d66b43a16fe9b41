import {
  CdkDrag,
  type CdkDragDrop,
  CdkDragHandle,
  CdkDropList,
  CdkDropListGroup,
} from '@angular/cdk/drag-drop';
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
import { FormsModule, ReactiveFormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { MessageService, type MenuItem } from 'primeng/api';
import { Button, ButtonDirective } from 'primeng/button';
import { InputNumber } from 'primeng/inputnumber';
import { InputText } from 'primeng/inputtext';
import { Menu } from 'primeng/menu';
import { Select } from 'primeng/select';
import { Textarea } from 'primeng/textarea';
import { catchError, map, of, switchMap, type Observable } from 'rxjs';
import { v7 as newId } from 'uuid';
import type { SheetReading } from '@vivid-cue/core/sheet';
import {
  DEADLINE_KINDS,
  PART_KINDS,
  partInput,
  sheetFromStructure,
  sheetStructure,
  type AskedQuestion,
  type FieldIssue,
  type SheetChange,
  type SheetView,
} from '@vivid-cue/contract';
import { troubleOf } from '../data/problem';
import { SessionStore } from '../data/session-store';
import { SheetReaderClient } from '../data/sheet-reader';
import { StudioApi } from '../data/studio-api';
import { INSTRUMENTS } from '../ui/instruments.data';
import { ProblemNote } from '../ui/problem-note';
import { applyPrinted, takeAnswer, withAnswer, type Answer } from './answers';
import { takeLongPaste } from './long-paste';
import { PartDetails } from './part-details';
import { QuestionList } from './question-list';
import { importSheet, saveSheetFile } from './sheet-files';
import {
  addParts,
  deadlineForm,
  emptySheet,
  nextYearOf,
  partForm,
  sheetForm,
  sheetFrom,
  type PartForm,
  type SheetEntry,
  type SheetForm,
  type SheetRest,
} from './sheet-form';
import { movePart, partGroups, partNames, placeInGroup, type PartGroup } from './part-groups';
import { RulesCard } from './rules-card';
import { issueOfPart, issuesOf } from './sheet-checks';
import { SheetText } from './sheet-text';
import { BOUND_CHOICES, unitChoices } from '../ui/tempo-choice';

/** The sheet desk: the published text on the left, the sheet it became on the right, what it leaves open below. */
@Component({
  selector: 'vc-sheet-desk',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    Button,
    ButtonDirective,
    CdkDrag,
    CdkDragHandle,
    CdkDropList,
    CdkDropListGroup,
    FormsModule,
    InputNumber,
    InputText,
    Menu,
    PartDetails,
    ProblemNote,
    QuestionList,
    ReactiveFormsModule,
    RouterLink,
    RulesCard,
    Select,
    SheetText,
    Textarea,
  ],
  templateUrl: './sheet-desk.html',
  styleUrl: './sheet-desk.css',
})
export class SheetDesk implements OnInit {
  private readonly api = inject(StudioApi);
  private readonly router = inject(Router);
  private readonly messages = inject(MessageService);
  private readonly destroyRef = inject(DestroyRef);
  private readonly session = inject(SessionStore);
  private readonly reader = inject(SheetReaderClient);
  private readonly newSheetId = newId();
  private readonly newProgramId = newId();
  private version = 0;

  /** The sheet to edit; none for a new one. */
  readonly sheetId = input<string>();
  /** The student who gets the new sheet. */
  readonly student = input<string>();

  protected readonly form = signal<SheetForm | null>(null);
  protected readonly rest = signal<SheetRest>({});
  protected readonly reading = signal<SheetReading | null>(null);
  protected readonly pasted = signal('');
  protected readonly isPasting = signal(false);
  protected readonly isReading = signal(false);
  protected readonly lit = signal('');
  protected readonly isBusy = signal(false);
  protected readonly failure = signal<string | null>(null);
  protected readonly textFailure = signal<string | null>(null);
  protected readonly newer = signal<SheetView | null>(null);
  protected readonly importIssues = signal<readonly { readonly row: number; readonly message: string }[]>([]);
  private readonly issues = signal<readonly FieldIssue[]>([]);
  protected readonly hints = signal<Readonly<Record<string, string>>>({});
  protected readonly others = signal<readonly { readonly id: string; readonly label: string }[]>([]);
  protected readonly questions = computed(() => this.rest().questions ?? []);
  protected readonly openCount = computed(
    () => this.questions().filter(({ answer }) => answer === null).length,
  );

  protected readonly partGroups = partGroups;
  protected readonly partNames = partNames;
  protected readonly instruments = INSTRUMENTS;
  protected readonly deadlineKinds = [...DEADLINE_KINDS];
  protected readonly partKinds = [...PART_KINDS];
  protected readonly bounds = [...BOUND_CHOICES];
  protected readonly units = computed(() => [...unitChoices(this.session.vocabulary())]);
  protected readonly measureWord = computed(() => (this.session.vocabulary() === 'uk' ? 'Bars' : 'Measures'));
  protected readonly zones = Intl.supportedValuesOf('timeZone')
    .concat('UTC')
    .map((value) => ({ value, label: value.replaceAll('_', ' ') }));
  protected readonly fileMenu: MenuItem[] = [
    { label: 'Save as JSON', icon: 'pi pi-download', command: () => this.exportAs('json') },
    { label: 'Save the parts as CSV', icon: 'pi pi-download', command: () => this.exportAs('csv') },
  ];

  ngOnInit(): void {
    const id = this.sheetId();
    if (id === undefined) {
      this.isPasting.set(true);
      this.reader.warmUp();
      this.form.set(emptySheet(this.session.zone(), String(new Date().getFullYear() + 1)));
      this.loadOthers();
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

  private loadOthers(): void {
    this.api
      .sheets()
      .pipe(
        map((sheets) =>
          sheets.map(({ id, title, instrument }) => ({ id, label: `${title}, ${instrument}` })),
        ),
        catchError(() => of([])),
        takeUntilDestroyed(this.destroyRef),
      )
      .subscribe((sheets) => this.others.set(sheets));
  }

  protected show(sheet: SheetView): void {
    this.version = sheet.version;
    this.newer.set(null);
    this.issues.set([]);
    this.failure.set(null);
    this.fill(sheet);
    const text = sheet.publishedText ?? '';
    if (text !== '') void this.underline(text);
  }

  private fill(change: SheetChange): void {
    const { choices, notes, questions, publishedText } = change;
    this.rest.set({
      choices: choices ?? [],
      notes: notes ?? [],
      questions: questions ?? [],
      publishedText: publishedText ?? null,
    });
    this.form.set(sheetForm(change, this.session.zone()));
  }

  private async underline(text: string): Promise<SheetReading | null> {
    try {
      const reading = await this.reader.sheet(text);
      this.reading.set(reading);
      return reading;
    } catch (error) {
      this.textFailure.set(error instanceof Error ? error.message : 'The text could not be read.');
      return null;
    }
  }

  protected takePaste(event: ClipboardEvent): void {
    const taken = takeLongPaste(event);
    if (taken?.refusal) this.textFailure.set(taken.refusal);
    else if (taken) this.pasted.set(taken.value);
  }

  /** Reads the pasted text into the fields; what was typed before stays when the text cannot be read. */
  protected async read(): Promise<void> {
    const text = this.pasted();
    if (text.trim() === '') {
      this.textFailure.set('Paste the published text first, or enter the sheet by hand.');
      return;
    }
    this.textFailure.set(null);
    this.isReading.set(true);
    const reading = await this.underline(text);
    this.isReading.set(false);
    if (!reading) return;
    const change = sheetFromStructure(reading.sheet, { zone: this.session.zone(), newId });
    this.fill({ ...change, publishedText: reading.text });
    this.isPasting.set(false);
  }

  protected pasteAgain(): void {
    this.pasted.set(this.reading()?.text ?? this.rest().publishedText ?? '');
    this.isPasting.set(true);
  }

  /** Starts from another sheet: its parts with identifiers of their own, its dates without their days. */
  protected copyFrom(id: string): void {
    this.api
      .sheet(id)
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: (sheet) => {
          this.fill(nextYearOf(sheet));
          this.isPasting.set(false);
        },
        error: (error: unknown) => this.failure.set(troubleOf(error).message),
      });
  }

  protected async importFile(event: Event): Promise<void> {
    const field = event.target as HTMLInputElement;
    const file = field.files?.[0];
    field.value = '';
    if (!file) return;
    this.importIssues.set([]);
    try {
      const imported = await importSheet(file);
      if (imported.kind === 'sheet')
        this.fill(sheetFromStructure(imported.sheet, { zone: this.session.zone(), newId }));
      else this.addImported(imported.csv);
      this.isPasting.set(false);
      this.failure.set(null);
    } catch (error) {
      this.failure.set(error instanceof Error ? error.message : 'The file could not be read.');
    }
  }

  private addImported({
    parts,
    issues,
  }: Extract<Awaited<ReturnType<typeof importSheet>>, { kind: 'parts' }>['csv']): void {
    this.importIssues.set(issues);
    const form = this.form();
    if (!form || parts.length === 0) return;
    addParts(
      form,
      parts.map((part) => partInput(part, newId())),
    );
    this.form.set(form);
  }

  private exportAs(kind: 'json' | 'csv'): void {
    const form = this.form();
    if (form) saveSheetFile(sheetStructure(this.entry(form).change), kind);
  }

  private entry(form: SheetForm): SheetEntry {
    return sheetFrom(form, this.rest());
  }

  protected issue(where: string): string {
    return this.issues().find((issue) => issue.where === where)?.message ?? '';
  }

  protected partIssue(index: number): string {
    return issueOfPart(this.issues(), index);
  }

  protected addDeadline(): void {
    this.form()?.controls.deadlines.push(deadlineForm(this.session.zone()));
  }

  protected addPart(): void {
    this.form()?.controls.parts.push(partForm());
  }

  /** A part dropped in another group holds from then on for what that group holds for. */
  protected drop({ item, container, currentIndex }: CdkDragDrop<PartGroup, PartGroup, number>): void {
    const part = this.form()?.controls.parts.at(item.data);
    part?.controls.detail.controls.appliesTo.setValue(container.data.name);
    this.movePart(item.data, placeInGroup(container.data, currentIndex, item.data));
  }

  protected movePart(from: number, to: number): void {
    const form = this.form();
    if (form) movePart(form, from, to);
  }

  /** Reads a printed tempo into the fields; what cannot be read is said, and the fields stay. */
  protected readPrinted(part: PartForm): void {
    const hint = applyPrinted(part);
    this.hints.update((hints) => ({ ...hints, [part.controls.id.value]: hint }));
  }

  protected answer(answer: Answer): void {
    const form = this.form();
    if (!form) return;
    takeAnswer(form, answer, newId);
    this.rest.update((rest) => withAnswer(rest, answer.question, answer));
  }

  protected reopen(question: AskedQuestion): void {
    this.rest.update((rest) => withAnswer(rest, question, null));
  }

  protected keep<List extends 'choices' | 'notes'>(list: List, value: SheetRest[List]): void {
    this.rest.update((rest) => ({ ...rest, [list]: value }));
  }

  protected save(): void {
    const form = this.form();
    if (!form || this.isBusy()) return;
    const { change, issues } = this.entry(form);
    this.issues.set([...issues, ...issuesOf(change)]);
    this.failure.set(
      this.issues().length > 0 ? 'Some fields need another look; they are marked in red.' : null,
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
