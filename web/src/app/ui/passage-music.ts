import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import type { KindLook } from '@vivid-cue/core/cue-kinds';
import { withCues } from '@vivid-cue/core/cues';
import {
  readPaper,
  readToldLine,
  rowsOfPages,
  startOfMusic,
  type PageRow,
  type PaperMusic,
  type PaperPage,
} from '@vivid-cue/core/paper';
import { scoreText, type Span } from '@vivid-cue/core/score';
import type { DeskScore } from '@vivid-cue/contract';
import { Engraver } from '../data/engraver';
import { MusicFiles } from '../data/music-files';
import { inkSigns } from './ink-signs';
import { PageCut } from './page-cut';
import { pictureOf } from './svg-picture';

/** How much larger than the score room's an excerpt is shown at most, and on one line at least. */
const MOST_SCALE = 2.2;
const LEAST_SCALE = 0.85;

/** A row of a page with where its picture is on this device. */
interface ShownRow {
  readonly row: PageRow;
  readonly page: PaperPage;
  readonly url: string;
}

/** A passage as large as the page allows: engraved, cut out of its pages, or measure by measure where it was only told. */
@Component({
  selector: 'vc-passage-music',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [PageCut],
  template: `
    <div
      #stage
      class="stage"
      tabindex="0"
      role="img"
      [attr.aria-label]="label()"
      [hidden]="rows().length > 0 || isTold()"
    ></div>
    @for (row of rows(); track row.url + row.row.left) {
      <vc-page-cut [row]="row.row" [page]="row.page" [url]="row.url" [label]="label()" />
    }
    @if (isTold()) {
      <ol class="told">
        @for (measure of measures(); track measure.index) {
          <li [style.flex-grow]="measure.quarters" [class.is-now]="measure.index === now()">
            <span class="mono">{{ measure.number }}</span>
            <span class="time">{{ measure.time }}</span>
          </li>
        }
      </ol>
    }
    @if (note()) {
      <p class="note">{{ note() }}</p>
    }
  `,
  styles: `
    :host {
      display: block;
      min-height: 150px;
      padding: 10px 14px;
      border-radius: 4px;
      background: var(--score-ground);
      color: var(--score-ink);
    }
    .stage {
      overflow-x: auto;
    }
    .stage ::ng-deep .now-ground {
      fill: var(--score-chosen);
      fill-opacity: 0.14;
      stroke: none;
    }
    .told .is-now {
      border: 2px solid var(--score-chosen);
    }
    .told {
      display: flex;
      flex-wrap: wrap;
      gap: 4px;
      margin: 0;
      padding: 18px 0;
      list-style: none;
    }
    .told li {
      display: flex;
      flex-direction: column;
      align-items: center;
      min-width: 48px;
      padding: 14px 6px;
      border: 1px solid #8b8576;
      border-radius: 3px;
    }
    .told .mono {
      font-size: 22px;
    }
    .note {
      margin: 8px 0 0;
      color: #4a5266;
    }
  `,
})
export class PassageMusic {
  private readonly files = inject(MusicFiles);
  private readonly engraver = inject(Engraver);
  private readonly stage = viewChild.required<ElementRef<HTMLElement>>('stage');
  private readonly urls: string[] = [];
  private drawing = 0;

  readonly score = input.required<DeskScore>();
  readonly span = input.required<Span>();
  readonly label = input('');
  /** How the studio draws its cues. */
  readonly looks = input<readonly KindLook[]>([]);
  /** How much larger than the score room's it is shown at most. */
  readonly mostScale = input(MOST_SCALE);
  /** The measure that sounds just now, by its place in the score. */
  readonly now = input<number | null>(null);

  protected readonly rows = signal<readonly ShownRow[]>([]);
  protected readonly isTold = signal(false);
  protected readonly note = signal('');
  protected readonly measures = computed(() =>
    this.score().digest.measures.slice(this.span().fromIndex, this.span().endIndex),
  );

  constructor() {
    effect(() => void this.draw(this.score(), this.span()));
    effect(() => this.mark(this.now()));
    inject(DestroyRef).onDestroy(() => this.forget());
  }

