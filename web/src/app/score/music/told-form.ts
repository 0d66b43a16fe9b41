import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  untracked,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { capital } from '@vivid-cue/core/base';
import { measureWord } from '@vivid-cue/core/music';
import type { PaperMusic } from '@vivid-cue/core/paper';
import type { ScoreRoomView } from '@vivid-cue/contract';
import { SessionStore } from '../../data/session-store';
import { ProblemNote } from '../../ui/problem-note';
import { StudioWords } from '../../ui/studio-words';
import { MeasureRibbon } from '../ribbon/measure-ribbon';
import { DifferenceNote } from './difference-note';
import { PaperKeeper } from './paper-keeper';
import { draftOf, measuresTold, ribbonOf, titleOf, toldSummary, type ToldDraft } from './told-draft';
import { ToldFields } from './told-fields';

/** Music on paper is told: fields and one line that say the same, and the ribbon that grows of them. */
@Component({
  selector: 'vc-told-form',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, DifferenceNote, FormsModule, MeasureRibbon, ProblemNote, StudioWords, ToldFields],
  providers: [PaperKeeper],
  templateUrl: './told-form.html',
  styleUrl: './told-form.css',
})
export class ToldForm {
  protected readonly keeper = inject(PaperKeeper);
  private readonly session = inject(SessionStore);

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

  protected readonly vocabulary = this.session.vocabulary;
  private readonly partId = computed(() => this.room().programPartId);
  /** What is typed stays while the room changes around it. */
  protected readonly draft = linkedSignal<unknown, ToldDraft>({
    source: () => [this.partId(), this.paper()],
    computation: () => draftOf(untracked(this.room), this.paper()),
  });
  protected readonly told = computed(() => measuresTold(this.draft().music));
  protected readonly canKeep = computed(
    () => this.draft().music !== null && this.draft().issues.length === 0,
  );
  protected readonly ribbon = computed(() => ribbonOf(this.told()?.measures ?? []));
  protected readonly measuresWord = computed(() => capital(measureWord(2, this.vocabulary())));
  protected readonly summary = computed(() => toldSummary(this.told(), this.vocabulary()));

  protected keep(): void {
    if (!this.canKeep()) return;
    const { typed, pages } = this.paper() ?? { typed: [], pages: [] };
    const paper = { title: titleOf(this.room(), this.paper()), line: this.draft().line, typed, pages };
    this.keeper.keep(this.partId(), paper, (room) => this.kept.emit(room));
  }
}
