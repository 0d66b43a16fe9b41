import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { takeUntilDestroyed, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import type { MenuItem } from 'primeng/api';
import { Button, ButtonDirective } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { InputText } from 'primeng/inputtext';
import { Menu } from 'primeng/menu';
import { Select } from 'primeng/select';
import {
  catchError,
  combineLatest,
  firstValueFrom,
  map,
  of,
  startWith,
  Subject,
  switchMap,
  type Observable,
} from 'rxjs';
import { v7 as newId } from 'uuid';
import {
  dateIn,
  type LessonInput,
  type NextDate,
  type PlanView,
  type ProgramView,
  type SheetLine,
  type StudentPageView,
  type StudentSchools,
} from '@vivid-cue/contract';
import { planInputOf } from '@vivid-cue/contract/plan-input';
import { isInPart } from '@vivid-cue/contract/desk-music';
import { AS_THE_STUDIO } from '@vivid-cue/contract/schools';
import { handOver } from '../data/hand-over';
import { PdfMaker } from '../data/pdf-maker';
import { Planner } from '../data/planner';
import { SessionStore } from '../data/session-store';
import { PlaceStore } from '../data/place-store';
import { troubleOf } from '../data/problem';
import { DeskCard } from './desk-card';
import { HistoryCard } from './history-card';
import { SchoolsFields } from './schools-fields';
import { ScoreAhead } from '../data/score-ahead';
import { StudioApi } from '../data/studio-api';
import { MiniRibbon } from '../ui/mini-ribbon';
import { ProblemNote } from '../ui/problem-note';
import { RungGlyph } from '../ui/rung-glyph';
import { daysText, readinessNumber } from '../ui/texts';
import { UndoNotice } from '../ui/undo-notice';

interface Loaded {
  readonly page: StudentPageView | null;
  readonly failure: string | null;
}

/** One student: the programs, and in each the parts with their readiness. */
@Component({
  selector: 'vc-student-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    DeskCard,
    HistoryCard,
    SchoolsFields,
    Button,
    ButtonDirective,
    Dialog,
    FormsModule,
    InputText,
    Menu,
    MiniRibbon,
    ProblemNote,
    RouterLink,
    RungGlyph,
    Select,
  ],
  templateUrl: './student-page.html',
  styleUrl: './student-page.css',
})
export class StudentPage {
  private readonly api = inject(StudioApi);
  private readonly router = inject(Router);
  private readonly notice = inject(UndoNotice);
  private readonly session = inject(SessionStore);
  private readonly planner = inject(Planner);
  private readonly pdf = inject(PdfMaker);
  private readonly destroyRef = inject(DestroyRef);
  protected readonly reload$ = new Subject<void>();
  private programId = newId();

  readonly studentId = input.required<string>();
  /** "days" where somebody comes to change them. */
  readonly settle = input<string>();

