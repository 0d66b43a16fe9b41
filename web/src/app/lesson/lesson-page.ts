import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
} from '@angular/core';
import { takeUntilDestroyed, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { MessageService } from 'primeng/api';
import { Button, ButtonDirective } from 'primeng/button';
import { catchError, combineLatest, map, of, startWith, Subject, switchMap, type Observable } from 'rxjs';
import { v7 as newId } from 'uuid';
import { measuresText, tempoText, type Bpm } from '@vivid-cue/core/music';
import type { LessonItem } from '@vivid-cue/core/plan';
import type { DeskPassage, LessonAsk, LessonInput, LessonView, RepInput } from '@vivid-cue/contract';
import { deskPartName, isInPart, measuresOfPart, runReps } from '@vivid-cue/contract/desk-music';
import { instantAfter } from '../data/next-instant';
import { PlaceStore } from '../data/place-store';
import { troubleOf } from '../data/problem';
import { RepOutbox } from '../data/rep-outbox';
import { SessionStore } from '../data/session-store';
import { readStored } from '../data/stored-json';
import { StudioApi } from '../data/studio-api';
import { withWaitingReps } from '../data/waiting-passage';
import { ProblemNote } from '../ui/problem-note';
import { SlipTaps } from '../ui/slip-taps';
import { StudioWords } from '../ui/studio-words';

/** Lengths of lessons that are chosen by one press. Units: minutes */
const LENGTHS = [20, 30, 45, 60];

interface Loaded {
  readonly view: LessonView | null;
  readonly failure: string | null;
}

/** What is written during a lesson, kept on the device until it is sent. */
interface LessonDraft {
  readonly id: string;
  readonly notes: string;
  readonly asks: readonly LessonAsk[];
}

/** A line of what to hear. */
interface HeardLine {
  readonly item: LessonItem;
  readonly title: string;
  readonly tempo: string;
  readonly evidence: string;
}

/** The instructor's own half hour with a student: what to hear and why, reps as heard, what is asked until next time. */
@Component({
  selector: 'vc-lesson-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, ButtonDirective, FormsModule, ProblemNote, RouterLink, SlipTaps, StudioWords],
  templateUrl: './lesson-page.html',
  styleUrl: './lesson-page.css',
})
export class LessonPage {
  private readonly api = inject(StudioApi);
  private readonly outbox = inject(RepOutbox);
  private readonly session = inject(SessionStore);
  private readonly messages = inject(MessageService);
  private readonly destroyRef = inject(DestroyRef);
  private readonly reload$ = new Subject<void>();

  readonly studentId = input.required<string>();

  protected readonly lengths = LENGTHS;
  protected readonly minutes = signal(30);
  protected readonly failure = signal<string | null>(null);
  private readonly loaded = toSignal(
    combineLatest([
      toObservable(this.studentId),
      toObservable(this.minutes),
      this.reload$.pipe(startWith(undefined)),
    ]).pipe(
      switchMap(([studentId, minutes]): Observable<Loaded> =>
        this.api.lesson(studentId, minutes).pipe(
          map((view) => ({ view, failure: null })),
          catchError((error: unknown) => of({ view: null, failure: troubleOf(error).message })),
        ),
      ),
      takeUntilDestroyed(this.destroyRef),
    ),
    { initialValue: { view: null, failure: null } },
  );
  protected readonly view = computed(() => this.loaded().view);
  protected readonly loadFailure = computed(() => this.loaded().failure);
  /** Passages as they stand with what was heard since and is not acknowledged yet. */
  private readonly passages = computed((): readonly DeskPassage[] => {
    const place = { zone: this.session.zone(), nowMs: Date.now() };
    const answers = this.answers();
    return (this.view()?.passages ?? []).map((passage) => {
      const now = { ...passage, ...answers.get(passage.id) };
      const waiting = this.outbox.waiting().filter(({ passageId }) => passageId === passage.id);
      return {
        ...now,
        ...withWaitingReps(
          now,
          waiting.map(({ rep }) => rep),
          place,
        ),
      };
    });
  });
  private readonly answers = signal<ReadonlyMap<string, Partial<DeskPassage>>>(new Map());
  protected readonly lines = computed((): readonly HeardLine[] =>
    (this.view()?.items ?? []).map((item) => this.lineOf(item)),
  );
  protected readonly nowId = linkedSignal<LessonView | null, string | null>({
    source: this.view,
    computation: (view, before) =>
      before?.value ??
      view?.items.find(({ kind }) => kind === 'passage')?.id ??
      view?.passages[0]?.id ??
      null,
  });
  protected readonly now = computed(() => this.passages().find(({ id }) => id === this.nowId()) ?? null);
  protected readonly bpm = linkedSignal<string, Bpm>({
    source: () => `${this.now()?.id} ${this.now()?.place.rungIndex}`,
    computation: () => {
      const passage = this.now();
      return Math.round(passage?.rungs[passage.place.rungIndex]?.bpm ?? passage?.target.bpm ?? 60);
    },
  });
  /** What was heard in this lesson, by passage. */
  private readonly heard = signal<
    readonly { readonly passageId: string; readonly isClean: boolean; readonly id: string }[]
  >([]);
  protected readonly heardText = computed(() => {
    const own = this.heard().filter(({ passageId }) => passageId === this.nowId());
    if (own.length === 0) return 'Nothing heard yet.';
    return `Heard by you: ${own.filter(({ isClean }) => isClean).length} of ${own.length} clean.`;
  });
  protected readonly canTakeBack = computed(() =>
    this.heard().some(({ passageId }) => passageId === this.nowId()),
  );
  protected readonly notes = signal('');
  protected readonly asks = signal<readonly LessonAsk[]>([]);
  protected readonly askText = signal('');
  protected readonly isSent = signal(true);
  private lessonId = newId();
  protected readonly last = computed(
    () => this.view()?.lessons.find(({ id }) => id !== this.lessonId) ?? null,
  );
  protected readonly days = computed(() => {
    const dates = (this.view()?.parts ?? []).flatMap(({ nextDate }) => (nextDate ? [nextDate] : []));
    return dates.sort((a, b) => a.daysLeft - b.daysLeft)[0] ?? null;
  });

  constructor() {
    this.outbox.answered$
      .pipe(takeUntilDestroyed())
      .subscribe((passage) => this.answers.update((known) => new Map(known).set(passage.id, passage)));
    const place = inject(PlaceStore);
    effect(() => {
      place.studentId.set(this.studentId());
      this.begin(this.studentId());
    });
  }

  /** What was written and not sent yet comes back. */
  private begin(studentId: string): void {
    const draft = readStored<LessonDraft>(draftKey(studentId));
    this.lessonId = draft?.id ?? newId();
    this.notes.set(draft?.notes ?? '');
    this.asks.set(draft?.asks ?? []);
    this.isSent.set(draft === null);
  }

  private lineOf(item: LessonItem): HeardLine {
    if (item.kind === 'run') {
      const part = this.view()?.parts.find(({ id }) => id === item.id);
      return {
        item,
        title: `${part ? deskPartName(part) : 'The whole'}, once, cold`,
        tempo: '',
        evidence: '',
      };
    }
    const passage = this.passages().find(({ id }) => id === item.id);
    if (!passage) return { item, title: '', tempo: '', evidence: '' };
    const { reps } = passage.readiness;
    return {
      item,
      title: this.titleOf(passage),
      tempo: tempoText(Math.round(passage.rungs[passage.place.rungIndex]?.bpm ?? 0), passage.target.beatUnit),
      evidence: reps === 0 ? 'never played' : `${reps} ${reps === 1 ? 'rep' : 'reps'}`,
    };
  }

  /** A passage by its measures and its name, with its work where it has no name of its own and there are several. */
  protected titleOf({ name, from, to, scoreId }: DeskPassage): string {
    const measures = measuresText(from, to, this.session.vocabulary());
    if (name !== measures) return `${measures}, ${name}`;
    const parts = this.view()?.parts ?? [];
    const own = parts.find((part) => part.scoreId === scoreId);
    const work = own?.workTitle || own?.label;
    return new Set(parts.map((part) => part.scoreId)).size > 1 && work ? `${work}, ${measures}` : measures;
  }

  protected nowTempo(): string {
    const passage = this.now();
    return passage ? tempoText(this.bpm(), passage.target.beatUnit) : '';
  }

  protected step(by: number): void {
    this.bpm.update((bpm) => Math.max(10, Math.min(400, bpm + by)));
  }

  /** A rep as the instructor heard it. */
  protected hear(isClean: boolean): void {
    const passage = this.now();
    if (!passage) return;
    const id = newId();
    const rep: RepInput = {
      id,
      at: instantAfter(
        passage.record.lastAtMs,
        this.outbox.waiting().map(({ rep }) => rep),
      ),
      bpm: this.bpm(),
      beatUnit: passage.target.beatUnit,
      context: passage.isSeam ? 'joined' : 'alone',
      isClean,
    };
    this.heard.update((list) => [...list, { passageId: passage.id, isClean, id }]);
    void this.outbox.add(passage.id, rep);
  }

  /** The part that is heard as a whole now. */
  protected readonly run = computed(() => {
    const view = this.view();
    const part = view?.parts.find(({ id }) => id === this.nowId());
    const score = view?.scores.find(({ id }) => id === part?.scoreId);
    return part && score ? { part, name: deskPartName(part), measures: measuresOfPart(part, score) } : null;
  });
  protected readonly slips = linkedSignal<unknown, ReadonlySet<number>>({
    source: this.nowId,
    computation: () => new Set(),
  });
  protected readonly runText = linkedSignal<unknown, string>({
    source: this.nowId,
    computation: () => '',
  });

  /** A run as the instructor heard it: a rep in context of every passage of the part. */
  protected keepRun(): void {
    const run = this.run();
    if (!run) return;
    const own = this.passages().filter((passage) => isInPart(passage, run.part));
    let lastAtMs = Math.max(0, ...own.map(({ record }) => record.lastAtMs ?? 0));
    for (const { passage, bpm, isClean } of runReps(own, { slips: this.slips(), share: 1 })) {
      const at = instantAfter(
        lastAtMs,
        this.outbox.waiting().map(({ rep }) => rep),
      );
      lastAtMs = Date.parse(at);
      const { beatUnit } = passage.target;
      void this.outbox.add(passage.id, { id: newId(), at, bpm, beatUnit, context: 'run', isClean });
    }
    const count = this.slips().size;
    this.runText.set(count === 0 ? 'Kept: a clean run.' : `Kept: ${count} slipped.`);
    this.slips.set(new Set());
  }

  protected async takeBack(): Promise<void> {
    const last = this.heard().findLast(({ passageId }) => passageId === this.nowId());
    if (!last) return;
    this.heard.update((list) => list.filter((one) => one !== last));
    if (await this.outbox.withdraw(last.id)) return;
    this.api
      .takeRepBack(last.id)
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: (passage) => this.answers.update((known) => new Map(known).set(passage.id, passage)),
        error: (error: unknown) => this.failure.set(troubleOf(error).message),
      });
  }

  protected write(notes: string): void {
    this.notes.set(notes);
    this.keepDraft();
  }

  /** Asks something until next time; of the passage that is heard now, unless it is of none. */
  protected ask(ofNow: boolean): void {
    const text = this.askText().trim();
    if (text === '') return;
    this.asks.update((asks) => [...asks, { id: newId(), passageId: ofNow ? this.nowId() : null, text }]);
    this.askText.set('');
    this.keepDraft();
  }

  protected unask({ id }: LessonAsk): void {
    this.asks.update((asks) => asks.filter((one) => one.id !== id));
    this.keepDraft();
  }

  protected passageName(passageId: string | null): string {
    const passage = this.view()?.passages.find(({ id }) => id === passageId);
    return passage ? measuresText(passage.from, passage.to, this.session.vocabulary()) : '';
  }

  private keepDraft(): void {
    const draft: LessonDraft = { id: this.lessonId, notes: this.notes(), asks: this.asks() };
    localStorage.setItem(draftKey(this.studentId()), JSON.stringify(draft));
    this.isSent.set(false);
  }

  protected send(): void {
    if (this.askText().trim() !== '') this.ask(true);
    const lesson: LessonInput = {
      id: this.lessonId,
      at: new Date().toISOString(),
      minutes: this.minutes(),
      notes: this.notes().trim(),
      asks: [...this.asks()],
    };
    this.api
      .keepLesson(this.studentId(), lesson)
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: () => {
          localStorage.removeItem(draftKey(this.studentId()));
          this.isSent.set(true);
          this.failure.set(null);
          this.messages.add({ severity: 'success', summary: 'On the desk, and in the record', life: 4000 });
        },
        error: (error: unknown) => this.failure.set(troubleOf(error).message),
      });
  }

  protected lookedAt(id: string): void {
    this.api
      .clearSurprise(id)
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: () => this.reload$.next(),
        error: (error: unknown) => this.failure.set(troubleOf(error).message),
      });
  }

  protected print(): void {
    window.print();
  }

  protected dayText(instant: string): string {
    return new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long' }).format(new Date(instant));
  }
}

function draftKey(studentId: string): string {
  return `vivid-cue-lesson:${studentId}`;
}
