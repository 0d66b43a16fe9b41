import { inSpan, type Span } from '@vivid-cue/core/score';
import type { SheetPicture } from '../data/engraver';
import { clearMarks, drawChosen, drawLayers, type ChosenMarks, type ScoreMarks } from './score-marks';
import { pictureOf } from './svg-picture';

/** What is marked in the music. */
export interface SheetMarks {
  readonly asked: Span | null;
  readonly selection: Span | null;
  readonly layers: ScoreMarks | null;
  readonly chosen: ChosenMarks | null;
}

/**
 * A line of engraved music: an empty box of its size until it comes near the eye, so that a long piece costs no more
 * than what is seen of it.
 * Shape:  `fromIndex` is the index of its first measure
 * Units:  CSS pixels
 * Errors: none
 * Source: none
 */
export class EngravedSheet {
  readonly box = document.createElement('div');
  readonly endIndex: number;
  private measures: readonly Element[] = [];

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

  /** Puts the picture in. */
  draw(): void {
    if (this.isDrawn) return;
    this.box.replaceChildren(pictureOf(this.picture.svg));
    this.measures = [...this.box.querySelectorAll('g.measure')];
  }

  /** Marks everything anew. */
  mark(marks: SheetMarks): void {
    this.markSpans(marks);
    this.markLayers(marks.layers);
    this.markChosen(marks);
  }

  markSpans({ asked, selection }: Pick<SheetMarks, 'asked' | 'selection'>): void {
    this.measures.forEach((node, n) => {
      node.classList.toggle('is-outside', asked !== null && !inSpan(asked, this.fromIndex + n));
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
    this.measures.forEach((node, n) => {
      clearMarks(node, 'chosen');
      if (chosen) drawChosen(node, this.fromIndex + n, { chosen, engraved });
    });
  }

  /** The measure with an index; the box as long as it is not drawn. */
  measureAt(index: number): Element {
    return this.measures[index - this.fromIndex] ?? this.box;
  }

  /** The index of a drawn measure, or -1. */
  indexOf(measure: Element): number {
    const at = this.measures.indexOf(measure);
    return at < 0 ? -1 : this.fromIndex + at;
  }
}
