import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  output,
  signal,
  viewChild,
  type AfterViewInit,
} from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { catchError, EMPTY, filter, switchMap } from 'rxjs';
import type { NotePlace } from '@vivid-cue/core/reading';
import { inSpan, type Span } from '@vivid-cue/core/score';
import { Engraver, type EngravedPart, type EngravedSheetNews } from '../../data/engraver';
import { followPointer } from '../../ui/follow-pointer';
import { inSlices, nextFrame } from '../../ui/frames';
import { scrollInside } from '../../ui/scroll-inside';
import { Turns } from '../../ui/turns';
import { EngravedSheet } from './engraved-sheet';
import { noteNear, type ChosenMarks, type ScoreMarks } from './score-marks';
import { signBox, signsOf } from '../../ui/svg-picture';

/** Redraw only when the width changed by more than this: scroll bars come and go. */
const WIDTH_STEP_PX = 40;
/** Sheets are drawn before they come into sight by so much. */
const NEAR_PX = 500;
/** A selection is kept in sight for so long, in milliseconds, whatever opens beside it. */
const FOLLOW_MS = 1500;
/** A sign that is let go farther from every staff goes back. */
const LOST_PX = 80;

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
  host: { '(click)': 'pick($event)', '(pointerdown)': 'drag($event)' },
})
export class EngravedScore implements AfterViewInit {
  private readonly engraver = inject(Engraver);
  private readonly stage = viewChild.required<ElementRef<HTMLElement>>('stage');
  private readonly destroyRef = inject(DestroyRef);

  readonly part = input.required<EngravedPart>();
  readonly label = input.required<string>();
  readonly asked = input<readonly Span[]>([]);
  readonly selection = input<Span | null>(null);
  readonly marks = input<ScoreMarks | null>(null);
  readonly chosen = input<ChosenMarks | null>(null);
  readonly hasDynamics = input(false);
  readonly pickMeasure = output<{ readonly index: number; readonly isWidening: boolean }>();
  readonly pickNote = output<NotePlace>();
  /** A sign was dragged to another note. */
  readonly moveCue = output<{ readonly cueId: string; readonly to: NotePlace }>();

  protected readonly failure = signal<string | null>(null);
  protected readonly isWorking = signal(true);
  private readonly widthPx = signal(0);
  private sheets: readonly EngravedSheet[] = [];
  /** The signs that the sheets use, by name. */
  private signs: Element | null = null;
  /** When the selection changed last. */
  private lookedAt = 0;
  /** Sheets near the eye that are not drawn yet. */
  private readonly due = new Turns<EngravedSheet>((sheet) => this.draw(sheet));
  /** Every marking makes the ones before stop. */
  private marking = 0;
  private near: IntersectionObserver | null = null;

