import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import {
  edgeAt,
  type BoxPlace,
  type LinePlace,
  type PaperBox,
  type PaperLine,
  type PaperPage,
  type PageRegion,
} from '@vivid-cue/core/paper';
import { isSamePlace } from './board-store';

/** The page is drawn on a board this wide. Units: its own */
const WIDTH = 1000;
/** A press that moves less is a press. Units: pixels */
const STILL_PX = 6;
/** A bar line is taken hold of within so much. Units: pixels */
const HOLD_PX = 11;

/** A box as it is drawn. */
interface DrawnBox {
  readonly box: PaperBox;
  readonly points: string;
  readonly x: number;
  readonly y: number;
  readonly text: string;
  readonly isChosen: boolean;
  readonly isDoubtful: boolean;
}

/** A bar line as it is drawn. Shape: `kind` in its words */
interface DrawnBar {
  readonly at: BoxPlace;
  readonly x: number;
  readonly top: number;
  readonly bottom: number;
  readonly kind: string;
  readonly isDoubtful: boolean;
}

/** What a pointer is doing. Units: fractions of the page */
type Gesture =
  | { readonly kind: 'bar'; readonly at: BoxPlace; readonly x: number; readonly isMoved: boolean }
  | {
      readonly kind: 'region';
      readonly from: readonly [number, number];
      readonly to: readonly [number, number];
      readonly isMoved: boolean;
    };

/**
 * A page with its measures as boxes: a press between bar lines adds one, a press on one takes it away, dragging moves it,
 * and dragging over a region leaves its lines out, or draws a line of music where that was asked for.
 */
@Component({
  selector: 'vc-page-sheet',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './page-sheet.html',
  styleUrl: './page-sheet.css',
})
export class PageSheet {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

  readonly url = input.required<string>();
  /** The page as it was read; null while it is not. */
  readonly page = input<PaperPage | null>(null);
  /** Which page of the draft this is, counted from 0. */
  readonly at = input(0);
  /** The boxes of all pages. */
  readonly boxes = input<readonly PaperBox[]>([]);
  readonly chosen = input<BoxPlace | null>(null);
  /** Whether dragging draws a line of music. */
  readonly isDrawing = input(false);
  readonly label = input('');

  readonly choose = output<BoxPlace>();
  readonly addBar = output<{ readonly at: LinePlace; readonly x: number }>();
  readonly takeBar = output<BoxPlace>();
  readonly moveBar = output<{ readonly at: BoxPlace; readonly x: number }>();
  readonly region = output<PageRegion>();
  readonly takeIn = output<LinePlace>();

  protected readonly width = WIDTH;
  protected readonly ghost = signal<{
    readonly x: number;
    readonly top: number;
    readonly bottom: number;
  } | null>(null);
  private readonly gesture = signal<Gesture | null>(null);
  /** Height beside the width, before the page is read as the picture says. */
  private readonly pictureAspect = signal(1.294);
  protected readonly height = computed(() => {
    const page = this.page();
    return Math.round(WIDTH * (page ? page.height / page.width : this.pictureAspect()));
  });
  protected readonly drawn = computed((): readonly DrawnBox[] =>
    this.boxes()
      .filter(({ page }) => page === this.at())
      .flatMap((box) => this.drawBox(box)),
  );
  protected readonly bars = computed((): readonly DrawnBar[] =>
    this.linesIn().flatMap(({ line, n }) =>
      line.bars.map(({ x, kind, isDoubtful }, box): DrawnBar => {
        const own = this.gesture();
        const at = { page: this.at(), line: n, box };
        const place = own?.kind === 'bar' && own.isMoved && isSamePlace(own.at, at) ? own.x : x;
        return {
          ...{ at, kind, isDoubtful, x: place * WIDTH },
          top: edgeAt(line, line.top, place) * this.height(),
          bottom: edgeAt(line, line.bottom, place) * this.height(),
        };
      }),
    ),
  );
  protected readonly out = computed(() =>
    (this.page()?.lines ?? []).flatMap((line, n) => {
      if (!line.isOut) return [];
      const y = Math.min(...line.top) * this.height();
      return [
        {
          at: { page: this.at(), line: n },
          points: this.outline(line, line.left, line.right),
          x: line.left * WIDTH,
          y,
        },
      ];
    }),
  );
  protected readonly dragged = computed(() => {
    const own = this.gesture();
    if (own?.kind !== 'region' || !own.isMoved) return null;
    const { left, top, right, bottom } = regionOf(own);
    return {
      x: left * WIDTH,
      y: top * this.height(),
      width: (right - left) * WIDTH,
      height: (bottom - top) * this.height(),
    };
  });

