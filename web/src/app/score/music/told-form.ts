import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  linkedSignal,
  output,
  signal,
  untracked,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { v7 as newId } from 'uuid';
import { capital } from '@vivid-cue/core/base';
import { measureWord } from '@vivid-cue/core/music';
import { writePaper, type PaperMusic, type ToldFields } from '@vivid-cue/core/paper';
import type { ScoreRoomView } from '@vivid-cue/contract';
import { troubleOf } from '../../data/problem';
import { ScoreApi } from '../../data/score-api';
import { SessionStore } from '../../data/session-store';
import { ProblemNote } from '../../ui/problem-note';
import { StudioWords } from '../../ui/studio-words';
import { secondsText } from '../../ui/texts';
import { MeasureRibbon } from '../ribbon/measure-ribbon';
import type { RibbonMeasure } from '../ribbon/ribbon-model';
import { draftOf, measuresTold, ofFields, ofLine, type ToldDraft } from './told-draft';

interface FieldShown {
  readonly name: keyof ToldFields;
  readonly label: string;
  readonly example: string;
  readonly size: 'short' | 'third' | 'half';
  readonly isNumber?: boolean;
}

const FIELDS: readonly FieldShown[] = [
  { name: 'first', label: 'First measure', example: '1', size: 'short', isNumber: true },
  { name: 'last', label: 'Last measure', example: '32', size: 'short', isNumber: true },
  { name: 'meter', label: 'Meter', example: '4/4', size: 'short' },
  { name: 'pickup', label: 'Pickup', example: '1/4', size: 'short' },
  { name: 'tempos', label: 'Tempo', example: '♩=116', size: 'third' },
  { name: 'keys', label: 'Key', example: '3 flats', size: 'third' },
  { name: 'changes', label: 'Other meters', example: '6/8 from 17', size: 'third' },
  { name: 'letters', label: 'Letters', example: 'A9 B17', size: 'third' },
  { name: 'repeats', label: 'Repeats and endings', example: '|: 1–8 :| 1. 7 2. 8', size: 'third' },
  { name: 'dense', label: 'Where most notes are', example: '18 sixteenths', size: 'third' },
];
const METERS = ['4/4', '3/4', '2/4', '6/8', '2/2', '9/8', '12/8', '3/8', '5/4', '7/8'];

/** Music on paper is told: fields and one line that say the same, and the ribbon that grows of them. */
@Component({
  selector: 'vc-told-form',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, FormsModule, InputText, MeasureRibbon, ProblemNote, StudioWords],
  templateUrl: './told-form.html',
  styleUrl: './told-form.css',
})
export class ToldForm {
  private readonly api = inject(ScoreApi);
  private readonly session = inject(SessionStore);
  private readonly destroyRef = inject(DestroyRef);

  /** The part that is told. */
  readonly room = input.required<ScoreRoomView>();
  /** What was told of it before. */
  readonly paper = input<PaperMusic | null>(null);
  /** Whether there is a score that this takes the place of. */
  readonly isReplacing = input(false);
  /** The measures were kept. */
  readonly kept = output<ScoreRoomView>();
  /** Nothing is to change. */
  readonly left = output<void>();

  protected readonly fields = FIELDS;
  protected readonly meters = METERS;
  protected readonly vocabulary = this.session.vocabulary;
  protected readonly isBusy = signal(false);
  protected readonly failure = signal<string | null>(null);
  private readonly partId = computed(() => this.room().programPartId);
  /** What is typed stays while the room changes around it. */
  protected readonly draft = linkedSignal<unknown, ToldDraft>({
    source: () => [this.partId(), this.paper()],
    computation: () => draftOf(untracked(this.room), this.paper()),
  });
  /** Measures and meter are there: what is wrong may be said. */
  protected readonly isBegun = computed(() => {
    const { fields, music, line } = this.draft();
    return music !== null || (fields.last !== '' && fields.meter !== '') || line.includes('/');
  });
  protected readonly told = computed(() => measuresTold(this.draft().music));
  protected readonly canKeep = computed(
    () => this.draft().music !== null && this.draft().issues.length === 0,
  );
  protected readonly ribbon = computed((): readonly RibbonMeasure[] =>
    (this.told()?.measures ?? []).map(({ index, number, quarters }) => ({
      ...{ index, number, quarters },
      isAsked: true,
    })),
  );
  protected readonly measuresWord = computed(() => capital(measureWord(2, this.vocabulary())));
  protected readonly summary = computed(() => {
    const told = this.told();
    if (!told) return '';
    const count = told.measures.length;
    const { straight, unrolled } = told.seconds;
    const lasts =
      straight === null
        ? 'without a tempo no seconds are known'
        : unrolled !== null && Math.abs(unrolled - straight) > 0.05
          ? `${secondsText(straight)}, with repeats ${secondsText(unrolled)}`
          : secondsText(straight);
    return `${count} ${measureWord(count, this.vocabulary())}, ${lasts}.`;
  });

  protected set(name: keyof ToldFields, text: string): void {
    this.draft.update(({ fields }) => ofFields({ ...fields, [name]: text }));
  }

  protected setLine(line: string): void {
    this.draft.update(({ fields }) => ofLine(line, fields));
  }

  protected keep(): void {
    if (!this.canKeep() || this.isBusy()) return;
    const { programPartId, workTitle } = this.room();
    const title = this.paper()?.title ?? (workTitle === '' ? null : workTitle);
    const paper = { title, line: this.draft().line, typed: this.paper()?.typed ?? [] };
    const file = new File([writePaper(paper)], 'told.json', { type: 'application/json' });
    this.isBusy.set(true);
    this.failure.set(null);
    this.api
      .upload(programPartId, newId(), file)
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: (room) => {
          this.isBusy.set(false);
          this.kept.emit(room);
        },
        error: (error: unknown) => {
          this.isBusy.set(false);
          this.failure.set(troubleOf(error).message);
        },
      });
  }
}
