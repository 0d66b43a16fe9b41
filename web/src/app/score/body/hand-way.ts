import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { capital, groupBy } from '@vivid-cue/core/base';
import { handSign, type HandChoice, type HandPath, type HandSolver } from '@vivid-cue/core/hands';
import type { CueInput } from '@vivid-cue/contract';
import { RoomStore } from '../room/room-store';
import { StudioWords } from '../../ui/studio-words';
import { BodyStore } from './body-store';

const NAMES: Readonly<Record<HandSolver, string>> = {
  slide: 'Slide',
  fingers: 'Little fingers and alternates',
  valves: 'Valves',
  sticking: 'Sticking',
  bow: 'Bowing',
  strings: 'Strings',
};

/** A way of the hands note by note: what it saves, each choice to be pressed, and one press that writes it in. */
@Component({
  selector: 'vc-hand-way',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, FormsModule, StudioWords],
  templateUrl: './hand-way.html',
  styleUrl: './hand-way.css',
})
export class HandWay {
  protected readonly store = inject(BodyStore);
  private readonly room = inject(RoomStore);

  readonly way = input.required<{ readonly solver: HandSolver; readonly path: HandPath }>();
  readonly look = output<number>();
  readonly write = output<readonly CueInput[]>();

  protected readonly name = computed(() => NAMES[this.way().solver]);
  protected readonly cues = computed(() => this.store.cuesOfWay(this.way()));
  protected readonly rows = computed(() =>
    [...groupBy(this.way().path.notes, ({ measureIndex }) => measureIndex)].map(([index, own]) => ({
      index,
      number: this.room.room()?.score?.digest.measures[index]?.number ?? '',
      notes: own,
    })),
  );

  protected shortChoice(choice: string): string {
    return handSign(this.way().solver, choice) || '·';
  }

  /** The bow that goes on has no choice of its own. */
  protected isUnderSlur({ isSlurred }: HandChoice): boolean {
    return isSlurred && this.way().solver === 'bow';
  }

  protected choiceLabel({ measure, ordinal, choice, alternatives, isPinned }: HandChoice): string {
    const more = alternatives.length === 0 ? '' : `, else ${alternatives.join(', ')}`;
    return `${capital(measure)}, note ${ordinal}: ${choice}${isPinned ? ', settled' : ''}${more}`;
  }
}
