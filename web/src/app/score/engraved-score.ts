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
import { Engraver, type EngravedPart } from '../data/engraver';
import { scrollInside } from '../ui/scroll-inside';
import { clearMarks, drawChosen, drawLayers, type ChosenMarks, type ScoreMarks } from './score-marks';
import { inSlices, pictureOf } from './svg-picture';

/** Redraw only when the width changed by more than this: scroll bars come and go. */
const WIDTH_STEP_PX = 40;

/** The engraved part; layers, the asked measures and the selection are marked in it, and a measure can be picked. */
@Component({
  selector: 'vc-engraved-score',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (failure()) {
      <p class="note" role="status">{{ failure() }}</p>
    } @else if (isWorking()) {
      <p class="note" role="status">Engraving …</p>
    }
    <div
      #stage
      class="stage"
      role="img"
      [class.has-dynamics]="hasDynamics()"
      [attr.aria-label]="label()"
    ></div>
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

  readonly part = input.required<EngravedPart>();
  readonly label = input.required<string>();
  readonly asked = input<Span | null>(null);
  readonly selection = input<Span | null>(null);
  readonly marks = input<ScoreMarks | null>(null);
  readonly chosen = input<ChosenMarks | null>(null);
  readonly hasDynamics = input(false);
  readonly pickMeasure = output<{ readonly index: number; readonly isWidening: boolean }>();

  protected readonly failure = signal<string | null>(null);
  protected readonly isWorking = signal(true);
  private readonly widthPx = signal(0);
  /** The drawn measures in the order of the music. */
  private readonly measures = signal<readonly Element[]>([]);
  /** Every drawing makes the ones before stop. */
  private drawing = 0;
  private marking = 0;

  constructor() {
    effect(() => {
      const widthPx = this.widthPx();
      if (widthPx > 0) void this.draw(this.part(), widthPx);
    });
    effect(() => this.markSpans(this.measures(), { asked: this.asked(), selection: this.selection() }));
    effect(() => void this.markLayers(this.measures(), this.marks()));
    effect(() => this.markChosen(this.measures(), this.chosen(), this.marks()?.engraved ?? []));
  }

  ngAfterViewInit(): void {
    const observer = new ResizeObserver(([entry]) => {
      const width = Math.round(entry?.contentRect.width ?? 0);
      if (Math.abs(width - this.widthPx()) > WIDTH_STEP_PX) this.widthPx.set(width);
    });
    observer.observe(this.stage().nativeElement);
    this.destroyRef.onDestroy(() => {
      observer.disconnect();
      this.drawing += 1;
      this.marking += 1;
    });
  }

  private async draw(part: EngravedPart, widthPx: number): Promise<void> {
    this.drawing += 1;
    const own = this.drawing;
    this.isWorking.set(true);
    this.failure.set(null);
    try {
      const pages = await this.engraver.engrave(part, widthPx);
      const stage = this.stage().nativeElement;
      const fresh = document.createDocumentFragment();
      await inSlices(
        pages,
        (page) => fresh.append(pictureOf(page)),
        () => own === this.drawing,
      );
      if (own !== this.drawing) return;
      stage.replaceChildren(fresh);
      this.measures.set([...stage.querySelectorAll('g.measure')]);
    } catch (error) {
      if (own !== this.drawing) return;
      this.failure.set(error instanceof Error ? error.message : 'This score cannot be engraved.');
    }
    this.isWorking.set(false);
  }

  private markSpans(
    measures: readonly Element[],
    { asked, selection }: { readonly asked: Span | null; readonly selection: Span | null },
  ): void {
    const inside = (span: Span | null, index: number): boolean =>
      span !== null && span.fromIndex <= index && index < span.endIndex;
    measures.forEach((node, index) => {
      node.classList.toggle('is-outside', asked !== null && !inside(asked, index));
      node.classList.toggle('is-chosen', inside(selection, index));
    });
    const first = selection ? measures[selection.fromIndex] : undefined;
    scrollInside(this.stage().nativeElement.closest('.score'), first);
  }

  private async markLayers(measures: readonly Element[], marks: ScoreMarks | null): Promise<void> {
    this.marking += 1;
    const own = this.marking;
    const entries = [...measures.entries()];
    await inSlices(
      entries,
      ([index, measure]) => {
        clearMarks(measure, 'layers');
        if (marks) drawLayers(measure, index, marks);
      },
      () => own === this.marking,
    );
  }

  private markChosen(
    measures: readonly Element[],
    chosen: ChosenMarks | null,
    engraved: ScoreMarks['engraved'],
  ): void {
    for (const old of this.stage().nativeElement.querySelectorAll('.vc-mark[data-layer="chosen"]'))
      old.remove();
    if (!chosen) return;
    for (const index of chosen.places) {
      const measure = measures[index];
      if (measure) drawChosen(measure, index, { chosen, engraved });
    }
  }

  protected pick(event: MouseEvent): void {
    const measure = event.target instanceof Element ? event.target.closest('g.measure') : null;
    const index = measure ? this.measures().indexOf(measure) : -1;
    if (index >= 0) this.pickMeasure.emit({ index, isWidening: event.shiftKey });
  }
}
