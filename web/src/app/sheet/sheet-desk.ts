import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  Injector,
  input,
  type OnInit,
  signal,
  viewChild,
} from '@angular/core';
import { NgTemplateOutlet } from '@angular/common';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { ReactiveFormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { MessageService } from 'primeng/api';
import { Button, ButtonDirective } from 'primeng/button';
import { merge, of, switchMap, type Observable } from 'rxjs';
import { v7 as newId } from 'uuid';
import { wordsAt, type Correction, type Stretch } from '@vivid-cue/core/sheet';
import {
  type CsvParts,
  sheetStructure,
  type AskedQuestion,
  type FieldIssue,
  type SheetChange,
  type SheetView,
} from '@vivid-cue/contract';
import { inVocabulary } from '@vivid-cue/core/music';
import { troubleOf } from '../data/problem';
import { SessionStore } from '../data/session-store';
import { StudioApi } from '../data/studio-api';
import { ProblemNote } from '../ui/problem-note';
import { momentText } from '../ui/texts';
import { putWords, takeAnswer, withAnswer, type Answer } from './answers';
import { BodyCard } from './body-card';
import { InstrumentChips } from './instrument-chips';
import { DatesCard } from './dates-card';
import { DeskActions } from './desk-actions';
import { DeskCounts } from './desk-counts';
import { DeskInstruments } from './desk-instruments';
import { DeskReading } from './desk-reading';
import { DraftKeeper, type DeskState } from './draft-keeper';
import type { DeskContent } from './merge-reading';
import { namedParts } from './part-groups';
import { PartsCard } from './parts-card';
import { PasteCard } from './paste-card';
import { QuestionList } from './question-list';
import { RulesCard } from './rules-card';
import { issuesOf, type IssueText } from './sheet-checks';
import { saveSheetFile } from './sheet-files';
import {
  addParts,
  emptySheet,
  formOf,
  refill,
  sheetForm,
  sheetFrom,
  type SheetEntry,
  type SheetForm,
  type SheetRest,
} from './sheet-form';
import { SheetText } from './sheet-text';
import type { GivenWords } from './word-giver';

/** The sheet desk: the published text on the left, the sheet it became on the right, what it leaves open below. */
@Component({
  selector: 'vc-sheet-desk',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    BodyCard,
    Button,
    ButtonDirective,
    DatesCard,
    DeskActions,
    DeskCounts,
    InstrumentChips,
    NgTemplateOutlet,
    PartsCard,
    PasteCard,
    ProblemNote,
    QuestionList,
    ReactiveFormsModule,
    RouterLink,
    RulesCard,
    SheetText,
  ],
  templateUrl: './sheet-desk.html',
  styleUrls: ['./card.css', './sheet-desk.css'],
  providers: [DeskInstruments, DeskReading, DraftKeeper],
})
export class SheetDesk implements OnInit {
  private readonly api = inject(StudioApi);
  private readonly router = inject(Router);
  private readonly messages = inject(MessageService);
  private readonly destroyRef = inject(DestroyRef);
  private readonly injector = inject(Injector);
  private readonly session = inject(SessionStore);
  protected readonly text = inject(DeskReading);
  protected readonly instruments = inject(DeskInstruments);
  protected readonly draft = inject(DraftKeeper);
  private newSheetId = newId();
  private readonly newProgramId = newId();
  private version = 0;

  /** The sheet to edit; none for a new one. */
  readonly sheetId = input<string>();
  /** The student who gets the new sheet. */
  readonly student = input<string>();

  protected readonly form = signal<SheetForm | null>(null, { equal: () => false });
  protected readonly rest = signal<SheetRest>({});
  protected readonly reading = this.text.reading;
  protected readonly pasted = signal('');
  protected readonly isPasting = signal(false);
  protected readonly isReading = signal(false);
  protected readonly lit = signal('');
  /** The sheet as it is saved, by name. */
  protected readonly title = signal('');
  protected readonly isBusy = signal(false);
  protected readonly failure = signal<string | null>(null);
  protected readonly textFailure = this.text.failure;
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
  /** The questions of the sheet, without those about parts that are folded away. */
  protected readonly questions = computed(() => this.instruments.asked(this.rest().questions ?? []));
  protected readonly openCount = computed(
    () => this.questions().filter(({ answer }) => answer === null).length,
  );

  protected readonly unreadCount = computed(() => this.reading()?.unread.length ?? 0);
  private readonly partsCard = viewChild(PartsCard);
  private readonly questionList = viewChild(QuestionList);
  private readonly sheetText = viewChild(SheetText);
  /** When what stands here was kept, in words. */
  protected readonly otherText = computed(() => {
    const other = this.draft.other();
    return other && momentText(other.savedAt);
  });
  protected readonly keptText = computed(() => {
    const at = this.draft.restoredAt();
    return at === null ? null : momentText(at);
  });

  protected readonly namedParts = namedParts;

