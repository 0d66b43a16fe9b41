import { askTempo } from '@vivid-cue/core/music';
import {
  ACCOMPANIMENTS,
  blankPart,
  NO_TEMPO,
  PART_KINDS,
  readScalePhrase,
  readSpanPhrase,
  REPEATS,
  type SheetPart,
  type SheetSpan,
} from '@vivid-cue/core/sheet';
import { SCALE_NOTE_VALUES } from '@vivid-cue/core/scale';
import { tempoPhrase } from './structure.js';

/** The columns of a sheet's parts as CSV, in their order. Source: docs/formats.md; RFC 4180 for the file. */
export const CSV_COLUMNS = [
  ...([
    'label',
    'kind',
    'title',
    'composer',
    'book',
    'number',
    'page',
    'edition',
    'measures',
    'tempo',
    'key',
  ] as const),
  ...([
    'octaves',
    'noteValue',
    'rangeLow',
    'rangeHigh',
    'articulation',
    'memory',
    'repeats',
    'accompaniment',
  ] as const),
  ...(['minSeconds', 'maxSeconds', 'points', 'appliesTo'] as const),
] as const;

/** One row of the file. Shape: a text for each column. */
export type CsvRow = Readonly<Partial<Record<string, string>>>;

/** What a file of parts gives: the good rows, and what is wrong with the others. */
export interface CsvParts {
  readonly parts: readonly SheetPart[];
  readonly issues: readonly { readonly row: number; readonly message: string }[];
}

/**
 * A sheet's parts as rows.
 * Shape:  empty where nothing is stated
 * Units:  seconds, points
 * Source: docs/formats.md
 */
export function csvRows(parts: readonly SheetPart[]): CsvRow[] {
  return parts.map((part) => ({
    label: part.label,
    kind: part.kind,
    title: part.title ?? '',
    composer: part.source.composer ?? '',
    book: part.source.book ?? '',
    number: part.source.number ?? '',
    page: part.source.page ?? '',
    edition: part.source.edition ?? '',
    measures: part.measures.map((span) => spanPhrase(span)).join(', '),
    tempo: tempoPhrase(part.tempo),
    key: part.key ?? '',
    octaves: part.octaves === null ? '' : String(part.octaves),
    noteValue: part.noteValue ?? '',
    rangeLow: part.range?.low ?? '',
    rangeHigh: part.range?.high ?? '',
    articulation: part.articulation ?? '',
    memory: part.memory === null ? '' : part.memory ? 'yes' : 'no',
    repeats: part.repeats === 'unstated' ? '' : part.repeats,
    accompaniment: part.accompaniment ?? '',
    minSeconds: part.minSeconds === null ? '' : String(part.minSeconds),
    maxSeconds: part.maxSeconds === null ? '' : String(part.maxSeconds),
    points: part.points === null ? '' : String(part.points),
    appliesTo: part.appliesTo.join('; '),
  }));
}

/** A run so that it reads back the same. */
function spanPhrase({ from, to, anchorText }: SheetSpan): string {
  if (typeof from === 'number' && typeof to === 'number')
    return from === to ? `m. ${from}` : `mm. ${from}-${to}`;
  return anchorText ?? `${from} to ${to}`;
}

/**
 * Reads rows back into parts.
 * Shape:  rows that are wrong are named by their line and left out; a file without the columns label and kind has none right
 * Units:  `row` counts from 2, as a spreadsheet shows it below the heading
 * Errors: none; issues instead
 * Source: docs/formats.md
 */
export function partsFromCsv(columns: readonly string[], rows: readonly CsvRow[]): CsvParts {
  const missing = ['label', 'kind'].filter((column) => !columns.includes(column));
  if (missing.length > 0) {
    const message = `The file has no column "${missing.join('" and no "')}". It has: ${columns.slice(0, 8).join(', ') || 'no heading at all'}. Expected are ${CSV_COLUMNS.join(', ')}.`;
    return { parts: [], issues: [{ row: 1, message }] };
  }
  const parts: SheetPart[] = [];
  const issues: { row: number; message: string }[] = [];
  rows.forEach((row, n) => {
    const read = partOfRow(row);
    if (typeof read === 'string') issues.push({ row: n + 2, message: read });
    else parts.push(read);
  });
  return { parts, issues };
}

