import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  output,
} from '@angular/core';
import { measureWord, type Vocabulary } from '@vivid-cue/core/music';
import { inRuns, inSpan, type Span } from '@vivid-cue/core/score';
import type { CueView, ScoreRoomView } from '@vivid-cue/contract';
import { capital } from '@vivid-cue/core/base';
import { scrollInside } from '../../ui/scroll-inside';
import { toldRows, type ToldBox } from './told-rows';

/** Music without notes: its measures in lines as a page has them, with all that belongs to measures drawn over it. */
@Component({
  selector: 'vc-told-lines',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './told-lines.html',
  styleUrl: './told-lines.css',
})
export class ToldLines {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

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
  private readonly cuesAt = computed(() => {
    const at = new Map<number, string[]>();
    for (const { fromIndex, text } of this.cues()) at.set(fromIndex, [...(at.get(fromIndex) ?? []), text]);
    return at;
  });

  constructor() {
    effect(() => {
      const index = this.selection()?.fromIndex;
      const box =
        index === undefined
          ? null
          : this.host.nativeElement.querySelector<HTMLElement>(`[data-at="${index}"]`);
      const frame = this.host.nativeElement.closest<HTMLElement>('.score');
      if (box && frame) scrollInside(frame, box);
    });
  }

  protected cuesOf({ index }: ToldBox): string {
    return (this.cuesAt().get(index) ?? []).join(' · ');
  }

  protected isAsked({ index }: ToldBox): boolean {
    return this.asked().length === 0 || inRuns(this.asked(), index);
  }

  protected isChosen({ index }: ToldBox): boolean {
    const span = this.selection();
    return span !== null && inSpan(span, index);
  }

  protected nameOf(box: ToldBox): string {
    const said = [box.meter, box.letter === null ? '' : `letter ${box.letter}`, box.value, this.cuesOf(box)];
    return [
      `${capital(measureWord(1, this.vocabulary()))} ${box.number || 'before the first'}`,
      ...said.filter((text) => text),
    ].join(', ');
  }
}
