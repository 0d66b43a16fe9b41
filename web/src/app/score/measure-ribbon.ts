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
  untracked,
  viewChild,
  type AfterViewInit,
} from '@angular/core';
import { STATE_WORDS } from '@vivid-cue/core/readiness';
import { measuresText, measureWord, type Vocabulary } from '@vivid-cue/core/music';
import type { Span } from '@vivid-cue/core/score';
import { CELLS_IN_GROUP, RibbonCells, type RibbonCell } from './ribbon-cells';
import { measureEdges, type RibbonBand, type RibbonMarks, type RibbonMeasure } from './ribbon-model';
import { inSlices } from './svg-picture';

/** Width in pixels that a printed number needs. */
const LABEL_PX = 30;
/** A measure this wide holds its number and a tick. */
const TICK_ROOM_PX = 34;
/** A ribbon of so many groups is drawn in one go. */
const GROUPS_AT_ONCE = 4;
const LABEL_STEPS = [1, 2, 4, 5, 8, 10, 16, 20, 32, 50, 64, 100];

/**
 * The measure ribbon: measures as wide as they last, passages as bands below. Drag over measures, or move with the
 * arrow keys and widen with Shift, to select; Enter asks to make a passage of the selection.
 */
@Component({
  selector: 'vc-measure-ribbon',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RibbonCells],
  templateUrl: './measure-ribbon.html',
  styleUrl: './measure-ribbon.css',
})
export class MeasureRibbon implements AfterViewInit {
  readonly measures = input.required<readonly RibbonMeasure[]>();
  readonly bands = input<readonly RibbonBand[]>([]);
  readonly selection = input<Span | null>(null);
  readonly openBandId = input<string | null>(null);
  readonly marks = input<RibbonMarks | null>(null);
  readonly vocabulary = input<Vocabulary>('us');
  readonly selectionChange = output<Span | null>();
  readonly make = output<void>();
  readonly openBand = output<string>();

  private readonly track = viewChild.required<ElementRef<HTMLElement>>('track');
  private readonly destroyRef = inject(DestroyRef);
  private readonly widthPx = signal(1200);
  private readonly anchor = signal(0);
  protected readonly cursor = signal(0);
  private isDragging = false;

  private readonly edges = computed(() => measureEdges(this.measures()));
  private readonly labelStep = computed(() => {
    const fits = this.widthPx() / LABEL_PX;
    return LABEL_STEPS.find((step) => this.measures().length / step <= fits) ?? 200;
  });
  /** Whether numbers leave no room for a tick beside them. */
  protected readonly isNarrow = computed(() => this.widthPx() < TICK_ROOM_PX * this.measures().length);
  private readonly cells = computed((): readonly RibbonCell[] => {
    const marks = this.marks();
    return this.measures().map((measure, n) => ({
      ...measure,
      heat: (marks?.heat?.[n] ?? 0) * 100,
      finding: marks?.findings.get(n) ?? null,
      text: marks?.texts?.[n] ?? '',
      hasBreath: marks?.breaths.has(n) ?? false,
      hasCue: marks?.cues.has(n) ?? false,
      left: this.share(n),
      width: this.share(n + 1) - this.share(n),
      hasLabel:
        n % this.labelStep() === 0 &&
        (this.share(n + 1) - this.share(n)) * this.widthPx() * this.labelStep() >= LABEL_PX / 2,
      name: [
        `${measureWord(1, this.vocabulary())} ${measure.number}`,
        measure.isAsked ? '' : 'not asked',
        marks?.findings.get(n) === 'open' ? 'finding' : '',
        marks?.cues.has(n) ? 'cue' : '',
      ]
        .filter((text) => text !== '')
        .join(', '),
    }));
  });
  /** The cells in groups, as far as they are drawn. */
  protected readonly rendered = signal<readonly (readonly RibbonCell[])[]>([]);
  private drawing = 0;

