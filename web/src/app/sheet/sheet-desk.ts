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
import { SHEET_TEXT_LIMIT, type SheetReading } from '@vivid-cue/core/sheet';
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
import { SheetReaderClient, tooLong } from '../data/sheet-reader';
import { StudioApi } from '../data/studio-api';
import { INSTRUMENTS } from '../ui/instruments.data';
import { ProblemNote } from '../ui/problem-note';
import { applyAnswer, applyPrinted, splitByKeys, type Answer } from './answers';
import { PartDetails } from './part-details';
import { QuestionList } from './question-list';
import { importSheet, saveSheetFile } from './sheet-files';
import {
  deadlineForm,
  emptySheet,
  partForm,
  sheetForm,
  sheetFrom,
  type PartForm,
  type SheetEntry,
  type SheetForm,
  type SheetRest,
} from './sheet-form';
import { partGroups, placeInGroup, type PartGroup } from './part-groups';
import { RulesCard } from './rules-card';
import { issuesOf } from './sheet-checks';
import { SheetText } from './sheet-text';
import { BOUND_CHOICES, unitChoices } from './tempo-choice';

/** From so many characters on a paste is put in as a value (our own knee). */
const LONG_PASTE = 20_000;

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

  /**
   * A paste beyond the limit is refused before the page has to hold it; a long one is put in as a value, because
   * browsers take many seconds to insert a hundred pages line by line.
   */
  protected takePaste(event: ClipboardEvent): void {
    const text = event.clipboardData?.getData('text/plain') ?? '';
    if (text.length < LONG_PASTE) return;
    event.preventDefault();
    if (text.length > SHEET_TEXT_LIMIT) return this.textFailure.set(tooLong(text.length));
    const box = event.target as HTMLTextAreaElement;
    box.setRangeText(text, box.selectionStart, box.selectionEnd, 'end');
    this.pasted.set(box.value);
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
          const year = /^\d{4}$/u.test(sheet.year) ? String(Number(sheet.year) + 1) : '';
          this.fill({
            ...sheet,
            year,
            deadlines: sheet.deadlines.map((deadline) => ({
              ...deadline,
              id: newId(),
              date: null,
              endDate: null,
              text: null,
            })),
            parts: sheet.parts.map((part) => ({ ...part, id: newId() })),
            questions: [],
            publishedText: null,
          });
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
    const isBlank = form.controls.parts.controls.every(
      (part) => part.controls.workTitle.value === '' && part.controls.low.value === null,
    );
    if (isBlank) form.controls.parts.clear();
    for (const part of parts) form.controls.parts.push(partForm(partInput(part, newId())));
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

  /** An issue of the part as a whole or of any of its tempo's or details' fields. */
  protected partIssue(index: number): string {
    const start = `parts[${index}]`;
    const found = this.issues().filter(
      ({ where }) =>
        where === start || where.startsWith(`${start}.tempo`) || where.startsWith(`${start}.detail`),
    );
    return [...new Set(found.map(({ message }) => message))].join(' ');
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

  /** Moves a part to another place in the order. */
  protected movePart(from: number, to: number): void {
    const parts = this.form()?.controls.parts;
    const part = parts?.at(from);
    if (!parts || !part || to < 0 || to >= parts.length || from === to) return;
    parts.removeAt(from);
    parts.insert(to, part);
  }

  /** Reads a printed tempo into the fields; what cannot be read is said, and the fields stay. */
  protected readPrinted(part: PartForm): void {
    const hint = applyPrinted(part);
    this.hints.update((hints) => ({ ...hints, [part.controls.id.value]: hint }));
  }

  protected answer(answer: Answer): void {
    const form = this.form();
    if (!form) return;
    const keys = answer.question.candidates.filter((one): one is string => typeof one === 'string');
    const isSplit = /\/key$/u.test(answer.question.about) && /^(?:yes|all|each|every)/iu.test(answer.text);
    if (isSplit) splitByKeys(form, answer.question.about.replace(/\/key$/u, ''), keys, newId);
    else applyAnswer(form, answer);
    this.setAnswer(answer.question, answer.text, answer.reason);
  }

  protected reopen(question: AskedQuestion): void {
    this.setAnswer(question, null, null);
  }

  private setAnswer(question: AskedQuestion, answer: string | null, reason: string | null): void {
    this.rest.update((rest) => ({
      ...rest,
      questions: (rest.questions ?? []).map((one) =>
        one.about === question.about && one.ask === question.ask
          ? { ...one, answer, reason: reason === '' ? null : reason }
          : one,
      ),
    }));
  }

  protected keep<List extends 'choices' | 'notes'>(list: List, value: SheetRest[List]): void {
    this.rest.update((rest) => ({ ...rest, [list]: value }));
  }

  protected partNames(form: SheetForm): { label: string; group: string }[] {
    return form.controls.parts.controls.map(({ controls }) => ({
      label: controls.label.value,
      group: controls.detail.controls.appliesTo.value,
    }));
  }

  protected save(): void {
    const form = this.form();
    if (!form || this.isBusy()) return;
    const { change, issues } = this.entry(form);
    this.issues.set([...issues, ...issuesOf(change)]);
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