  constructor() {
    effect(() => {
      const at = this.chosen();
      if (at?.page !== this.at()) return;
      const element = this.host.nativeElement.querySelector(`[data-box="${at.line}/${at.box}"]`);
      element?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
    });
  }

  protected loaded(image: HTMLImageElement): void {
    if (image.naturalWidth > 0) this.pictureAspect.set(image.naturalHeight / image.naturalWidth);
  }

  protected down(event: PointerEvent): void {
    if (event.button !== 0 || !this.page()) return;
    const [x, y] = this.placeOf(event);
    const bar = this.isDrawing() ? null : this.barNear(event);
    if (event.pointerType === 'touch' && !bar && !this.isDrawing()) {
      // A finger scrolls; where it only taps, the tap is heard when it is lifted.
      this.gesture.set({ kind: 'region', from: [x, y], to: [x, y], isMoved: false });
      return;
    }
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    this.gesture.set(
      bar
        ? { kind: 'bar', at: bar.at, x, isMoved: false }
        : { kind: 'region', from: [x, y], to: [x, y], isMoved: false },
    );
  }

  protected moved(event: PointerEvent): void {
    const own = this.gesture();
    const [x, y] = this.placeOf(event);
    if (!own) {
      this.ghost.set(event.pointerType === 'mouse' ? this.ghostAt(event, x, y) : null);
      return;
    }
    this.ghost.set(null);
    if (own.kind === 'bar') {
      const isMoved = own.isMoved || Math.abs(x - (this.barX(own.at) ?? x)) * this.scale() > STILL_PX;
      this.gesture.set({ ...own, x, isMoved });
    } else {
      const [fromX, fromY] = own.from;
      const far = Math.hypot(
        (x - fromX) * this.scale(),
        ((y - fromY) * this.scale() * this.height()) / WIDTH,
      );
      const isMoved =
        event.pointerType !== 'touch' || this.isDrawing() ? own.isMoved || far > STILL_PX : false;
      this.gesture.set({ ...own, to: [x, y], isMoved });
    }
  }

  protected up(event: PointerEvent): void {
    const own = this.gesture();
    this.gesture.set(null);
    if (!own) return;
    if (own.kind === 'bar') {
      if (own.isMoved) this.moveBar.emit({ at: own.at, x: own.x });
      else this.takeBar.emit(own.at);
    } else if (own.isMoved) this.region.emit(regionOf(own));
    else if (!this.isDrawing()) this.press(event, own.from);
  }

  protected cancel(): void {
    this.gesture.set(null);
    this.ghost.set(null);
  }

  /** A press: between bar lines it adds one. */
  private press(event: PointerEvent, [x, y]: readonly [number, number]): void {
    const number = (event.target as Element).closest<SVGElement>('[data-number]');
    if (number) {
      const [line = 0, box = 0] = (number.dataset['number'] ?? '').split('/').map(Number);
      this.choose.emit({ page: this.at(), line, box });
      return;
    }
    const line = this.lineAt(x, y);
    if (line !== null) this.addBar.emit({ at: { page: this.at(), line }, x });
  }

