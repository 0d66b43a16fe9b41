import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  type OnInit,
  signal,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { FormsModule, ReactiveFormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { MessageService, type MenuItem } from 'primeng/api';
import { Button, ButtonDirective } from 'primeng/button';
import { Menu } from 'primeng/menu';
import { Select } from 'primeng/select';
import { catchError, map, merge, of, switchMap, type Observable } from 'rxjs';
import { v7 as newId } from 'uuid';
import type { SheetReading } from '@vivid-cue/core/sheet';
import {
  sheetFromStructure,
  sheetStructure,
  type AskedQuestion,
  type FieldIssue,
  type SheetChange,
  type SheetView,
} from '@vivid-cue/contract';
import { inVocabulary } from '@vivid-cue/core/music';
import { troubleOf } from '../data/problem';
import { SessionStore } from '../data/session-store';
import { SheetReaderClient } from '../data/sheet-reader';
import { StudioApi } from '../data/studio-api';
import { ProblemNote } from '../ui/problem-note';
import { momentText } from '../ui/texts';
import { takeAnswer, withAnswer, type Answer } from './answers';
import { BodyCard } from './body-card';
import { DatesCard } from './dates-card';
import { DeskCounts } from './desk-counts';
import { DraftKeeper, type DeskState } from './draft-keeper';
import { namedParts } from './part-groups';
import { PartsCard } from './parts-card';
import { PasteCard } from './paste-card';
import { QuestionList } from './question-list';
import { RulesCard } from './rules-card';
import { issuesOf, type IssueText } from './sheet-checks';
import { importSheet, saveSheetFile } from './sheet-files';
import {
  addParts,
  emptySheet,
  formOf,
  nextYearOf,
  sheetForm,
  sheetFrom,
  type SheetEntry,
  type SheetForm,
  type SheetRest,
} from './sheet-form';
import { SheetText } from './sheet-text';

/** The sheet desk: the published text on the left, the sheet it became on the right, what it leaves open below. */
@Component({
  selector: 'vc-sheet-desk',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    BodyCard,
    Button,
    ButtonDirective,
    DatesCard,
    DeskCounts,
    FormsModule,
    Menu,
    PartsCard,
    PasteCard,
    ProblemNote,
    QuestionList,
    ReactiveFormsModule,
    RouterLink,
    RulesCard,
    Select,
    SheetText,
  ],
  templateUrl: './sheet-desk.html',
  styleUrls: ['./card.css', './sheet-desk.css'],
  providers: [DraftKeeper],
})
export class SheetDesk implements OnInit {
  private readonly api = inject(StudioApi);
  private readonly router = inject(Router);
  private readonly messages = inject(MessageService);
  private readonly destroyRef = inject(DestroyRef);
  private readonly session = inject(SessionStore);
  private readonly reader = inject(SheetReaderClient);
  private readonly draft = inject(DraftKeeper);
  private newSheetId = newId();
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
  protected readonly issues = signal<readonly FieldIssue[]>([]);
  protected readonly issueText = computed((): IssueText => {
    const issues = this.issues();
    return (where) =>
      inVocabulary(issues.find((issue) => issue.where === where)?.message ?? '', this.session.vocabulary());
  });
  /** Whether choices, notes or answers were changed; the fields know it of themselves. */
  private isRestDirty = false;
  private isSaved = false;
  /** On a narrow screen what is worked on comes first; the text is unfolded when it is asked for. */
  protected readonly isTextShown = signal(false);
  protected readonly others = signal<readonly { readonly id: string; readonly label: string }[]>([]);
  protected readonly questions = computed(() => this.rest().questions ?? []);
  protected readonly openCount = computed(
    () => this.questions().filter(({ answer }) => answer === null).length,
  );

  protected readonly unreadCount = computed(() => this.reading()?.unread.length ?? 0);
  private readonly questionList = viewChild(QuestionList);
  private readonly sheetText = viewChild(SheetText);
  /** When what stands here was kept on the device, in words. */
  protected readonly keptText = computed(() => {
    const at = this.draft.restoredAt();
    return at === null ? null : momentText(at);
  });

  protected readonly namedParts = namedParts;
  protected readonly fileMenu: MenuItem[] = [
    { label: 'Save as JSON', icon: 'pi pi-download', command: () => this.exportAs('json') },
    { label: 'Save the parts as CSV', icon: 'pi pi-download', command: () => this.exportAs('csv') },
  ];

