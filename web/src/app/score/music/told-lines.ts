import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { measureWord, type Vocabulary } from '@vivid-cue/core/music';
import type { Span } from '@vivid-cue/core/score';
import type { CueView, ScoreRoomView } from '@vivid-cue/contract';
import { capital } from '@vivid-cue/core/base';
import { cueTexts, isAskedFor, isSelected, keepSelectionInSight } from './measure-boxes';
import { toldRows, type ToldBox } from './told-rows';

/** Music without notes: its measures in lines as a page has them, with all that belongs to measures drawn over it. */
@Component({
  selector: 'vc-told-lines',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './told-lines.html',
  styleUrl: './told-lines.css',
})
export class ToldLines {
  /** The score whose measures are shown. */
  readonly score = input.required<NonNullable<ScoreRoomView['score']>>();
  /** What was told, for its repeats. */
  readonly line = input('');
  /** What the sheet asks for. */
  readonly asked = input<readonly Span[]>([]);
  readonly selection = input<Span | null>(null);
  readonly cues = input<readonly CueView[]>([]);
  readonly vocabulary = input<Vocabulary>('us');
  /** A measure was picked. */
  readonly pickMeasure = output<{ readonly index: number; readonly isWidening: boolean }>();

  protected readonly rows = computed(() => toldRows(this.score().digest, this.line()));
  private readonly cuesAt = computed(() => cueTexts(this.cues()));

  constructor() {
    keepSelectionInSight(this.selection);
  }

  protected cuesOf({ index }: ToldBox): string {
    return this.cuesAt().get(index) ?? '';
  }

  protected isAsked({ index }: ToldBox): boolean {
    return isAskedFor(this.asked(), index);
  }

  protected isChosen({ index }: ToldBox): boolean {
    return isSelected(this.selection(), index);
  }

  protected nameOf(box: ToldBox): string {
    const said = [box.meter, box.letter === null ? '' : `letter ${box.letter}`, box.value, this.cuesOf(box)];
    return [
      `${capital(measureWord(1, this.vocabulary()))} ${box.number || 'before the first'}`,
      ...said.filter((text) => text),
    ].join(', ');
  }
}