  constructor() {
    this.instruments.follow(this.form);
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
      this.text.warmUp();
      const form = emptySheet(this.session.zone(), String(new Date().getFullYear() + 1));
      this.form.set(form);
      this.text.clear({ fields: form.getRawValue(), rest: {} });
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
    if (kept !== null && !this.hasEdits()) this.put(kept);
  }

  private put(kept: DeskState): void {
    this.version = kept.version;
    this.newSheetId = kept.newSheetId;
    this.pasted.set(kept.pasted);
    this.isPasting.set(kept.isPasting);
    this.rest.set(kept.rest);
    this.isRestDirty = true;
    if (kept.fields) this.form.set(formOf(kept.fields));
    this.underline();
  }

  /** Another desk kept something else: it is taken, or what stands here is kept over it. */
  protected settle(isTaken: boolean): void {
    const other = this.draft.settle(isTaken);
    if (other) this.put(other);
  }

  /** Throws away what was kept, and shows the sheet as it is saved or an empty one. */
  protected async startAfresh(): Promise<void> {
    await this.draft.drop();
    this.isRestDirty = false;
    this.newSheetId = newId();
    this.pasted.set('');
    this.text.clear();
    this.rest.set({});
    this.form.set(null);
    this.begin();
  }

  protected show(sheet: SheetView): void {
    this.version = sheet.version;
    this.title.set(`${sheet.body} ${sheet.year}`.trim());
    this.newer.set(null);
    this.issues.set([]);
    this.failure.set(null);
    this.fill(sheet);
    this.underline();
  }

  private fill(change: SheetChange): void {
    const { choices, notes, questions, publishedText, told } = change;
    this.rest.set({
      choices: choices ?? [],
      notes: notes ?? [],
      questions: questions ?? [],
      publishedText: publishedText ?? null,
      told: told ?? null,
    });
    this.form.set(sheetForm(change, this.session.zone()));
    this.isRestDirty = false;
  }

  /** All that stands on the desk. Shape: null before anything does */
  private content(): DeskContent | null {
    const form = this.form();
    return form && { fields: form.getRawValue(), rest: this.rest() };
  }

  private underline(): void {
    const content = this.content();
    if (content && (content.rest.publishedText ?? '') !== '') void this.text.underline(content);
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
    const mine = this.content();
    if (!mine) return;
    this.isReading.set(true);
    const read = await this.text.into(text, mine);
    this.isReading.set(false);
    if (!read) return;
    this.take(read);
    this.isPasting.set(false);
  }

  /** Puts a reading, merged with what was typed, on the desk. */
  private take({ fields, rest }: DeskContent): void {
    const form = this.form();
    if (form) refill(form, fields);
    // The fields are the same, what they hold is not.
    this.form.set(form ?? formOf(fields));
    this.rest.set(rest);
    this.isRestDirty = true;
  }

  /** A person says what a line or a column is, or takes it back: the whole text is read again at once. */
  protected async tell(correction: Correction, isTakenBack = false): Promise<void> {
    const mine = this.content();
    const read = mine && (await this.text.tell(correction, { mine, isTakenBack }));
    if (read) this.take(read);
  }

  protected dropLost(): void {
    this.text.dropLost();
    this.changeRest((rest) => ({ ...rest, told: this.text.told() }));
  }

  /** Words are given to a field; those of a part that the text does not begin go straight into it. */
  protected async give({ partId, field, start, end }: GivenWords & Stretch): Promise<void> {
    const text = this.reading()?.text ?? '';
    const at = wordsAt(text, { start, end });
    const part = this.text.told().parts.find(({ id }) => id === partId)?.at ?? null;
    const own = this.form()?.controls.parts.controls.find(({ controls }) => controls.id.value === partId);
    if (at && part) await this.tell({ kind: 'words', ...at, part, field });
    else if (own) putWords(own, field, text.slice(start, end));
  }

  protected pasteAgain(): void {
    this.pasted.set(this.reading()?.text ?? this.rest().publishedText ?? '');
    this.isPasting.set(true);
  }

  /** Leads from words to what they became. */
  protected reveal(key: string): void {
    this.partsCard()?.reveal(key);
  }

  protected stepQuestion(): void {
    this.questionList()?.step();
  }

  /** Unfolds the text where it is folded, and leads to what became nothing. */
  protected stepUnread(): void {
    this.isTextShown.set(true);
    afterNextRender(() => this.sheetText()?.step(), { injector: this.injector });
  }

  /** Fills the desk from another sheet or from a file. */
  protected begunFrom(change: SheetChange): void {
    this.text.clear();
    this.fill(change);
    this.begun();
    this.underline();
  }

  /** Adds the parts of a file, and says which of its rows could not be read. */
  protected addImported({ parts, issues }: CsvParts): void {
    this.importIssues.set(issues);
    const form = this.form();
    if (form && parts.length > 0) {
      addParts(form, parts);
      this.form.set(form);
    }
    this.begun();
  }

  private begun(): void {
    this.form()?.markAsDirty();
    this.isPasting.set(false);
    this.failure.set(null);
  }

  protected exportAs(kind: 'json' | 'csv'): void {
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
