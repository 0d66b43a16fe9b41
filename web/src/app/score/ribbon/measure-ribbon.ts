import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  output,
  signal,
  viewChild,
  type AfterViewInit,
} from '@angular/core';
import { STATE_WORDS } from '@vivid-cue/core/readiness';
import type { Vocabulary } from '@vivid-cue/core/music';
import { spanInWords, type Span } from '@vivid-cue/core/score';
import { countByFrames } from '../../ui/frames';
import { RibbonCells } from './ribbon-cells';
import {
  cellGroups,
  measureEdges,
  ribbonCells,
  type CellGroup,
  type RibbonBand,
  type RibbonMarks,
  type RibbonMeasure,
} from './ribbon-model';

/** A measure this wide holds its number and a tick. */
const TICK_ROOM_PX = 34;

/**
 * The measure ribbon: measures as wide as they last, passages as bands below. Drag over measures, or move with the
 * arrow keys and widen with Shift, to select; Enter asks to make a passage of the selection. Where a measure would be
 * narrower than a finger can tell, several share a cell; the selection is still exact.
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
  /** Zero until the ribbon was laid out: cells come with a frame of their own. */
  private readonly widthPx = signal(0);
  private readonly anchor = signal(0);
  protected readonly cursor = signal(0);
  private isDragging = false;

  private readonly edges = computed(() => measureEdges(this.measures()));
  /** Whether numbers leave no room for a tick beside them. */
  protected readonly isNarrow = computed(() => this.widthPx() < TICK_ROOM_PX * this.measures().length);
  private readonly allGroups = computed(() =>
    cellGroups(
      ribbonCells(this.measures(), {
        edges: this.edges(),
        marks: this.marks(),
        widthPx: this.widthPx(),
        vocabulary: this.vocabulary(),
      }),
    ),
  );

  /** Groups of cells come one a frame, so that a long piece does not hold the page up. */
  private readonly drawnGroups = countByFrames(() => this.allGroups().length, { start: 1 });
  protected readonly groups = computed(() => this.allGroups().slice(0, this.drawnGroups()));

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
      const span = spanInWords(this.measures(), band, this.vocabulary());
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
  protected readonly activeId = computed(() => {
    const cells = this.allGroups().flatMap((group) => group.cells);
    const cell = cells.findLast(({ fromIndex }) => fromIndex <= this.cursor());
    return `measure-${cell?.fromIndex ?? 0}`;
  });
  protected readonly label = computed(() => (this.vocabulary() === 'us' ? 'Measures' : 'Bars'));

  /** A measure index within a group, at its edge when it lies beyond: a group far from the change is left alone. */
  protected within({ fromIndex, endIndex }: CellGroup, index: number): number {
    return Math.min(endIndex, Math.max(fromIndex, index));
  }

  ngAfterViewInit(): void {
    const observer = new ResizeObserver(([entry]) => this.widthPx.set(entry?.contentRect.width ?? 0));
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
}