  constructor() {
    const form$ = toObservable(this.form);
    this.draft.follow({
      sheetId: () => this.sheetId() ?? null,
      state: () => (this.hasEdits() ? this.state() : null),
      changes$: merge(
        form$.pipe(switchMap((form) => form?.valueChanges ?? of(null))),
        toObservable(this.rest),
        toObservable(this.pasted),
      ),
    });
  }

  ngOnInit(): void {
    this.begin();
    if (this.sheetId() === undefined) void this.restore();
  }

  private begin(): void {
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
        next: (sheet) => {
          this.show(sheet);
          void this.restore();
        },
        error: (error: unknown) => this.failure.set(troubleOf(error).message),
      });
  }

  private state(): DeskState {
    return {
      version: this.version,
      newSheetId: this.newSheetId,
      pasted: this.pasted(),
      isPasting: this.isPasting(),
      fields: this.form()?.getRawValue() ?? null,
      rest: this.rest(),
    };
  }

  /** Puts what was kept on the device back, on the version it was begun on, unless somebody already types. */
  private async restore(): Promise<void> {
    const kept = await this.draft.find();
    if (kept === null || this.hasEdits()) return;
    this.version = kept.version;
    this.newSheetId = kept.newSheetId;
    this.pasted.set(kept.pasted);
    this.isPasting.set(kept.isPasting);
    this.rest.set(kept.rest);
    this.isRestDirty = true;
    if (kept.fields) this.form.set(formOf(kept.fields));
    const text = kept.rest.publishedText ?? '';
    if (text !== '') void this.underline(text);
  }

  /** Throws away what was kept, and shows the sheet as it is saved or an empty one. */
  protected async startAfresh(): Promise<void> {
    await this.draft.drop();
    this.isRestDirty = false;
    this.newSheetId = newId();
    this.pasted.set('');
    this.reading.set(null);
    this.rest.set({});
    this.form.set(null);
    this.begin();
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
    this.isRestDirty = false;
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

  /** Whether something is typed that is not saved. */
  hasEdits(): boolean {
    if (this.isSaved) return false;
    const isPasted =
      this.isPasting() && this.pasted().trim() !== '' && this.pasted() !== this.reading()?.text;
    return isPasted || this.isRestDirty || (this.form()?.dirty ?? false);
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
    this.form()?.markAsDirty();
    this.isPasting.set(false);
  }

  protected pasteAgain(): void {
    this.pasted.set(this.reading()?.text ?? this.rest().publishedText ?? '');
    this.isPasting.set(true);
  }

  protected stepQuestion(): void {
    this.questionList()?.step();
  }

  /** Unfolds the text where it is folded, and leads to what became nothing. */
  protected stepUnread(): void {
    this.isTextShown.set(true);
    setTimeout(() => this.sheetText()?.step());
  }

  /** Starts from another sheet: its parts with identifiers of their own, its dates without their days. */
  protected copyFrom(id: string): void {
    this.api
      .sheet(id)
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: (sheet) => {
          this.fill(nextYearOf(sheet));
          this.form()?.markAsDirty();
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
      this.form()?.markAsDirty();
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
    addParts(form, parts);
    this.form.set(form);
  }

  private exportAs(kind: 'json' | 'csv'): void {
    const form = this.form();
    if (form) saveSheetFile(sheetStructure(this.entry(form).change), kind);
  }

  private entry(form: SheetForm): SheetEntry {
    return sheetFrom(form, this.rest());
  }

  protected answer(answer: Answer): void {
    const form = this.form();
    if (!form) return;
    takeAnswer(form, answer);
    this.changeRest((rest) => withAnswer(rest, answer.question, answer));
  }

  protected reopen(question: AskedQuestion): void {
    this.changeRest((rest) => withAnswer(rest, question, null));
  }

  protected keep<List extends 'choices' | 'notes'>(list: List, value: SheetRest[List]): void {
    this.changeRest((rest) => ({ ...rest, [list]: value }));
  }

  private changeRest(change: (rest: SheetRest) => SheetRest): void {
    this.rest.update(change);
    this.isRestDirty = true;
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
    this.isSaved = true;
    void this.draft.drop();
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