function partOfRow(row: CsvRow): SheetPart | string {
  const text = (column: string): string | null => {
    const value = (row[column] ?? '').trim();
    return value === '' ? null : value;
  };
  const label = text('label');
  if (label === null) return 'The label is missing.';
  const kind = PART_KINDS.find((one) => one === text('kind'));
  if (!kind) return `"${text('kind') ?? ''}" is no kind of part; there are ${PART_KINDS.join(', ')}.`;
  const blank = blankPart(label, kind);
  const numbers = numbersOf(text);
  if (typeof numbers === 'string') return numbers;
  const measures = spansOf(text('measures'));
  if (typeof measures === 'string') return measures;
  const tempo = text('tempo');
  const mark = tempo === null ? { mark: NO_TEMPO } : askTempo(tempo);
  if (!('mark' in mark)) return mark.question;
  const key = text('key');
  if (key !== null && !('key' in readScalePhrase(key)))
    return `"${key}" is no key; write one such as "Bb major".`;
  const [low, high] = [text('rangeLow'), text('rangeHigh')];
  const chosen = chosenOf(text);
  if (typeof chosen === 'string') return chosen;
  return {
    ...blank,
    ...numbers,
    ...chosen,
    title: text('title'),
    source: {
      composer: text('composer'),
      book: text('book'),
      number: text('number'),
      page: text('page'),
      edition: text('edition'),
    },
    measures,
    tempo: mark.mark,
    key,
    range: low === null || high === null ? null : { low, high },
    articulation: text('articulation'),
    appliesTo: (text('appliesTo') ?? '').split(/\s*;\s*/u).filter((one) => one !== ''),
  };
}

type Cell = (column: string) => string | null;

function numbersOf(text: Cell): Pick<SheetPart, 'octaves' | 'minSeconds' | 'maxSeconds' | 'points'> | string {
  const found: Record<string, number | null> = {};
  for (const column of ['octaves', 'minSeconds', 'maxSeconds', 'points']) {
    const value = text(column);
    const number = value === null ? null : Number(value);
    if (number !== null && !(Number.isFinite(number) && number >= 0))
      return `"${value}" in the column ${column} is no number.`;
    found[column] = number;
  }
  return found as Pick<SheetPart, 'octaves' | 'minSeconds' | 'maxSeconds' | 'points'>;
}

function chosenOf(
  text: Cell,
): Pick<SheetPart, 'noteValue' | 'memory' | 'repeats' | 'accompaniment'> | string {
  const pick = <Value extends string>(column: string, values: readonly Value[]): Value | null | undefined => {
    const value = text(column);
    return value === null ? null : values.find((one) => one === value);
  };
  const noteValue = pick('noteValue', SCALE_NOTE_VALUES);
  const memory = pick('memory', ['yes', 'no'] as const);
  const repeats = pick('repeats', REPEATS);
  const accompaniment = pick('accompaniment', ACCOMPANIMENTS);
  if (noteValue === undefined)
    return `"${text('noteValue')}" is no note value; there are ${SCALE_NOTE_VALUES.join(', ')}.`;
  if (memory === undefined) return `"${text('memory')}" in the column memory is neither yes nor no.`;
  if (repeats === undefined)
    return `"${text('repeats')}" in the column repeats is none of ${REPEATS.join(', ')}.`;
  if (accompaniment === undefined)
    return `"${text('accompaniment')}" in the column accompaniment is none of ${ACCOMPANIMENTS.join(', ')}.`;
  return {
    noteValue,
    memory: memory === null ? null : memory === 'yes',
    repeats: repeats ?? 'unstated',
    accompaniment,
  };
}

function spansOf(text: string | null): readonly SheetSpan[] | string {
  if (text === null) return [];
  const read = readSpanPhrase(text);
  return 'measures' in read ? read.measures : read.question;
}
