import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  ElementRef,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { StudioWords } from '../ui/studio-words';
import { isBeside, rangeOf, type PlacedMeasure, type TempoBand, type TempoRange } from './take-map';

/** What stands in a measure of the ribbon. */
export type RibbonWord = 'slip' | 'slip?' | 'stop';

/** A number needs so much room. Units: pixels */
const LABEL_PX = 26;
const HEIGHT = 190;
/** Numbers at the side stand so far from each other. Units: pixels */
const LABEL_HEIGHT = 18;
const PAD = { left: 56, right: 12, top: 14, bottom: 10 };
const STEPS = [2, 4, 5, 8, 10, 20, 40, 80];

/**
 * The tempo of a take over its measures, the sheet's mark as a band, and the ribbon of measures under it, each as long as
 * it was played. A press on a measure goes there.
 */
@Component({
  selector: 'vc-take-curve',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [StudioWords],
  template: `
    @if (hasTempos()) {
      <svg [attr.width]="width()" [attr.height]="height" role="img" [attr.aria-label]="label() | studioWords">
        @if (band(); as mark) {
          @if (bandBox(); as box) {
            <rect
              class="band"
              [attr.x]="pad.left"
              [attr.width]="inner()"
              [attr.y]="box.y"
              [attr.height]="box.height"
            />
          }
        }
        @for (tick of ticks(); track tick.bpm) {
          <line
            class="grid"
            [attr.x1]="pad.left"
            [attr.x2]="width() - pad.right"
            [attr.y1]="tick.y"
            [attr.y2]="tick.y"
          />
          <text class="tick" [class.is-asked]="tick.isAsked" [attr.x]="pad.left - 8" [attr.y]="tick.y + 5">
            {{ tick.bpm }}
          </text>
        }
        @for (path of paths(); track $index) {
          <polyline class="line" [attr.points]="path" />
        }
        @for (dot of dots(); track $index) {
          <circle
            [class.is-beside]="dot.isBeside"
            [class.is-unsure]="dot.isUnsure"
            [attr.cx]="dot.x"
            [attr.cy]="dot.y"
            [attr.r]="dot.isBeside ? 5 : 3.5"
          />
        }
        @if (hasPlace()) {
          <line class="place" [attr.x1]="placeX()" [attr.x2]="placeX()" y1="0" [attr.y2]="height" />
        }
      </svg>
    }
    <div class="ribbon" role="group" [attr.aria-label]="'Measures, to go there' | studioWords">
      @for (cell of cells(); track $index) {
        <button
          type="button"
          [style.left.px]="cell.left"
          [style.width.px]="cell.width"
          [class.is-now]="cell.isNow"
          [class.has-word]="cell.word !== null"
          [class.is-slip]="cell.word === 'slip'"
          [attr.aria-label]="cell.name | studioWords"
          [attr.aria-current]="cell.isNow ? 'true' : null"
          (click)="go.emit(cell.start)"
        >
          @if (cell.hasLabel) {
            <span class="mono">{{ cell.number }}</span>
            @if (cell.word) {
              <span class="word">{{ cell.word }}</span>
            }
          }
        </button>
      }
      @if (hasPlace()) {
        <span class="place-mark" aria-hidden="true" [style.left.px]="placeX()"></span>
      }
    </div>
  `,
  styleUrl: './take-curve.css',
})
export class TakeCurve {
  readonly measures = input.required<readonly PlacedMeasure[]>();
  readonly seconds = input.required<number>();
  /** Where the take is; null for a picture that does not move. Units: seconds */
  readonly place = input<number | null>(null);
  readonly band = input<TempoBand | null>(null);
  /** What the picture reaches from and to, where several are laid beside each other. Units: beats a minute */
  readonly scale = input<TempoRange | null>(null);
  readonly words = input<ReadonlyMap<number, RibbonWord>>(new Map());
  readonly go = output<number>();

  protected readonly height = HEIGHT;
  protected readonly pad = PAD;
  protected readonly width = signal(0);
  protected readonly inner = computed(() => Math.max(1, this.width() - PAD.left - PAD.right));
  protected readonly hasPlace = computed(() => this.place() !== null);

