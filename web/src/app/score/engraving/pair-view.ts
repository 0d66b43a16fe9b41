import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
  Component,
  effect,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { Button } from 'primeng/button';
import type { EngravedNote, NotePlace } from '@vivid-cue/core/reading';
import type { Span } from '@vivid-cue/core/score';
import { Engraver, type EngravedPart } from '../../data/engraver';
import { drawChosen } from './score-marks';
import { pictureOf } from '../../ui/svg-picture';

/** One side of a comparison. */
export interface PairSide {
  readonly part: EngravedPart;
  readonly span: Span;
  readonly notes: readonly NotePlace[];
  readonly engraved: readonly (readonly EngravedNote[])[];
  readonly label: string;
}

/** Two stretches of music side by side, the notes in which they differ marked in both. */
@Component({
  selector: 'vc-pair-view',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button],
  template: `
    <div class="head">
      <strong>Side by side</strong>
      <span class="sentence">{{ sentence() }}</span>
      <p-button
        icon="pi pi-times"
        size="small"
        severity="secondary"
        [text]="true"
        ariaLabel="Close the comparison"
        (onClick)="leave.emit()"
      />
    </div>
    <div class="sides">
      <figure>
        <figcaption class="mono">{{ a().label }}</figcaption>
        <div #left class="excerpt" role="img" tabindex="0" [attr.aria-label]="'Engraved, ' + a().label"></div>
      </figure>
      <figure>
        <figcaption class="mono">{{ b().label }}</figcaption>
        <div
          #right
          class="excerpt"
          role="img"
          tabindex="0"
          [attr.aria-label]="'Engraved, ' + b().label"
        ></div>
      </figure>
    </div>
    @if (failure()) {
      <p class="wrong" role="alert">{{ failure() }}</p>
    }
  `,
  styles: `
    :host {
      display: block;
      height: 186px;
      overflow-y: auto;
      padding: 8px 12px 10px;
      border: 1px solid var(--rule-strong);
      border-radius: 4px;
      background: var(--score-ground);
      color: var(--score-ink);
    }
    .head {
      display: flex;
      gap: 12px;
      align-items: baseline;
    }
    .sentence {
      flex: 1;
    }
    .sides {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(min(100%, 300px), 1fr));
      gap: 12px;
    }
    figure {
      min-width: 0;
      margin: 0;
    }
    figcaption {
      font-size: 14px;
      font-weight: 600;
    }
    .excerpt {
      min-height: 84px;
      overflow-x: auto;
    }
  `,
})
export class PairView {
  private readonly engraver = inject(Engraver);
  private readonly left = viewChild.required<ElementRef<HTMLElement>>('left');
  private readonly right = viewChild.required<ElementRef<HTMLElement>>('right');

  readonly a = input.required<PairSide>();
  readonly b = input.required<PairSide>();
  readonly sentence = input('');
  readonly leave = output<void>();
  protected readonly failure = signal('');
  private drawing = 0;

  constructor() {
    effect(() => void this.draw(this.a(), this.b()));
  }

  private async draw(a: PairSide, b: PairSide): Promise<void> {
    this.drawing += 1;
    const own = this.drawing;
    this.failure.set('');
    try {
      const pages = [
        await this.engraver.excerpt(a.part, a.span),
        await this.engraver.excerpt(b.part, b.span),
      ] as const;
      if (own !== this.drawing) return;
      show(this.left().nativeElement, pages[0], a);
      show(this.right().nativeElement, pages[1], b);
    } catch (error) {
      this.failure.set(error instanceof Error ? error.message : 'This comparison cannot be engraved.');
    }
  }
}

function show(stage: HTMLElement, svg: string, { span, notes, engraved }: PairSide): void {
  const picture = pictureOf(svg);
  // As large as the music above it, not as wide as the box.
  const width = Number(picture.getAttribute('viewBox')?.split(' ')[2]);
  picture.style.width = `${Math.round(width)}px`;
  stage.replaceChildren(picture);
  const chosen = { places: new Set(notes.map(({ index }) => index)), notes };
  [...stage.querySelectorAll('g.measure')].forEach((measure, n) =>
    drawChosen(measure, span.fromIndex + n, { chosen, engraved }),
  );
}
