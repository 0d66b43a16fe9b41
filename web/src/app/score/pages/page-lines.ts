import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { capital, groupBy } from '@vivid-cue/core/base';
import { measureWord, type Vocabulary } from '@vivid-cue/core/music';
import {
  numberRuns,
  readToldLine,
  rowsOfPages,
  startOfMusic,
  type PageRow,
  type PaperMusic,
  type PaperPage,
} from '@vivid-cue/core/paper';
import { inSpan, type MeasureDigest, type ScoreDigest, type Span } from '@vivid-cue/core/score';
import type { CueView } from '@vivid-cue/contract';
import type { RibbonBand } from '../ribbon/ribbon-model';
import { cueText, cueTexts, isAskedFor, isSelected, keepSelectionInSight } from '../music/measure-boxes';
import { ScoreApi } from '../../data/score-api';
import { followPointer } from '../../ui/follow-pointer';
import { PageCut } from '../../ui/page-cut';

/** So much of a page's width is shown where there is little room. */
const NARROW_SHARE = 0.5;

/** The height of one cue under a line. */
const LANE_PX = 22;

/** A measure over its place on a row. Units: percent of the row's width */
interface Place {
  readonly measure: MeasureDigest;
  readonly left: number;
  readonly width: number;
}

/** A row with what lies over it. Units: percent */
interface Row {
  readonly key: string;
  readonly row: PageRow;
  readonly page: PaperPage;
  readonly width: number;
  readonly label: string;
  readonly places: readonly Place[];
}

/** The lines of pages as the face of the music, with all that belongs to measures drawn over them. */
@Component({
  selector: 'vc-page-lines',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [PageCut],
  templateUrl: './page-lines.html',
  styleUrl: './page-lines.css',
})
export class PageLines {
  readonly paper = input.required<PaperMusic>();
  readonly digest = input.required<ScoreDigest>();
  /** What the sheet asks for. */
  readonly asked = input<readonly Span[]>([]);
  readonly selection = input<Span | null>(null);
  readonly cues = input<readonly CueView[]>([]);
  readonly bands = input<readonly RibbonBand[]>([]);
  readonly vocabulary = input<Vocabulary>('us');
  /** Only these measures; all where there is none. */
  readonly span = input<Span | null>(null);
  /** Whether there is only room for half a line. */
  readonly isNarrow = input(matchMedia('(max-width: 560px)').matches);
  readonly pickMeasure = output<{ readonly index: number; readonly isWidening: boolean }>();

  /** A cue was dragged to another measure. */
  readonly moveCue = output<{ readonly cueId: string; readonly to: number }>();

  protected readonly textOf = cueText;
  /** The cue that is on its way. */
  protected readonly dragged = signal<string | null>(null);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly api = inject(ScoreApi);
  private readonly measureAt = computed(
    () => new Map(this.digest().measures.map((measure) => [measure.number, measure] as const)),
  );
  protected readonly rows = computed((): readonly Row[] => {
    const { pages, line } = this.paper();
    const { music } = readToldLine(line);
    const start = music ? startOfMusic(music) : 1;
    const rows = rowsOfPages(pages, { start, most: this.isNarrow() ? NARROW_SHARE : 1, ...this.numbers() });
    const widest = Math.max(0.01, ...rows.map(({ left, right }) => right - left));
    return rows.flatMap((row) => {
      const page = pages[row.page];
      if (!page) return [];
      const places = row.measures.flatMap(({ number, left, right }): Place[] => {
        const measure = this.measureAt().get(String(number));
        return measure ? [{ measure, left: left * 100, width: (right - left) * 100 }] : [];
      });
      const numbers = numberRuns(row.measures.map(({ number }) => String(number)));
      return [
        {
          ...{ key: `${row.page}/${row.line}/${row.left}`, row, page, places },
          width: ((row.right - row.left) / widest) * 100,
          label: `Picture of ${measureWord(row.measures.length, this.vocabulary())} ${numbers}`,
        },
      ];
    });
  });
  /** Measures that no page shows. */
  protected readonly unseen = computed(() =>
    this.span() ? [] : this.digest().measures.filter(({ source }) => source === 'told'),
  );

  private readonly cuesByMeasure = computed(() => groupBy(this.cues(), ({ fromIndex }) => fromIndex));
  private readonly cuesAt = computed(() => cueTexts(this.cues()));

  constructor() {
    keepSelectionInSight(this.selection);
  }

  protected urlOf({ picture }: PageRow): string {
    return this.api.pageUrl(picture, 'lines');
  }

  protected cuesOf({ index }: MeasureDigest): string {
    return this.cuesAt().get(index) ?? '';
  }

  protected cuesAtMeasure({ index }: MeasureDigest): readonly CueView[] {
    return this.cuesByMeasure().get(index) ?? [];
  }

  /** Cues stand under their line, where they cover no note. Units: pixels */
  protected laneOf({ places }: Row): number {
    return LANE_PX * Math.max(0, ...places.map(({ measure }) => this.cuesAtMeasure(measure).length));
  }

  /** A cue goes along with the finger, and lands in the measure under it. */
  protected drag(event: PointerEvent, cueId: string): void {
    followPointer(event, {
      move: () => this.dragged.set(cueId),
      end: () => this.dragged.set(null),
      drop: (x, y) => {
        const box = document
          .elementsFromPoint(x, y)
          .find((one) => one.matches('[data-at]') && this.host.nativeElement.contains(one));
        const to = Number(box?.getAttribute('data-at') ?? Number.NaN);
        if (!Number.isNaN(to)) this.moveCue.emit({ cueId, to });
      },
    });
  }

  protected bandsOf({ index }: MeasureDigest): readonly RibbonBand[] {
    return this.bands().filter((band) => inSpan(band, index));
  }

  protected isAsked({ index }: MeasureDigest): boolean {
    return isAskedFor(this.asked(), index);
  }

  protected isChosen({ index }: MeasureDigest): boolean {
    return isSelected(this.selection(), index);
  }

  protected nameOf(measure: MeasureDigest): string {
    const said = [
      measure.source === 'typed' ? 'typed' : '',
      this.bandsOf(measure)
        .map(({ name }) => name)
        .filter((name) => name !== '')
        .join(', '),
      this.cuesOf(measure),
    ];
    const name = `${capital(measureWord(1, this.vocabulary()))} ${measure.implicit ? 'before the first' : measure.number}`;
    return [name, ...said.filter((text) => text !== '')].join(', ');
  }

  private numbers(): { readonly from?: number; readonly to?: number } {
    const span = this.span();
    if (!span) return {};
    const { measures } = this.digest();
    return {
      from: Number(measures[span.fromIndex]?.number),
      to: Number(measures[span.endIndex - 1]?.number),
    };
  }
}
