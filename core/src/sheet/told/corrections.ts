import { rememberedFor } from '../../base/index.js';
import { PART_FIELDS, type PartField } from '../part-fields.js';
import type { Role } from '../structure/role-words.js';
import type { RawLine } from '../text/raw-lines.js';

/** What a person can say that a line is. Shape: `more` belongs to the part above; `nothing` is of no use */
export const LINE_ROLES = [
  'part',
  'more',
  'instrument',
  'division',
  'list',
  'rule',
  'scoring',
  'dates',
  'footnote',
  'nothing',
] as const;
/** One of LINE_ROLES. */
export type LineRole = (typeof LINE_ROLES)[number];

/** What a person can say that a column holds. Shape: `cells` is what one instrument, or one turn of a rotation, plays */
export const COLUMN_ROLES = [
  'label',
  'title',
  'composer',
  'book',
  'publisher',
  'number',
  'page',
  'edition',
  'measures',
  'tempo',
  'key',
  'octaves',
  'noteValue',
  'range',
  'articulation',
  'memory',
  'repeats',
  'time',
  'points',
  'instrument',
  'division',
  'words',
  'text',
  'cells',
  'nothing',
] as const satisfies readonly (Role | 'cells')[];
/** One of COLUMN_ROLES. */
export type ColumnRole = (typeof COLUMN_ROLES)[number];

/** A field that words of the text can be given to; what a part is and whom it is for is said by lines. */
export type WordField = Exclude<PartField['name'], 'kind' | 'scope'>;
/** Every WordField, in the order of the fields. */
export const WORD_FIELDS: readonly WordField[] = PART_FIELDS.map(({ name }) => name).filter(
  (name): name is WordField => name !== 'kind' && name !== 'scope',
);

/**
 * A printed line, so that the same text pasted anew has it too.
 * Shape:  its words with single spaces, and how many lines of the same words stand before it
 */
export interface LineAnchor {
  readonly line: string;
  readonly nth: number;
}

/** Where a part begins: its line, and how many parts begin there before it. */
export interface PartAnchor extends LineAnchor {
  readonly index: number;
}

/**
 * What a person said of a text. It outweighs what is read, and is kept apart from the text.
 * Shape:  `column` counts from 0 in the table that has the line; words run from `from` to before `to` behind the
 *         beginning of their line
 * Units:  characters
 */
export type Correction =
  | { readonly kind: 'line'; readonly at: LineAnchor; readonly role: LineRole }
  | { readonly kind: 'column'; readonly at: LineAnchor; readonly column: number; readonly role: ColumnRole }
  | {
      readonly kind: 'words';
      readonly at: LineAnchor;
      readonly from: number;
      readonly to: number;
      readonly part: PartAnchor;
      readonly field: WordField;
    };

/** Corrections that say the same of the same place: the later one holds. */
function keyOf(correction: Correction): string {
  const { kind, at } = correction;
  const own =
    kind === 'column'
      ? correction.column
      : kind === 'words'
        ? [correction.part.line, correction.part.nth, correction.part.index, correction.field]
        : '';
  return JSON.stringify([kind, kind === 'words' ? '' : at.line, kind === 'words' ? 0 : at.nth, own]);
}

/** Corrections with one more; what said something else of the same place goes. */
export function withCorrection(all: readonly Correction[], added: Correction): Correction[] {
  return [...all.filter((one) => keyOf(one) !== keyOf(added)), added];
}

/** Corrections without what was said of that place. */
export function withoutCorrection(all: readonly Correction[], gone: Correction): Correction[] {
  return all.filter((one) => keyOf(one) !== keyOf(gone));
}

/** The printed lines of a text by their anchors. */
export class LineIndex {
  private readonly starts = new Map<string, number[]>();

  constructor(private readonly raw: readonly RawLine[]) {
    for (const line of raw) {
      const key = anchorText(line);
      const known = this.starts.get(key);
      if (known) known.push(line.start);
      else this.starts.set(key, [line.start]);
    }
  }

  /** Where the line begins. Shape: null where the text has none such */
  startOf({ line, nth }: LineAnchor): number | null {
    return this.starts.get(line)?.[nth] ?? null;
  }

  /** The anchor of the line that a place lies in. Shape: of the last one before, where it lies between two */
  anchorAt(place: number): LineAnchor | null {
    return this.lineAt(place)?.at ?? null;
  }

  /** The line that a place lies in, and where it begins. Shape: as of anchorAt */
  lineAt(place: number): { readonly at: LineAnchor; readonly start: number } | null {
    let [low, high] = [0, this.raw.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((this.raw[middle]?.start ?? Infinity) <= place) low = middle + 1;
      else high = middle;
    }
    const line = this.raw[low - 1];
    if (!line) return null;
    const key = anchorText(line);
    return {
      at: { line: key, nth: (this.starts.get(key) ?? []).indexOf(line.start) },
      start: line.start,
    };
  }
}

/** Units: characters (our own limit: a line is known by its beginning). */
const LONGEST_ANCHOR = 200;

function anchorText({ text }: RawLine): string {
  return text.replace(/\s+/gu, ' ').slice(0, LONGEST_ANCHOR);
}

/** A text in its printed lines, with what was said of it at its places. */
export interface Told {
  readonly raw: readonly RawLine[];
  /** By where the line begins. */
  readonly lines: ReadonlyMap<number, LineRole>;
  /** By where the line begins that the table is known by. */
  readonly columns: ReadonlyMap<number, ReadonlyMap<number, ColumnRole>>;
  readonly words: readonly {
    readonly start: number;
    readonly end: number;
    readonly part: PartAnchor;
    readonly field: WordField;
    readonly correction: Correction;
  }[];
  /** Corrections whose words the text does not have. */
  readonly lost: readonly Correction[];
  readonly index: LineIndex;
}

/** The anchors of printed lines. */
export const indexOf = rememberedFor((raw: readonly RawLine[]) => new LineIndex(raw));

/** Finds the places that corrections speak of. Shape: what the text no longer has is `lost` */
export function tell(raw: readonly RawLine[], corrections: readonly Correction[]): Told {
  const index = indexOf(raw);
  const lines = new Map<number, LineRole>();
  const columns = new Map<number, Map<number, ColumnRole>>();
  const words: Told['words'][number][] = [];
  const lost: Correction[] = [];
  for (const correction of corrections) {
    const start = index.startOf(correction.at);
    if (start === null) lost.push(correction);
    else if (correction.kind === 'line') lines.set(start, correction.role);
    else if (correction.kind === 'column')
      columns.set(start, (columns.get(start) ?? new Map()).set(correction.column, correction.role));
    else {
      const { from, to, part, field } = correction;
      words.push({ start: start + from, end: start + to, part, field, correction });
    }
  }
  return { raw, lines, columns, words, lost, index };
}
