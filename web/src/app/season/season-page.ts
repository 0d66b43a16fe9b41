import { capital } from '@vivid-cue/core/base';
import type { ProgramForecast } from '@vivid-cue/contract/forecasts';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  type ElementRef,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import { Button, ButtonDirective } from 'primeng/button';
import { catchError, map, of, startWith, Subject, switchMap, type Observable } from 'rxjs';
import type { ProgramView, SeasonView, RecordReadView, StudentView } from '@vivid-cue/contract';
import { MessageService } from 'primeng/api';
import { readStored } from '../data/stored-json';
import { PlaceStore } from '../data/place-store';
import { troubleOf } from '../data/problem';
import { StudioApi } from '../data/studio-api';
import { daysText, percentText, readinessNumber, shortDay } from '../ui/texts';
import { MiniRibbon } from '../ui/mini-ribbon';
import { ProblemNote } from '../ui/problem-note';
import { RungGlyph } from '../ui/rung-glyph';
import { isTyping } from '../ui/typing';
import { AddStudent } from './add-student';
import { GROUPINGS, groupedRows, type Grouping } from './season-groups';
import { SeasonForecasts } from './season-forecasts';
import { DateLine } from './date-line';
import { StudioWords } from '../ui/studio-words';

/** What the page has: nothing yet, the season, or why not. */
interface Loaded {
  readonly season: SeasonView | null;
  readonly failure: string | null;
}

/** Every student, how ready, what holds them back; who needs the instructor stands on top. */
@Component({
  selector: 'vc-season-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    AddStudent,
    Button,
    ButtonDirective,
    DateLine,
    MiniRibbon,
    ProblemNote,
    RouterLink,
    RungGlyph,
    StudioWords,
  ],
  templateUrl: './season-page.html',
  styleUrl: './season-page.css',
  providers: [SeasonForecasts],
  host: { '(document:keydown)': 'onKey($event)' },
})
export class SeasonPage {
  private readonly api = inject(StudioApi);
  private readonly router = inject(Router);
  private readonly place = inject(PlaceStore);
  private readonly messages = inject(MessageService);
  private readonly destroyRef = inject(DestroyRef);
  private readonly reload$ = new Subject<void>();
  private readonly ahead = inject(SeasonForecasts);

  private readonly field = viewChild<ElementRef<HTMLInputElement>>('find');
  protected readonly isAdding = signal(false);
  private readonly loaded = toSignal(
    this.reload$.pipe(
      startWith(undefined),
      switchMap((): Observable<Loaded> =>
        this.api.season().pipe(
          map((season) => ({ season, failure: null })),
          catchError((error: unknown) => of({ season: null, failure: troubleOf(error).message })),
        ),
      ),
      takeUntilDestroyed(this.destroyRef),
    ),
    { initialValue: { season: null, failure: null } },
  );
  protected readonly season = computed(() => this.loaded().season);
  protected readonly failure = computed(() => this.loaded().failure);
  protected readonly summary = computed(() => {
    const season = this.season();
    if (!season) return '';
    const students = countText(season.rows.length, 'student');
    return season.bodies === 0
      ? `${students}, and no sheet yet.`
      : `${students}, ${countText(season.bodies, 'audition body', 'audition bodies')}.`;
  });
  protected readonly needText = computed(() => {
    const count = this.season()?.rows.filter(({ need }) => need !== null).length ?? 0;
    if (count === 0) return 'Nobody needs you today.';
    const text = countText(count, 'needs', 'need');
    return `${capital(text)} you.`;
  });
  protected readonly groupings = GROUPINGS;
  protected readonly grouping = signal<Grouping>(readStored<Grouping>(GROUPING_KEY) ?? 'none');
  protected readonly sought = signal('');
  protected readonly groups = computed(() =>
    groupedRows(this.season()?.rows ?? [], { by: this.grouping(), sought: this.sought() }),
  );
  protected readonly isReckoning = this.ahead.isWorking;
  protected readonly rule =
    'A measure that was flagged or a line nobody has read; a form or recording due within a week; no sheet, or music, passages or practice missing four weeks before the day; a revised sheet. Looking at it, ticking it off or doing it ends it.';
  protected readonly daysText = daysText;
  protected readonly readinessOf = readinessNumber;
  protected readonly legend =
    'Clean run: the chance of a clean run of the tracked parts today, and after the arrow on the day, if the plan is practised; under 5 %, the slips to expect. Ribbon: every measure as wide as it lasts, from sand (unopened) to teal (holding).';

  /** How a program is likely to stand on its day. Shape: null until it is reckoned, and where today has no number */
  protected aheadOf({ id, chance }: ProgramView): AheadText | null {
    const forecast = chance === null ? null : this.ahead.of(id);
    return forecast && aheadText(forecast);
  }

  protected groupBy(event: Event): void {
    this.grouping.set((event.target as HTMLSelectElement).value as Grouping);
    localStorage.setItem(GROUPING_KEY, JSON.stringify(this.grouping()));
  }

  protected seek(event: Event): void {
    this.sought.set((event.target as HTMLInputElement).value);
  }

  protected reload(): void {
    this.reload$.next();
  }

  protected open(studentId: string): void {
    void this.router.navigate(['/students', studentId]);
  }

  protected added(student: StudentView): void {
    this.isAdding.set(false);
    this.place.studentId.set(student.id);
    void this.router.navigate(['/students', student.id]);
  }

  protected addedMany(count: number): void {
    this.isAdding.set(false);
    this.messages.add({ severity: 'secondary', summary: `${count} students added`, life: 5000 });
    this.reload();
  }

  protected recordTaken({ studentId, reps, differing }: RecordReadView): void {
    this.isAdding.set(false);
    const isSame = differing.length === 0;
    this.messages.add({
      severity: isSame ? 'secondary' : 'warn',
      summary: `Record read in with ${countText(reps, 'rep')}.`,
      detail: isSame ? '' : `Counted anew, these stand otherwise than before: ${differing.join(', ')}.`,
      life: isSame ? 5000 : 20_000,
    });
    void this.router.navigate(['/students', studentId]);
  }

  protected onKey(event: KeyboardEvent): void {
    if (isTyping(event)) return;
    if (event.key === '/') this.field()?.nativeElement.focus();
    else if (event.key === 'n') this.isAdding.set(true);
    else if (event.key === 's') void this.router.navigate(['/sheets/new']);
    else return;
    event.preventDefault();
  }
}

const GROUPING_KEY = 'vivid-cue-season-groups';

/** A forecast as the page says it. */
interface AheadText {
  readonly number: string;
  readonly unit: string;
  readonly range: string;
  readonly day: string;
}

function aheadText({ chance, low, high, date }: ProgramForecast): AheadText {
  const said = readinessNumber({ chance, expectedSlips: -Math.log(Math.max(chance, 1e-9)) });
  return {
    number: said?.number ?? '',
    unit: said?.unit === '%' ? '%' : 'slips',
    day: shortDay(date),
    range: `${percentText(low)} to ${percentText(high)} %`,
  };
}

const NUMBERS = [
  'no',
  'one',
  'two',
  'three',
  'four',
  'five',
  'six',
  'seven',
  'eight',
  'nine',
  'ten',
  'eleven',
  'twelve',
];

function countText(count: number, one: string, many = `${one}s`): string {
  return `${NUMBERS[count] ?? count} ${count === 1 ? one : many}`;
}
