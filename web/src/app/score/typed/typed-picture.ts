import {
  ChangeDetectionStrategy,
  Component,
  effect,
  inject,
  input,
  signal,
  viewChild,
  type ElementRef,
} from '@angular/core';
import { Engraver, type EngravedPart } from '../../data/engraver';
import { pictureOf } from '../../ui/svg-picture';

/** A typed passage as it is engraved, again with every note. */
@Component({
  selector: 'vc-typed-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div #stage class="stage" role="img" tabindex="0" [attr.aria-label]="label()"></div>
    @if (failure()) {
      <p class="wrong" role="alert">{{ failure() }}</p>
    }
  `,
  styles: `
    :host {
      display: block;
    }
    .stage {
      overflow-x: auto;
      min-height: 92px;
      background: var(--score-ground);
      color: var(--score-ink);
    }
    p {
      margin: 0;
    }
  `,
})
export class TypedPicture {
  private readonly engraver = inject(Engraver);
  private readonly stage = viewChild.required<ElementRef<HTMLElement>>('stage');

  /** The passage as MusicXML; null where nothing of it can be engraved. */
  readonly musicXml = input.required<string | null>();
  readonly numbers = input<readonly string[]>([]);
  readonly label = input('');
  protected readonly failure = signal('');
  private drawing = 0;

  constructor() {
    effect(() => void this.draw(this.musicXml(), this.numbers()));
  }

  private async draw(musicXml: string | null, numbers: readonly string[]): Promise<void> {
    this.drawing += 1;
    const own = this.drawing;
    const stage = this.stage().nativeElement;
    if (musicXml === null || numbers.length === 0) {
      stage.replaceChildren();
      return;
    }
    try {
      const part: EngravedPart = { musicXml, partId: 'P1', numbers };
      const svg = await this.engraver.excerpt(part, { fromIndex: 0, endIndex: numbers.length });
      if (own !== this.drawing) return;
      const picture = pictureOf(svg);
      picture.style.width = `${Math.round(Number(picture.getAttribute('viewBox')?.split(' ')[2]))}px`;
      stage.replaceChildren(picture);
      this.failure.set('');
    } catch (error) {
      if (own === this.drawing)
        this.failure.set(error instanceof Error ? error.message : 'This cannot be engraved.');
    }
  }
}