  protected readonly failure = signal<string | null>(null);
  protected readonly isRenaming = signal(false);
  protected readonly isErasing = signal(false);
  protected readonly name = signal('');
  protected readonly instrument = signal('');
  protected readonly schools = signal<StudentSchools>(AS_THE_STUDIO);
  protected readonly chosenSheet = signal<string | null>(null);
  private readonly loaded = toSignal(
    combineLatest([toObservable(this.studentId), this.reload$.pipe(startWith(undefined))]).pipe(
      switchMap(([studentId]): Observable<Loaded> =>
        this.api.student(studentId).pipe(
          map((page) => ({ page, failure: null })),
          catchError((error: unknown) => of({ page: null, failure: troubleOf(error).message })),
        ),
      ),
      takeUntilDestroyed(this.destroyRef),
    ),
    { initialValue: { page: null, failure: null } },
  );
  protected readonly page = computed(() => this.loaded().page);
  /** The plan comes after the page: it is more to read, and the page can be used without it. */
  protected readonly plan = toSignal(
    toObservable(this.page).pipe(
      switchMap((page) =>
        page ? this.api.plan(page.student.id).pipe(catchError(() => of(null))) : of<PlanView | null>(null),
      ),
    ),
    { initialValue: null },
  );
  protected readonly loadFailure = computed(() => this.loaded().failure);
  private readonly allSheets = toSignal(this.api.sheets().pipe(catchError(() => of<SheetLine[]>([]))), {
    initialValue: [],
  });
  protected readonly sheets = computed(() => {
    const taken = new Set(this.page()?.programs.map(({ sheetId }) => sheetId));
    return this.allSheets()
      .filter(({ id }) => !taken.has(id))
      .map(({ id, title, instrument }) => ({ id, label: `${title}, ${instrument}` }));
  });
  protected readonly menuItems: MenuItem[] = [
    { label: 'Change name, instrument, schools', icon: 'pi pi-pencil', command: () => this.startRenaming() },
    { separator: true },
    {
      label: 'Print cue sheet for the stand',
      icon: 'pi pi-print',
      command: () => void this.report('cues', 'print'),
    },
    {
      label: 'Cue sheet for the stand (PDF)',
      icon: 'pi pi-file-pdf',
      command: () => void this.report('cues', 'file'),
    },
    {
      label: 'Print progress page',
      icon: 'pi pi-print',
      command: () => void this.report('progress', 'print'),
    },
    {
      label: 'Progress page (PDF)',
      icon: 'pi pi-file-pdf',
      command: () => void this.report('progress', 'file'),
    },
    { separator: true },
    { label: 'Export all data (JSON)', icon: 'pi pi-download', command: () => this.exportData('with') },
    { label: 'Export without sounds', icon: 'pi pi-download', command: () => this.exportData('without') },
    { label: 'Remove from the studio', icon: 'pi pi-minus-circle', command: () => this.remove() },
    { label: 'Erase all data for good …', icon: 'pi pi-trash', command: () => this.isErasing.set(true) },
  ];
  protected readonly daysText = daysText;
  protected readonly readinessOf = readinessNumber;

  constructor() {
    inject(ScoreAhead).soon();
    effect(() => {
      if (this.settle() !== 'days' || this.page() === null) return;
      untracked(() => this.startRenaming());
      void this.router.navigate([], { queryParams: {}, replaceUrl: true });
    });
    const place = inject(PlaceStore);
    effect(() => {
      place.studentId.set(this.studentId());
      const programs = this.page()?.programs ?? [];
      if (!programs.some(({ id }) => id === place.programId())) place.programId.set(programs[0]?.id ?? null);
    });
  }

  /** The passages of a part that have the most minutes in the seven days from today. Shape: null where none has */
  protected thisWeek(partId: string): string | null {
    const planned = this.plan();
    const part = planned?.desk.parts.find(({ id }) => id === partId);
    if (!planned || !part) return null;
    const today = dateIn(planned.desk.at, planned.desk.studio.zone);
    const days = planned.kept.days.filter(({ date }) => date >= today).slice(0, 7);
    const minutesOf = (id: string): number =>
      days
        .flatMap(({ blocks }) => blocks)
        .reduce((sum, block) => sum + (block.passageId === id ? block.minutes : 0), 0);
    const names = planned.desk.passages
      .filter((passage) => isInPart(passage, part))
      .map(({ id, name }) => ({ name, minutes: minutesOf(id) }))
      .filter(({ minutes }) => minutes > 0)
      .sort((a, b) => b.minutes - a.minutes)
      .slice(0, 3)
      .map(({ name, minutes }) => `${name} (${Math.round(minutes)}′)`);
    return names.length === 0 ? null : names.join(', ');
  }

  protected dateText({ date, time, zone }: NextDate): string {
    const day = new Intl.DateTimeFormat('en-GB', {
      day: 'numeric',
      month: 'long',
      year: 'numeric',
      timeZone: 'UTC',
    }).format(new Date(`${date}T12:00:00Z`));
    return `${day}${time === null ? '' : `, ${time}`} ${zone.replaceAll('_', ' ')}`;
  }