  constructor() {
    const wish = computed(() => ({ part: this.part(), widthPx: this.widthPx() }));
    toObservable(wish)
      .pipe(
        filter(({ widthPx }) => widthPx > 0),
        switchMap(({ part, widthPx }) => {
          this.begin();
          return this.engraver.engrave(part, widthPx).pipe(
            catchError((error: unknown) => {
              this.failure.set(error instanceof Error ? error.message : 'This score cannot be engraved.');
              this.isWorking.set(false);
              return EMPTY;
            }),
          );
        }),
        takeUntilDestroyed(),
      )
      .subscribe((news) => this.add(news));
    effect(() => {
      const spans = { asked: this.asked(), selection: this.selection() };
      for (const sheet of this.sheets) sheet.markSpans(spans);
      this.lookedAt = performance.now();
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
    const box = this.stage().nativeElement.closest('.score');
    // What opens over the music with a selection must not hide it.
    const follower = new ResizeObserver(() => {
      if (performance.now() - this.lookedAt < FOLLOW_MS) this.scrollTo(this.selection());
    });
    if (box) follower.observe(box);
    this.destroyRef.onDestroy(() => {
      observer.disconnect();
      follower.disconnect();
      this.near?.disconnect();
      this.marking += 1;
    });
  }

  private begin(): void {
    this.isWorking.set(true);
    this.failure.set(null);
  }

  /** Puts the next sheet under those that came; the first takes the place of what was there. */
  private add({ sheet, glyphs, isFirst }: EngravedSheetNews): void {
    const stage = this.stage().nativeElement;
    if (isFirst) {
      this.near?.disconnect();
      this.near = this.watch();
      this.sheets = [];
      this.due.clear();
      this.signs = signBox();
      stage.replaceChildren(this.signs);
    }
    if (glyphs !== '') this.signs?.append(...signsOf(glyphs));
    const next = new EngravedSheet(sheet, this.sheets.at(-1)?.endIndex ?? 0);
    this.sheets = [...this.sheets, next];
    stage.append(next.box);
    this.near?.observe(next.box);
    const selection = this.selection();
    if (inSpan(next, selection?.fromIndex ?? -1)) this.scrollTo(selection);
  }

  /** Draws each sheet when it comes near the eye. */
  private watch(): IntersectionObserver {
    const near = new IntersectionObserver(
      (entries) => {
        const boxes = new Set(
          entries.filter(({ isIntersecting }) => isIntersecting).map(({ target }) => target),
        );
        const fresh = this.sheets.filter(({ box, isDrawn }) => boxes.has(box) && !isDrawn);
        for (const { box } of fresh) near.unobserve(box);
        this.due.add(fresh);
      },
      { root: this.stage().nativeElement.closest('.score'), rootMargin: `${NEAR_PX}px 0px` },
    );
    return near;
  }

  /** A few measures a frame. */
  private async draw(sheet: EngravedSheet): Promise<void> {
    const { near } = this;
    await nextFrame();
    if (near !== this.near) return;
    sheet.open();
    this.isWorking.set(false);
    await nextFrame();
    // Marked before it is seen.
    const selection = this.selection();
    sheet.mark({ asked: this.asked(), selection, layers: this.marks(), chosen: this.chosen() });
    do await nextFrame();
    while (near === this.near && !sheet.drawNext());
    if (inSpan(sheet, selection?.fromIndex ?? -1)) this.scrollTo(this.selection());
  }

  private scrollTo(selection: Span | null): void {
    if (!selection) return;
    const { fromIndex } = selection;
    const sheet = this.sheets.find((one) => inSpan(one, fromIndex));
    // Places are asked for when the frame is laid out anyway.
    requestAnimationFrame(() =>
      scrollInside(this.stage().nativeElement.closest('.score'), sheet?.measureAt(fromIndex)),
    );
  }

  protected pick(event: MouseEvent): void {
    const place = this.placeAt(event.target, event.clientX);
    if (!place) return;
    this.pickMeasure.emit({ index: place.index, isWidening: event.shiftKey });
    if (place.note !== null && !event.shiftKey) this.pickNote.emit({ index: place.index, note: place.note });
  }

  /** The measure under a place of the screen, and the note that is near it. */
  private placeAt(
    target: EventTarget | null,
    x: number,
    reach?: number,
  ): { readonly index: number; readonly note: number | null } | null {
    const measure = target instanceof Element ? target.closest('g.measure') : null;
    if (!measure) return null;
    const index = Math.max(-1, ...this.sheets.map((sheet) => sheet.indexOf(measure)));
    if (index < 0) return null;
    const own = this.marks()?.engraved[index] ?? [];
    return { index, note: noteNear(measure, own, { x, ...(reach !== undefined && { reach }) }) };
  }

  /** A sign goes along with the finger, and lands at the nearest note. */
  protected drag(event: PointerEvent): void {
    const sign =
      event.target instanceof SVGElement ? event.target.closest<SVGGraphicsElement>('[data-cue]') : null;
    const cueId = sign?.dataset['cue'];
    if (!sign || cueId === undefined || event.button > 0) return;
    event.preventDefault();
    const { height } = sign.getBoundingClientRect();
    const unit = height > 0 ? sign.getBBox().height / height : 1;
    followPointer(event, {
      move: (x, y) => sign.setAttribute('transform', `translate(${x * unit} ${y * unit})`),
      end: () => sign.removeAttribute('transform'),
      drop: (x, y) => {
        // The sign itself is in the way of what lies under it.
        const under = document
          .elementsFromPoint(x, y)
          .find((one) => one.closest('[data-cue]') === null && one.closest('g.measure') !== null);
        const to = this.placeAt(under ?? this.nearestMeasure(x, y), x, Infinity);
        if (to?.note != null) this.moveCue.emit({ cueId, to: { index: to.index, note: to.note } });
      },
    });
  }

  /** Between the lines of notes no measure is hit: the one whose staff is nearest counts. */
  private nearestMeasure(x: number, y: number): Element | null {
    const staves = [...this.stage().nativeElement.querySelectorAll('g.measure')].map((measure) => {
      const { left, right, top, bottom } = measure.getBoundingClientRect();
      const [across, down] = [Math.max(left - x, 0, x - right), Math.max(top - y, 0, y - bottom)];
      return { measure, away: Math.hypot(across, down) };
    });
    const [nearest] = staves.sort((a, b) => a.away - b.away);
    return nearest && nearest.away < LOST_PX ? nearest.measure : null;
  }
}
