import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  linkedSignal,
  output,
  signal,
  untracked,
  viewChild,
  type ElementRef,
} from '@angular/core';
import type { ClickSettings } from '@vivid-cue/core/climb';
import { quarterBpm, tempoText, type BeatUnit, type Bpm } from '@vivid-cue/core/music';
import { Driller, type DrillWish, type ShownDrill } from '../data/driller';
import { Engraver } from '../data/engraver';
import { fileNameOf, handOver } from '../data/hand-over';
import { PdfMaker } from '../data/pdf-maker';
import { rasterOf } from './raster';
import { engravedLines, measuresALine, showLines } from '../ui/engraved-lines';
import { NotePlayer } from '../ui/note-player';
import { StudioWords } from '../ui/studio-words';

/** Paper has room for so many. */
const MEASURES_A_PRINTED_LINE = 3;

/** The drills of a passage: each with its reason, engraved, and sounded at any tempo. */
@Component({
  selector: 'vc-drill-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [StudioWords],
  templateUrl: './drill-list.html',
  styleUrl: './drill-list.css',
})
export class DrillList {
  private readonly driller = inject(Driller);
  private readonly engraver = inject(Engraver);
  private readonly pdf = inject(PdfMaker);
  protected readonly player = inject(NotePlayer);
  private readonly stage = viewChild<ElementRef<HTMLElement>>('stage');

  readonly wish = input.required<Omit<DrillWish, 'tempo' | 'seed'>>();
  readonly bpm = input.required<Bpm>();
  readonly unit = input.required<BeatUnit>();
  /** A place of the start-anywhere test was played: a rep like any other. Units: beats of the unit a minute */
  readonly tested = output<{ readonly isClean: boolean; readonly bpm: Bpm }>();

  protected readonly drills = signal<readonly ShownDrill[] | null>(null);
  protected readonly isClicked = signal(false);
  protected readonly failure = signal('');
  private readonly wishKey = computed(() => {
    const { span, partId, flagged } = this.wish();
    return `${partId} ${span.fromIndex} ${span.endIndex} ${flagged.join()}`;
  });
  /** The drill that is open, by its place. */
  protected readonly openAt = linkedSignal<string, number | null>({
    source: this.wishKey,
    computation: () => null,
  });
  protected readonly open = computed(() => {
    const at = this.openAt();
    return at === null ? null : (this.drills()?.[at] ?? null);
  });
  protected readonly tempo = linkedSignal(() => Math.round(this.bpm()));
  protected readonly tempoText = computed(() => tempoText(this.tempo(), this.unit()));
  private seed = 1;
  private drawing = 0;

  constructor() {
    effect(() => {
      this.wishKey();
      // A rep that is logged meanwhile, or another tempo, leaves the drills and their places as they are.
      untracked(() => void this.make());
    });
    effect(() => {
      const [drill, stage] = [this.open(), this.stage()];
      this.player.stop();
      if (drill && stage) void this.draw(drill, stage.nativeElement);
    });
    inject(DestroyRef).onDestroy(() => this.player.stop());
  }

  private async make(): Promise<void> {
    this.failure.set('');
    const key = this.wishKey();
    try {
      const tempo = { bpm: Math.round(this.bpm()), unit: this.unit() };
      const drills = await this.driller.drills({ ...this.wish(), tempo, seed: this.seed });
      if (key === this.wishKey()) this.drills.set(drills);
    } catch (error) {
      this.failure.set(error instanceof Error ? error.message : 'No drills could be made of this music.');
    }
  }

  private async draw({ musicXml, measures }: ShownDrill, stage: HTMLElement): Promise<void> {
    this.drawing += 1;
    const own = this.drawing;
    if (musicXml === null) {
      stage.replaceChildren();
      return;
    }
    const lines = await engravedLines(
      this.engraver,
      { musicXml, measures },
      measuresALine(stage.clientWidth),
    );
    if (own === this.drawing) showLines(stage, lines);
  }

  protected turn(at: number): void {
    this.openAt.set(this.openAt() === at ? null : at);
  }

  protected hear({ sound, bars }: ShownDrill): void {
    if (this.player.isOn()) {
      this.player.stop();
      return;
    }
    const tempo = quarterBpm(this.tempo(), this.unit());
    const click: ClickSettings = {
      ...{ measures: bars, quarterBpm: tempo, pattern: 'beats', countIn: 1 },
      ...{ silentAfter: null, isAlternating: false },
    };
    this.player.play(sound, tempo, this.isClicked() ? click : null);
  }

  protected step(by: number): void {
    this.tempo.update((bpm) => Math.max(20, Math.min(300, bpm + by)));
  }

  /** How each place of the start-anywhere test went; told once a place. */
  protected readonly results = linkedSignal<unknown, readonly (boolean | undefined)[]>({
    source: () => [this.openAt(), this.drills()],
    computation: () => [],
  });

  protected tell(place: number, isClean: boolean): void {
    if (this.results()[place] !== undefined) return;
    this.results.update((list) => {
      const next = [...list];
      next[place] = isClean;
      return next;
    });
    this.tested.emit({ isClean, bpm: this.tempo() });
  }

  protected resultText({ turns }: ShownDrill): string {
    const told = turns.map((_, n) => this.results()[n]);
    const clean = told.filter((one) => one === true).length;
    const slipped = turns.filter((_, n) => told[n] === false);
    const open = told.filter((one) => one === undefined).length;
    if (open === turns.length) return 'Start cold at each place, in this order, and say how it went.';
    const where = slipped.length === 0 ? '' : ` Not yet from ${slipped.join(', ')}.`;
    return `${clean} of ${turns.length - open} places clean.${where}${open > 0 ? ` ${open} to go.` : ''}`;
  }

  /** Other places to start at. */
  protected again(): void {
    this.seed += 1;
    void this.make();
  }

  /** Hands a drill over on paper, or as the file of it. */
  protected async paper(
    { title, why, how, turns, musicXml, measures }: ShownDrill,
    to: 'print' | 'file',
  ): Promise<void> {
    if (musicXml === null) return;
    try {
      const lines = await engravedLines(this.engraver, { musicXml, measures }, MEASURES_A_PRINTED_LINE);
      const pictures = await Promise.all(lines.map(rasterOf));
      const { drillSheet } = await import('../report/drill-sheet');
      const sheet = drillSheet({ title, why, how, turns, tempo: this.tempoText(), pictures });
      await (to === 'print' ? this.pdf.print(sheet) : this.pdf.save(sheet, title));
    } catch (error) {
      this.failure.set(error instanceof Error ? error.message : 'The PDF could not be made; try again.');
    }
  }

  protected save({ title, musicXml }: ShownDrill): void {
    if (musicXml === null) return;
    const file = new Blob([musicXml], { type: 'application/vnd.recordare.musicxml+xml' });
    handOver(file, fileNameOf(title, 'musicxml'));
  }
}