  protected giveSheet(): void {
    const sheetId = this.chosenSheet();
    if (sheetId === null) return;
    this.run(this.api.addProgram({ id: this.programId, studentId: this.studentId(), sheetId }), () => {
      this.programId = newId();
      this.chosenSheet.set(null);
    });
  }

  protected removeProgram({ id, sheetTitle }: ProgramView): void {
    this.run(this.api.removeProgram(id), () =>
      this.notice.offer({
        done: `${sheetTitle} taken away`,
        undone: `${sheetTitle} is here again`,
        undo: () => this.api.restoreProgram(id),
        back: () => this.reload$.next(),
      }),
    );
  }

  protected rename(): void {
    const student = this.page()?.student;
    if (!student) return;
    this.run(
      this.api.changeStudent(student, {
        name: this.name().trim(),
        instrument: this.instrument().trim(),
        schools: this.schools(),
      }),
      () => this.isRenaming.set(false),
    );
  }

  protected eraseForGood(): void {
    this.api
      .eraseStudent(this.studentId())
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: () => void this.router.navigateByUrl('/season'),
        error: (error: unknown) => this.failure.set(troubleOf(error).message),
      });
  }

  private startRenaming(): void {
    const student = this.page()?.student;
    this.name.set(student?.name ?? '');
    this.instrument.set(student?.instrument ?? '');
    this.schools.set(this.page()?.schools ?? AS_THE_STUDIO);
    this.isRenaming.set(true);
  }

  private remove(): void {
    const [id, name] = [this.studentId(), this.page()?.student.name ?? ''];
    this.api
      .removeStudent(id)
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: () => {
          void this.router.navigateByUrl('/season');
          this.notice.offer({
            done: `${name} removed`,
            undone: `${name} is in the studio again`,
            undo: () => this.api.restoreStudent(id),
            back: () => void this.router.navigate(['/students', id]),
          });
        },
        error: (error: unknown) => this.failure.set(troubleOf(error).message),
      });
  }

  /** Makes a page for the stand, or for family and lesson. */
  private async report(kind: 'cues' | 'progress', to: 'print' | 'file'): Promise<void> {
    const page = this.page();
    if (!page) return;
    try {
      const vocabulary = this.session.vocabulary();
      const view = this.plan() ?? (await firstValueFrom(this.api.plan(page.student.id)));
      const input = planInputOf(view.desk, Date.parse(view.desk.at));
      const lesson = async (): Promise<LessonInput | null> =>
        (await firstValueFrom(this.api.lesson(page.student.id, 30))).lessons[0] ?? null;
      const doc =
        kind === 'cues'
          ? (await import('../report/cue-sheet')).cueSheet({
              ...{ view, vocabulary },
              plan: await this.planner.plan(input),
            })
          : (await import('../report/progress-page')).progressPage({
              ...{ page, view, vocabulary },
              lesson: await lesson(),
            });
      const title = `${page.student.name} ${kind === 'cues' ? 'cue sheet' : 'progress'}`;
      await (to === 'print' ? this.pdf.print(doc) : this.pdf.save(doc, title));
      this.failure.set(null);
    } catch (error) {
      this.failure.set(
        error instanceof Error && error.name === 'Error' ? error.message : troubleOf(error).message,
      );
    }
  }

  /** Takes make a record large; without them it can be read in anywhere. */
  private exportData(sound: 'with' | 'without'): void {
    this.run(this.api.exportStudent(this.studentId(), sound), (blob) =>
      handOver(blob as Blob, 'student.json'),
    );
  }

  private run(call: Observable<unknown>, done: (value: unknown) => void = () => undefined): void {
    call.pipe(takeUntilDestroyed(this.destroyRef)).subscribe({
      next: (value) => {
        this.failure.set(null);
        done(value);
        this.reload$.next();
      },
      error: (error: unknown) => this.failure.set(troubleOf(error).message),
    });
  }
}
