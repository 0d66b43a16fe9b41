import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  effect,
  inject,
  input,
  output,
  signal,
  viewChild,
  type AfterViewInit,
} from '@angular/core';
import type { Span } from '@vivid-cue/core/score';
import { Engraver } from '../data/engraver';

/** Redraw only when the width changed by more than this: scroll bars come and go. */
const WIDTH_STEP_PX = 40;

/** The engraved part; the asked measures and the selection are marked in it, and a measure can be picked. */
@Component({
  selector: 'vc-engraved-score',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (failure()) {
      <p class="note" role="status">{{ failure() }}</p>
    } @else if (isWorking()) {
      <p class="note" role="status">Engraving …</p>
    }
    <div #stage class="stage" role="img" [attr.aria-label]="label()"></div>
  `,
  styles: `
    :host {
      display: block;
      min-height: 160px;
    }
    .note {
      padding: 12px 16px;
      color: var(--score-ink);
    }
  `,
  host: { '(click)': 'pick($event)' },
})
export class EngravedScore implements AfterViewInit {
  private readonly engraver = inject(Engraver);
  private readonly stage = viewChild.required<ElementRef<HTMLElement>>('stage');
  private readonly destroyRef = inject(DestroyRef);

  readonly musicXml = input.required<string>();
  readonly partId = input.required<string>();
  readonly label = input.required<string>();
  readonly asked = input<Span | null>(null);
  readonly selection = input<Span | null>(null);
  readonly pickMeasure = output<number>();

  protected readonly failure = signal<string | null>(null);
  protected readonly isWorking = signal(true);
  private readonly widthPx = signal(0);
  private readonly drawn = signal(0);

  constructor() {
    effect(() => {
      const widthPx = this.widthPx();
      if (widthPx > 0) void this.draw(this.musicXml(), this.partId(), widthPx);
    });
    effect(() => {
      this.drawn();
      this.mark(this.asked(), this.selection());
    });
  }

  ngAfterViewInit(): void {
    const observer = new ResizeObserver(([entry]) => {
      const width = Math.round(entry?.contentRect.width ?? 0);
      if (Math.abs(width - this.widthPx()) > WIDTH_STEP_PX) this.widthPx.set(width);
    });
    observer.observe(this.stage().nativeElement);
    this.destroyRef.onDestroy(() => observer.disconnect());
  }

  private async draw(musicXml: string, partId: string, widthPx: number): Promise<void> {
    this.isWorking.set(true);
    this.failure.set(null);
    try {
      this.show(await this.engraver.engrave(musicXml, partId, widthPx));
      this.drawn.update((count) => count + 1);
    } catch (error) {
      this.failure.set(error instanceof Error ? error.message : 'This score cannot be engraved.');
    }
    this.isWorking.set(false);
  }

  /** Puts the picture in as elements, without anything that could act. */
  private show(svg: string): void {
    const picture = new DOMParser().parseFromString(svg, 'image/svg+xml').documentElement;
    for (const node of picture.querySelectorAll('script, foreignObject, a')) node.remove();
    for (const node of picture.querySelectorAll('*')) {
      for (const { name } of [...node.attributes]) if (name.startsWith('on')) node.removeAttribute(name);
    }
    picture.setAttribute('class', 'picture');
    picture.setAttribute('aria-hidden', 'true');
    this.stage().nativeElement.replaceChildren(document.importNode(picture, true));
  }

  private mark(asked: Span | null, selection: Span | null): void {
    const inside = (span: Span | null, index: number): boolean =>
      span !== null && span.fromIndex <= index && index < span.endIndex;
    this.measures().forEach((node, index) => {
      node.classList.toggle('is-outside', asked !== null && !inside(asked, index));
      node.classList.toggle('is-chosen', inside(selection, index));
    });
    const first = selection ? this.measures()[selection.fromIndex] : undefined;
    first?.scrollIntoView({ block: 'nearest' });
  }

  private measures(): readonly Element[] {
    return [...this.stage().nativeElement.querySelectorAll('g.measure')];
  }

  protected pick(event: Event): void {
    const measure = event.target instanceof Element ? event.target.closest('g.measure') : null;
    const index = measure ? this.measures().indexOf(measure) : -1;
    if (index >= 0) this.pickMeasure.emit(index);
  }
}
