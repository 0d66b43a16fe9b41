import { inRuns, inSpan, type Span } from '@vivid-cue/core/score';
import type { SheetPicture } from '../../data/engraver';
import { clearMarks, drawChosen, drawLayers, type ChosenMarks, type ScoreMarks } from './score-marks';
import { pictureOf } from '../../ui/svg-picture';

/** What is marked in the music. */
export interface SheetMarks {
  readonly asked: readonly Span[];
  readonly selection: Span | null;
  readonly layers: ScoreMarks | null;
  readonly chosen: ChosenMarks | null;
}

/** So many measures are put into the page at once. */
const MEASURES_AT_ONCE = 2;

/**
 * A line of engraved music: an empty box of its size until it comes near the eye, so that a long piece costs no more
 * than what is seen of it.
 * Shape:  `fromIndex` is the index of its first measure
 * Units:  CSS pixels
 */
export class EngravedSheet {
  readonly box = document.createElement('div');
  readonly endIndex: number;
  private measures: readonly Element[] = [];
  /** Those in which the chosen finding is drawn. */
  private chosenMeasures: readonly Element[] = [];
  /** Measures that wait for their turn, each with what keeps its place. */
  private waiting: (readonly [place: Comment, measure: Element])[] = [];

  constructor(
    private readonly picture: SheetPicture,
    readonly fromIndex: number,
  ) {
    this.endIndex = fromIndex + picture.measureCount;
    this.box.style.aspectRatio = `${picture.width} / ${picture.height}`;
  }

  get isDrawn(): boolean {
    return this.measures.length > 0;
  }

  /** Makes the picture and puts it in without its measures: those come with `drawNext`. */
  open(): void {
    if (this.isDrawn) return;
    const picture = pictureOf(this.picture.svg);
    this.measures = [...picture.querySelectorAll('g.measure')];
    this.waiting = this.measures.map((measure) => {
      const place = document.createComment('');
      measure.replaceWith(place);
      return [place, measure] as const;
    });
    this.box.replaceChildren(picture);
  }

  /** Puts the next measures in. Whether all of them are in. */
  drawNext(): boolean {
    for (const [place, measure] of this.waiting.splice(0, MEASURES_AT_ONCE)) place.replaceWith(measure);
    return this.waiting.length === 0;
  }

  mark(marks: SheetMarks): void {
    this.markSpans(marks);
    this.markLayers(marks.layers);
    this.markChosen(marks);
  }

  markSpans({ asked, selection }: Pick<SheetMarks, 'asked' | 'selection'>): void {
    this.measures.forEach((node, n) => {
      node.classList.toggle('is-outside', !inRuns(asked, this.fromIndex + n));
      node.classList.toggle('is-chosen', inSpan(selection, this.fromIndex + n));
    });
  }

  markLayers(layers: ScoreMarks | null): void {
    this.measures.forEach((node, n) => {
      clearMarks(node, 'layers');
      if (layers) drawLayers(node, this.fromIndex + n, layers);
    });
  }

  markChosen({ chosen, layers }: Pick<SheetMarks, 'chosen' | 'layers'>): void {
    const engraved = layers?.engraved ?? [];
    for (const node of this.chosenMeasures) clearMarks(node, 'chosen');
    this.chosenMeasures = this.measures.filter((_, n) => chosen?.places.has(this.fromIndex + n));
    for (const node of this.chosenMeasures)
      if (chosen) drawChosen(node, this.indexOf(node), { chosen, engraved });
  }

  /** The measure with an index; the box as long as it is not drawn. */
  measureAt(index: number): Element {
    const measure = this.measures[index - this.fromIndex];
    return measure?.isConnected === true ? measure : this.box;
  }

  /** The index of a drawn measure, or -1. */
  indexOf(measure: Element): number {
    const at = this.measures.indexOf(measure);
    return at < 0 ? -1 : this.fromIndex + at;
  }
}
