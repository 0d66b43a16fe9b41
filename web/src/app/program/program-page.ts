import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  signal,
} from '@angular/core';
import { takeUntilDestroyed, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { ButtonDirective } from 'primeng/button';
import { catchError, map, of, switchMap, type Observable } from 'rxjs';
import type { VerdictStatus } from '@vivid-cue/core/program';
import type {
  PartChoice,
  ProgramPageView,
  ProgramPartDetail,
  ScaleChoice,
  Target,
} from '@vivid-cue/contract';
import { PlaceStore } from '../data/place-store';
import { troubleOf } from '../data/problem';
import { StudioApi } from '../data/studio-api';
import { ProblemNote } from '../ui/problem-note';
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
export class ProgramPage {
  private readonly api = inject(StudioApi);
  private readonly destroyRef = inject(DestroyRef);

  /** The program. */
  readonly programId = input.required<string>();

  private readonly changed = signal<ProgramPageView | null>(null);
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
  protected readonly view = computed(() => this.changed() ?? this.loaded().view);
  protected readonly loadFailure = computed(() => this.loaded().failure);
  protected readonly failures = signal<Readonly<Record<string, string>>>({});
  protected readonly openPart = signal<string | null>(null);

  constructor() {
    const place = inject(PlaceStore);
    effect(() => {
      const view = this.view();
      if (view) place.studentId.set(view.student.id);
    });
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

  protected choose(part: ProgramPartDetail, choice: PartChoice): void {
    this.run(part, this.api.choosePart(part.id, choice));
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
    call.pipe(takeUntilDestroyed(this.destroyRef)).subscribe({
      next: (view) => {
        this.changed.set(view);
        this.failures.update(({ [id]: _gone, ...rest }) => rest);
      },
      error: (error: unknown) => this.failures.update((all) => ({ ...all, [id]: troubleOf(error).message })),
    });
  }
}