  private ghostAt(
    event: PointerEvent,
    x: number,
    y: number,
  ): { x: number; top: number; bottom: number } | null {
    if (this.isDrawing() || (event.target as Element).closest('[data-number], [data-out]')) return null;
    const n = this.lineAt(x, y);
    const line = n === null ? undefined : this.page()?.lines[n];
    if (!line || this.barNear(event)) return null;
    const at = (edge: readonly number[]): number => edgeAt(line, edge, x) * this.height();
    return { x: x * WIDTH, top: at(line.top), bottom: at(line.bottom) };
  }

  private linesIn(): { readonly line: PaperLine; readonly n: number }[] {
    return (this.page()?.lines ?? []).flatMap((line, n) => (line.isOut ? [] : [{ line, n }]));
  }

  private barX({ line, box }: BoxPlace): number | undefined {
    return this.page()?.lines[line]?.bars[box]?.x;
  }

  private barNear(event: PointerEvent): DrawnBar | null {
    const [x, y] = this.placeOf(event);
    const hold = HOLD_PX * (event.pointerType === 'touch' ? 1.6 : 1);
    const near = this.bars()
      .filter(({ top, bottom }) => y * this.height() > top - 8 && y * this.height() < bottom + 8)
      .map((bar) => ({ bar, far: Math.abs(bar.x / WIDTH - x) * this.scale() }))
      .filter(({ far }) => far < hold)
      .sort((a, b) => a.far - b.far);
    return near[0]?.bar ?? null;
  }

  /** The line of music at a place, a little beyond its end too. */
  private lineAt(x: number, y: number): number | null {
    const found = this.linesIn().find(
      ({ line }) =>
        x > line.left &&
        x < Math.min(1, line.right + 0.03) &&
        y > edgeAt(line, line.top, x) - 0.004 &&
        y < edgeAt(line, line.bottom, x) + 0.004,
    );
    return found ? found.n : null;
  }

  /** Pixels that the page is wide. */
  private scale(): number {
    return this.host.nativeElement.getBoundingClientRect().width || 1;
  }

  private placeOf(event: PointerEvent): [number, number] {
    const { left, top, width, height } = this.host.nativeElement.getBoundingClientRect();
    return [(event.clientX - left) / (width || 1), (event.clientY - top) / (height || 1)];
  }

  private drawBox(box: PaperBox): DrawnBox[] {
    const line = this.page()?.lines[box.line];
    if (!line) return [];
    const bar = line.bars[box.box];
    const at = this.chosen();
    return [
      {
        box,
        points: this.outline(line, box.left, box.right),
        x: box.left * WIDTH + 3,
        y: edgeAt(line, line.top, box.left) * this.height() - 5,
        text: box.count > 1 ? `${box.number}–${box.number + box.count - 1}` : String(box.number),
        isChosen: at !== null && isSamePlace(at, box),
        isDoubtful: bar?.isDoubtful === true,
      },
    ];
  }

  /** The outline of a stretch of a line, along its curve. */
  private outline(line: PaperLine, left: number, right: number): string {
    const places = [0, 0.25, 0.5, 0.75, 1].map((share) => left + share * (right - left));
    const point = (x: number, edge: readonly number[]): string =>
      `${(x * WIDTH).toFixed(1)},${(edgeAt(line, edge, x) * this.height()).toFixed(1)}`;
    return [
      ...places.map((x) => point(x, line.top)),
      ...[...places].reverse().map((x) => point(x, line.bottom)),
    ].join(' ');
  }
}

function regionOf({
  from,
  to,
}: {
  readonly from: readonly [number, number];
  readonly to: readonly [number, number];
}): PageRegion {
  const [left, right] = [Math.min(from[0], to[0]), Math.max(from[0], to[0])];
  const [top, bottom] = [Math.min(from[1], to[1]), Math.max(from[1], to[1])];
  return { left, top, right, bottom };
}
