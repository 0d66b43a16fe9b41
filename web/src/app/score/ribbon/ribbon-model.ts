import { measuresText, measureWord, type QuarterCount, type Vocabulary } from '@vivid-cue/core/music';
import type { ReadinessState } from '@vivid-cue/core/readiness';
import type { Span } from '@vivid-cue/core/score';

/** One measure of the ribbon. Units: quarter notes. */
export interface RibbonMeasure {
  readonly index: number;
  readonly number: string;
  readonly quarters: QuarterCount;
  readonly isAsked: boolean;
}

/** A passage as a band on the ribbon. */
export interface RibbonBand extends Span {
  readonly id: string;
  readonly name: string;
  readonly state: ReadinessState;
}

/** What stands over or in the measures of the ribbon. Shape: lists by measure index. */
export interface RibbonMarks {
  /** Height of what a measure asks, 0 to 1. */
  readonly heat: readonly (number | null)[] | null;
  readonly findings: ReadonlyMap<number, 'open' | 'kept'>;
  /** A letter or a count within the measure. */
  readonly texts: readonly (string | null)[] | null;
  readonly breaths: ReadonlySet<number>;
  readonly cues: ReadonlySet<number>;
}

/** Start of every measure, and the end, as shares of the whole. */
export function measureEdges(measures: readonly RibbonMeasure[]): readonly number[] {
  const total = Math.max(
    0.001,
    measures.reduce((sum, { quarters }) => sum + quarters, 0),
  );
  let at = 0;
  return [0, ...measures.map(({ quarters }) => (at += quarters) / total)];
}

/** A measure of the ribbon, or several where one would be too narrow, with what stands over and in it. Units: shares of the whole, percent. */
export interface RibbonCell extends Span {
  readonly number: string;
  readonly isAsked: boolean;
  readonly left: number;
  readonly width: number;
  readonly hasLabel: boolean;
  readonly name: string;
  readonly heat: number;
  readonly finding: 'open' | 'kept' | null;
  readonly text: string;
  readonly hasBreath: boolean;
  readonly hasCue: boolean;
}

/** Cells that are drawn together. */
export interface CellGroup extends Span {
  readonly cells: readonly RibbonCell[];
}

/** A cell this wide can be told from its neighbour. */
const CELL_PX = 5;
/** Width in pixels that a printed number needs. */
const LABEL_PX = 30;
const STEPS = [1, 2, 4, 5, 8, 10, 16, 20, 32, 50, 64, 100];
const CELLS_IN_GROUP = 24;

/**
 * The cells of a ribbon.
 * Shape:  one for each measure, or for as many as make a cell wide enough; a number at each cell that has room for it;
 *         none without a width
 * Units:  pixels, shares of the whole, percent
 */
export function ribbonCells(
  measures: readonly RibbonMeasure[],
  {
    edges,
    marks,
    widthPx,
    vocabulary,
  }: {
    readonly edges: readonly number[];
    readonly marks: RibbonMarks | null;
    readonly widthPx: number;
    readonly vocabulary: Vocabulary;
  },
): readonly RibbonCell[] {
  if (widthPx <= 0) return [];
  const step = stepFor(measures.length, widthPx / CELL_PX);
  const labelStep = step * stepFor(measures.length / step, widthPx / LABEL_PX);
  const cells: RibbonCell[] = [];
  for (let fromIndex = 0; fromIndex < measures.length; fromIndex += step) {
    const own = measures.slice(fromIndex, fromIndex + step);
    const endIndex = fromIndex + own.length;
    const [left = 0, right = 1] = [edges[fromIndex], edges[endIndex]];
    const width = right - left;
    const hasLabel = fromIndex % labelStep === 0 && (width * widthPx * labelStep) / step >= LABEL_PX / 2;
    cells.push({ fromIndex, endIndex, left, width, hasLabel, ...cellFacts(own, marks, vocabulary) });
  }
  return cells;
}

/** What one cell says of its measures. */
function cellFacts(
  own: readonly RibbonMeasure[],
  marks: RibbonMarks | null,
  vocabulary: Vocabulary,
): Omit<RibbonCell, 'fromIndex' | 'endIndex' | 'left' | 'width' | 'hasLabel'> {
  const [first, last] = [own[0], own.at(-1)];
  const number = first?.number ?? '';
  const indexes = own.map(({ index }) => index);
  const tones = indexes.map((index) => marks?.findings.get(index) ?? null);
  const finding = tones.find((tone) => tone === 'open') ?? tones.find((tone) => tone !== null) ?? null;
  const isAsked = own.some((measure) => measure.isAsked);
  const hasCue = indexes.some((index) => marks?.cues.has(index));
  const where =
    own.length === 1
      ? `${measureWord(1, vocabulary)} ${number}`
      : measuresText(number, last?.number ?? '', vocabulary);
  return {
    number,
    isAsked,
    name: [where, isAsked ? '' : 'not asked', finding === 'open' ? 'finding' : '', hasCue ? 'cue' : '']
      .filter((text) => text !== '')
      .join(', '),
    heat: 100 * Math.max(0, ...indexes.map((index) => marks?.heat?.[index] ?? 0)),
    finding,
    text: own.length === 1 ? (marks?.texts?.[indexes[0] ?? 0] ?? '') : '',
    hasBreath: indexes.some((index) => marks?.breaths.has(index)),
    hasCue,
  };
}

/** Cells in groups: a group is drawn anew only when something in it changes, so that a long piece stays quick. */
export function cellGroups(cells: readonly RibbonCell[]): readonly CellGroup[] {
  return Array.from({ length: Math.ceil(cells.length / CELLS_IN_GROUP) }, (_, n) => {
    const own = cells.slice(n * CELLS_IN_GROUP, (n + 1) * CELLS_IN_GROUP);
    return { cells: own, fromIndex: own[0]?.fromIndex ?? 0, endIndex: own.at(-1)?.endIndex ?? 0 };
  });
}

/** So many of a number of things are taken together for them to fit. */
function stepFor(count: number, fits: number): number {
  return STEPS.find((step) => count / step <= fits) ?? 200;
}
