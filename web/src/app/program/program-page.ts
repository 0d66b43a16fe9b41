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
import { RouterLink } from '@angular/router';
import { ButtonDirective } from 'primeng/button';
import { catchError, map, of, switchMap, type Observable } from 'rxjs';
import type { VerdictStatus } from '@vivid-cue/core/program';
import { citationOf } from '@vivid-cue/core/sheet';
import type {
  PartChoice,
  ProgramPageView,
  ProgramPartDetail,
  ScaleChoice,
  Target,
} from '@vivid-cue/contract';
import { InOrder } from '../data/in-order';
import { PlaceStore } from '../data/place-store';
import { troubleOf } from '../data/problem';
import { ScoreAhead } from '../data/score-ahead';
import { StudioApi } from '../data/studio-api';
import { ProblemNote } from '../ui/problem-note';
import type { Editing } from '../ui/unsaved-edits';
import { PartAnswerForm } from './part-answer-form';
import { VerdictMark } from './verdict-mark';

/** One student's answer to one sheet: each part with its choice, and whether it satisfies what is asked. */
@Component({
  selector: 'vc-program-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ButtonDirective, PartAnswerForm, ProblemNote, RouterLink, VerdictMark],
  templateUrl: './program-page.html',
  styleUrl: './program-page.css',
})
export class ProgramPage implements Editing {
  private readonly api = inject(StudioApi);
  private readonly destroyRef = inject(DestroyRef);

  /** The program. */
  readonly programId = input.required<string>();

  private readonly inOrder = new InOrder();
  private readonly loaded = toSignal(
    toObservable(this.programId).pipe(
      switchMap((programId) =>
        this.api.program(programId).pipe(
          map((view): { view: ProgramPageView | null; failure: string | null } => ({ view, failure: null })),
          catchError((error: unknown) => of({ view: null, failure: troubleOf(error).message })),
        ),
      ),
    ),
    { initialValue: { view: null, failure: null } },
  );
  /** As loaded, then as each answer leaves it. */
  protected readonly view = linkedSignal(() => this.loaded().view);
  private readonly failure = signal<string | null>(null);
  protected readonly loadFailure = computed(() => this.failure() ?? this.loaded().failure);
  protected readonly failures = signal<Readonly<Record<string, string>>>({});
  protected readonly openPart = signal<string | null>(null);
  /** The part whose form was typed into and not saved. */
  protected readonly edited = signal<string | null>(null);

  constructor() {
    inject(ScoreAhead).soon();
    const place = inject(PlaceStore);
    effect(() => {
      const view = this.view();
      if (!view) return;
      place.studentId.set(view.student.id);
      place.programId.set(view.id);
    });
  }

  hasEdits(): boolean {
    return this.edited() !== null;
  }

  /** Number, page, book, edition and composer, where the sheet states them. */
  protected sourceOf({ part }: ProgramPartDetail): string {
    return citationOf(part);
  }

  /** Sight-reading and the like have no music to prepare. */
  protected hasMusic({ part }: ProgramPartDetail): boolean {
    return !['sight-reading', 'aural', 'improvisation', 'rudiments'].includes(part.kind);
  }

  protected headline({ status, reasons }: ProgramPageView['verdict']): string {
    const words: Readonly<Record<VerdictStatus, string>> = {
      satisfied: 'This program satisfies the sheet.',
      short: 'This program falls short of the sheet.',
      over: 'This program goes over what the sheet allows.',
      undecided: `${reasons.length === 1 ? 'One thing is' : `${reasons.length} things are`} still open.`,
      'left-out': '',
    };
    return words[status];
  }

  protected setDivision(event: Event): void {
    const division = (event.target as HTMLSelectElement).value || null;
    this.inOrder
      .run(this.api.changeProgram(this.programId(), { division }))
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: (view) => this.view.set(view),
        error: (error: unknown) => this.failure.set(troubleOf(error).message),
      });
  }

  protected choose(part: ProgramPartDetail, choice: PartChoice): void {
    this.run(part, this.api.choosePart(part.id, choice));
  }

  /** One tick says that a part is played, or no longer; nothing else of its choice moves. */
  protected tick(part: ProgramPartDetail): void {
    const { isTaken } = part.choice;
    this.run(part, this.api.choosePart(part.id, { ...part.choice, isTaken: !isTaken, scoreId: null }));
  }

  protected writeScale(part: ProgramPartDetail, choice: ScaleChoice): void {
    this.run(part, this.api.writeScale(part.id, choice));
  }

  protected aim(
    part: ProgramPartDetail,
    { target, choice }: { readonly target: Target; readonly choice: PartChoice },
  ): void {
    this.run(
      part,
      this.api.choosePart(part.id, choice).pipe(
        switchMap(() => this.api.setTarget(part.id, target)),
        switchMap(() => this.api.program(this.programId())),
      ),
    );
  }

  private run({ id }: ProgramPartDetail, call: Observable<ProgramPageView>): void {
    this.inOrder
      .run(call)
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: (view) => {
          this.view.set(view);
          this.edited.set(null);
          this.failures.update(({ [id]: _gone, ...rest }) => rest);
        },
        error: (error: unknown) =>
          this.failures.update((all) => ({ ...all, [id]: troubleOf(error).message })),
      });
  }
}