  private readonly tempos = computed(() => this.measures().flatMap(({ bpm }) => (bpm === null ? [] : [bpm])));
  protected readonly hasTempos = computed(() => this.tempos().length > 1 && this.width() > 0);
  private readonly range = computed(() => this.scale() ?? rangeOf([this.tempos()], this.band()));
  protected readonly bandBox = computed(() => {
    const { min = null, max = null } = this.band() ?? {};
    const { low, high } = this.range();
    const [top, bottom] = [this.yOf(max ?? high), this.yOf(min ?? low)];
    return { y: top, height: Math.max(2, bottom - top) };
  });
  protected readonly ticks = computed(() => {
    const { low, high } = this.range();
    const step = STEPS.find((one) => (high - low) / one <= 5) ?? 100;
    const band = this.band();
    const count = Math.floor(high / step) - Math.ceil(low / step) + 1;
    const round = Array.from({ length: Math.max(0, count) }, (_, n) => (Math.ceil(low / step) + n) * step);
    const asked = band?.isExact === true ? Math.round(((band.min ?? 0) + (band.max ?? 0)) / 2) : null;
    // The asked number stands where a round one would touch it.
    const clear = round.filter(
      (bpm) => asked === null || Math.abs(this.yOf(bpm) - this.yOf(asked)) > LABEL_HEIGHT,
    );
    return [...clear, ...(asked === null ? [] : [asked])].map((bpm) => ({
      ...{ bpm, y: this.yOf(bpm) },
      isAsked: band !== null && !isBeside(bpm, band),
    }));
  });
  protected readonly dots = computed(() =>
    this.measures().flatMap(({ start, end, bpm, confidence }) =>
      bpm === null
        ? []
        : [
            {
              ...{ x: this.xOf((start + end) / 2), y: this.yOf(bpm) },
              ...{ isBeside: isBeside(bpm, this.band()), isUnsure: confidence < UNSURE },
            },
          ],
    ),
  );
  /** Lines between measures that follow each other; where nothing is known there is a gap. */
  protected readonly paths = computed(() => {
    const runs: string[][] = [[]];
    for (const { start, end, bpm } of this.measures()) {
      if (bpm === null) runs.push([]);
      else runs.at(-1)?.push(`${this.xOf((start + end) / 2).toFixed(1)},${this.yOf(bpm).toFixed(1)}`);
    }
    return runs.filter((run) => run.length > 1).map((run) => run.join(' '));
  });
  private readonly nowIndex = computed(() => {
    const place = this.place();
    return place === null ? -1 : this.measures().findIndex(({ start, end }) => place >= start && place < end);
  });
  protected readonly cells = computed(() => {
    let labelled = -LABEL_PX;
    return this.measures().map(({ index, number, start, end, bpm }, n) => {
      const [left, right] = [this.xOf(start), this.xOf(end)];
      const word = index === null ? null : (this.words().get(index) ?? null);
      const hasLabel = right - left >= LABEL_PX || left - labelled >= LABEL_PX;
      if (hasLabel) labelled = left;
      const tempo = bpm === null ? '' : `, ${Math.round(bpm)}`;
      return {
        ...{ left, width: Math.max(1, right - left), number, start, word, hasLabel },
        isNow: n === this.nowIndex(),
        name: `measure ${number}${tempo}${word === null ? '' : `, ${word}`}`,
      };
    });
  });
  protected readonly placeX = computed(() => this.xOf(this.place() ?? 0));
  protected readonly label = computed(() => {
    const tempos = this.tempos();
    return `Tempo of ${tempos.length} measures, from ${Math.round(Math.min(...tempos))} to ${Math.round(Math.max(...tempos))}; each stands in the ribbon below.`;
  });

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    const observer = new ResizeObserver(([entry]) =>
      this.width.set(Math.floor(entry?.contentRect.width ?? 0)),
    );
    observer.observe(host);
    inject(DestroyRef).onDestroy(() => observer.disconnect());
  }

  private xOf(seconds: number): number {
    return PAD.left + (seconds / Math.max(0.1, this.seconds())) * this.inner();
  }

  private yOf(bpm: number): number {
    const { low, high } = this.range();
    const within = Math.min(high, Math.max(low, bpm));
    return PAD.top + ((high - within) / Math.max(1, high - low)) * (HEIGHT - PAD.top - PAD.bottom);
  }
}

/** Below this a measure's tempo is shown as doubtful. */
const UNSURE = 0.5;