  protected readonly frame = computed(() => {
    const selection = this.selection();
    return (
      selection && {
        left: this.share(selection.fromIndex),
        width: this.share(selection.endIndex) - this.share(selection.fromIndex),
      }
    );
  });
  protected readonly lanes = computed(() => {
    const ends: number[] = [];
    const placed = this.bands().map((band) => {
      const free = ends.findIndex((end) => end <= band.fromIndex);
      const lane = free >= 0 ? free : ends.length;
      ends[lane] = band.endIndex;
      const span = measuresText(
        this.numberAt(band.fromIndex),
        this.numberAt(band.endIndex - 1),
        this.vocabulary(),
      );
      const text = band.name === span ? band.name : `${band.name}, ${span}`;
      return {
        ...band,
        lane,
        left: this.share(band.fromIndex),
        width: this.share(band.endIndex) - this.share(band.fromIndex),
        label: `${text}, ${STATE_WORDS[band.state]}`,
      };
    });
    return { placed, count: Math.max(1, ends.length) };
  });
  protected readonly activeId = computed(() => `measure-${this.cursor()}`);
  protected readonly label = computed(() => (this.vocabulary() === 'us' ? 'Measures' : 'Bars'));

  constructor() {
    effect(() => {
      const cells = this.cells();
      untracked(() => void this.draw(cells));
    });
  }

  /** A short ribbon at once, a long one group by group, so that the page is never held up. */
  private async draw(cells: readonly RibbonCell[]): Promise<void> {
    this.drawing += 1;
    const own = this.drawing;
    const groups = Array.from({ length: Math.ceil(cells.length / CELLS_IN_GROUP) }, (_, n) =>
      cells.slice(n * CELLS_IN_GROUP, (n + 1) * CELLS_IN_GROUP),
    );
    if (groups.length <= GROUPS_AT_ONCE) {
      this.rendered.set(groups);
      return;
    }
    this.rendered.update((drawn) => drawn.slice(0, groups.length));
    await inSlices(
      [...groups.entries()],
      ([at, group]) =>
        this.rendered.update((drawn) => [...drawn.slice(0, at), group, ...drawn.slice(at + 1)]),
      () => own === this.drawing,
      1,
    );
  }

  /** A measure index as a place within a group: at its edge, or `outside`, when it lies beyond. */
  protected inGroup(group: number, index: number, outside: number | null = null): number {
    const place = index - group * CELLS_IN_GROUP;
    if (outside !== null && (place < 0 || place >= CELLS_IN_GROUP)) return outside;
    return Math.min(CELLS_IN_GROUP, Math.max(0, place));
  }

  ngAfterViewInit(): void {
    const observer = new ResizeObserver(([entry]) => this.widthPx.set(entry?.contentRect.width ?? 1200));
    observer.observe(this.track().nativeElement);
    this.destroyRef.onDestroy(() => observer.disconnect());
  }

  protected startDrag(event: PointerEvent): void {
    if (event.button !== 0) return;
    const index = this.indexAt(event);
    this.isDragging = true;
    this.track().nativeElement.setPointerCapture(event.pointerId);
    this.cursor.set(index);
    if (!event.shiftKey) this.anchor.set(index);
    this.emitSelection(index);
  }

  protected drag(event: PointerEvent): void {
    if (!this.isDragging) return;
    const index = this.indexAt(event);
    if (index === this.cursor()) return;
    this.cursor.set(index);
    this.emitSelection(index);
  }

  protected endDrag(): void {
    this.isDragging = false;
  }

  protected onKey(event: KeyboardEvent): void {
    const last = this.measures().length - 1;
    const moves: Readonly<Record<string, number>> = {
      ArrowLeft: this.cursor() - 1,
      ArrowRight: this.cursor() + 1,
      Home: 0,
      End: last,
    };
    const to = moves[event.key];
    if (to !== undefined) this.moveTo(Math.min(last, Math.max(0, to)), event.shiftKey);
    else if (event.key === 'Enter' && this.selection()) this.make.emit();
    else if (event.key === ' ') this.moveTo(this.cursor(), event.shiftKey);
    else if (event.key === 'Escape') this.selectionChange.emit(null);
    else return;
    event.preventDefault();
  }

  private moveTo(index: number, isWidening: boolean): void {
    if (!isWidening) this.anchor.set(index);
    this.cursor.set(index);
    this.emitSelection(index);
  }

  private emitSelection(index: number): void {
    this.selectionChange.emit({
      fromIndex: Math.min(index, this.anchor()),
      endIndex: Math.max(index, this.anchor()) + 1,
    });
  }

  private indexAt(event: PointerEvent): number {
    const box = this.track().nativeElement.getBoundingClientRect();
    const share = (event.clientX - box.left) / box.width;
    const found = this.edges().findLastIndex((edge) => edge <= share);
    return Math.min(this.measures().length - 1, Math.max(0, found));
  }

  private share(index: number): number {
    return this.edges()[index] ?? 1;
  }

  private numberAt(index: number): string {
    return this.measures()[index]?.number ?? '';
  }
}
