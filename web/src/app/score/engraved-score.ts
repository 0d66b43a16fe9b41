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
import { EngravedSheet } from './engraved-sheet';
import type { ChosenMarks, ScoreMarks } from './score-marks';
import { inSlices } from './svg-picture';

/** Redraw only when the width changed by more than this: scroll bars come and go. */
const WIDTH_STEP_PX = 40;
/** Sheets are drawn before they come into sight by so much. */
const NEAR_PX = 500;

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
  private sheets: readonly EngravedSheet[] = [];
  /** Every drawing makes the ones before stop, and so does every marking. */
  private drawing = 0;
  private marking = 0;
  private near: IntersectionObserver | null = null;

  constructor() {
    effect(() => {
      const widthPx = this.widthPx();
      if (widthPx > 0) void this.draw(this.part(), widthPx);
    });
    effect(() => {
      const spans = { asked: this.asked(), selection: this.selection() };
      for (const sheet of this.sheets) sheet.markSpans(spans);
      this.scrollTo(spans.selection);
    });
    effect(() => {
      const layers = this.marks();
      this.marking += 1;
      const own = this.marking;
      void inSlices(
        this.sheets,
        (sheet) => sheet.markLayers(layers),
        () => own === this.marking,
      );
    });
    effect(() => {
      const marks = { chosen: this.chosen(), layers: this.marks() };
      for (const sheet of this.sheets) sheet.markChosen(marks);
    });
  }

  ngAfterViewInit(): void {
    const observer = new ResizeObserver(([entry]) => {
      const width = Math.round(entry?.contentRect.width ?? 0);
      if (Math.abs(width - this.widthPx()) > WIDTH_STEP_PX) this.widthPx.set(width);
    });
    observer.observe(this.stage().nativeElement);
    this.destroyRef.onDestroy(() => {
      observer.disconnect();
      this.near?.disconnect();
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
      if (own !== this.drawing) return;
      this.near?.disconnect();
      let from = 0;
      this.sheets = pages.map((page) => {
        const sheet = new EngravedSheet(page, from);
        from = sheet.endIndex;
        return sheet;
      });
      this.stage().nativeElement.replaceChildren(...this.sheets.map(({ box }) => box));
      this.watch(this.sheets);
    } catch (error) {
      if (own !== this.drawing) return;
      this.failure.set(error instanceof Error ? error.message : 'This score cannot be engraved.');
      this.isWorking.set(false);
    }
  }

  /** Draws each sheet when it comes near the eye. */
  private watch(sheets: readonly EngravedSheet[]): void {
    const near = new IntersectionObserver(
      (entries) => {
        const boxes = new Set(
          entries.filter(({ isIntersecting }) => isIntersecting).map(({ target }) => target),
        );
        const fresh = sheets.filter(({ box, isDrawn }) => boxes.has(box) && !isDrawn);
        for (const { box } of fresh) near.unobserve(box);
        void inSlices(
          fresh,
          (sheet) => this.drawSheet(sheet),
          () => sheets === this.sheets,
          1,
        );
      },
      { root: this.stage().nativeElement.closest('.score'), rootMargin: `${NEAR_PX}px 0px` },
    );
    for (const { box } of sheets) near.observe(box);
    this.near = near;
  }

  private drawSheet(sheet: EngravedSheet): void {
    sheet.draw();
    this.isWorking.set(false);
    const selection = this.selection();
    sheet.mark({ asked: this.asked(), selection, layers: this.marks(), chosen: this.chosen() });
    const at = selection?.fromIndex ?? -1;
    if (sheet.from <= at && at < sheet.endIndex) this.scrollTo(selection);
  }

  private scrollTo(selection: Span | null): void {
    if (!selection) return;
    const { fromIndex } = selection;
    const sheet = this.sheets.find(({ from, endIndex }) => from <= fromIndex && fromIndex < endIndex);
    // Places are asked for when the frame is laid out anyway.
    requestAnimationFrame(() =>
      scrollInside(this.stage().nativeElement.closest('.score'), sheet?.measureAt(fromIndex)),
    );
  }

  protected pick(event: MouseEvent): void {
    const measure = event.target instanceof Element ? event.target.closest('g.measure') : null;
    if (!measure) return;
    const index = Math.max(-1, ...this.sheets.map((sheet) => sheet.indexOf(measure)));
    if (index >= 0) this.pickMeasure.emit({ index, isWidening: event.shiftKey });
  }
}