  private async draw(score: DeskScore, span: Span): Promise<void> {
    this.drawing += 1;
    const own = this.drawing;
    this.note.set('');
    try {
      const file = new Uint8Array(await this.files.score(score.id));
      const paper = readPaper(file);
      if (paper.ok) return await this.drawPaper(paper.value, own);
      const musicXml = this.signed(file, score);
      if (musicXml === null) throw new Error('This music cannot be shown here.');
      // What engraves is fetched while it is kept, so that the next visit needs no connection.
      await this.files.ready();
      const { partId, measures } = score.digest;
      const numbers = measures.map(({ number }) => number);
      const part = { musicXml, partId, numbers };
      const drawn = async (row: Span): Promise<SVGElement> => {
        const picture = pictureOf(await this.engraver.excerpt(part, row));
        inkSigns(picture, row.fromIndex, { cues: score.cues, looks: this.looks() });
        return picture;
      };
      const whole = await drawn(span);
      const rows = this.rowsOf(span, widthOf(whole));
      const pictures = [whole];
      // Too wide for the desk: some measures on each of several lines.
      if (rows.length > 1) {
        pictures.length = 0;
        for (const row of rows) pictures.push(await drawn(row));
      }
      if (own === this.drawing) this.show(pictures);
    } catch {
      if (own !== this.drawing) return;
      this.isTold.set(true);
      this.note.set('The notes could not be shown just now; play from your own copy.');
    }
  }

  /** The music with the signs of its cues at their notes. */
  private signed(file: Uint8Array, { cues, digest }: DeskScore): string | null {
    const signs = cues.flatMap((cue) => (cue.sign === '' ? [] : [{ ...cue, text: '' }]));
    const written = withCues(file, { cues: signs, partId: digest.partId, looks: this.looks() });
    return written.ok ? written.value : scoreText(file);
  }

  /** The measures of each line: as many lines as it takes to be read from where the player stands. */
  private rowsOf({ fromIndex, endIndex }: Span, width: number): Span[] {
    const count = endIndex - fromIndex;
    const rows = Math.min(count, Math.ceil((width * LEAST_SCALE) / this.room()));
    return Array.from({ length: rows }, (_, n) => ({
      fromIndex: fromIndex + Math.round((n * count) / rows),
      endIndex: fromIndex + Math.round(((n + 1) * count) / rows),
    }));
  }

  private room(): number {
    return this.stage().nativeElement.clientWidth || 800;
  }

  private show(pictures: readonly SVGElement[]): void {
    this.rows.set([]);
    this.isTold.set(false);
    const widest = Math.max(...pictures.map(widthOf));
    // As wide as the desk, but never so large that a short passage is a poster.
    const scale = Math.max(0.6, Math.min(this.mostScale(), this.room() / widest));
    for (const picture of pictures) {
      const [, , width = 0, height = 0] = boxOf(picture);
      picture.style.width = `${Math.round(width * scale)}px`;
      picture.style.height = `${Math.round(height * scale)}px`;
    }
    this.stage().nativeElement.replaceChildren(...pictures);
    this.mark(this.now());
  }

  /** Puts a ground under the measure that sounds. */
  private mark(index: number | null): void {
    const stage = this.stage().nativeElement;
    stage.querySelector('.now-ground')?.remove();
    const measure =
      index === null
        ? undefined
        : stage.querySelectorAll<SVGGElement>('g.measure')[index - this.span().fromIndex];
    if (!measure) return;
    const { x, y, width, height } = measure.getBBox();
    const ground = document.createElementNS('http://www.w3.org/2000/svg', 'rect');
    for (const [name, value] of Object.entries({ x, y, width, height }))
      ground.setAttribute(name, String(value));
    ground.setAttribute('class', 'now-ground');
    measure.prepend(ground);
  }

  private async drawPaper(paper: PaperMusic, own: number): Promise<void> {
    const { music } = readToldLine(paper.line);
    const numbers = this.measures().map(({ number }) => Number(number));
    const rows = rowsOfPages(paper.pages, {
      start: music ? startOfMusic(music) : 1,
      from: Math.min(...numbers),
      to: Math.max(...numbers),
      most: matchMedia('(max-width: 560px)').matches ? 0.5 : 1,
    });
    const shown: ShownRow[] = [];
    for (const row of rows) {
      const page = paper.pages[row.page];
      if (page) shown.push({ row, page, url: await this.pageUrl(row.picture) });
    }
    if (own !== this.drawing) return;
    this.rows.set(shown);
    this.isTold.set(shown.length === 0);
  }

  private async pageUrl(pageId: string): Promise<string> {
    const url = URL.createObjectURL(await this.files.page(pageId));
    this.urls.push(url);
    return url;
  }

  private forget(): void {
    for (const url of this.urls) URL.revokeObjectURL(url);
  }
}

function boxOf(picture: SVGElement): number[] {
  return (picture.getAttribute('viewBox') ?? '').split(' ').map(Number);
}

function widthOf(picture: SVGElement): number {
  return boxOf(picture)[2] ?? 1;
}
