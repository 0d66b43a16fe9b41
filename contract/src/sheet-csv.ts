import {
  blankPart,
  fieldOf,
  PART_FIELDS,
  PART_KINDS,
  readField,
  withField,
  writeField,
  type SheetPart,
} from '@vivid-cue/core/sheet';

/** The columns of a sheet's parts as CSV, in their order. Source: docs/formats.md; RFC 4180 for the file. */
export const CSV_COLUMNS: readonly string[] = PART_FIELDS.map(({ name }) => name);

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
  return parts.map((part) =>
    Object.fromEntries(
      PART_FIELDS.map((field) => [field.name, guarded(writeField(field, fieldOf(part, field.name)))]),
    ),
  );
}

/** A cell that a spreadsheet would take for a formula has an apostrophe before it. Source: OWASP, CSV injection (from memory) */
function guarded(cell: string): string {
  return /^[=+\-@\t\r']/u.test(cell) ? `'${cell}` : cell;
}

function unguarded(cell: string): string {
  return /^'[=+\-@\t\r']/u.test(cell) ? cell.slice(1) : cell;
}

/**
 * Reads rows back into parts.
 * Shape:  rows that are wrong are named by their line and left out; a file without the columns label and kind has none right
 * Units:  `row` counts from 2, as a spreadsheet shows it below the heading
 * Errors: none; issues instead
 * Source: docs/formats.md
 */
export function partsFromCsv(
  columns: readonly string[],
  rows: readonly CsvRow[],
  newId: () => string,
): CsvParts {
  const missing = ['label', 'kind'].filter((column) => !columns.includes(column));
  if (missing.length > 0) {
    const message = `The file has no column "${missing.join('" and no "')}". It has: ${columns.slice(0, 8).join(', ') || 'no heading at all'}. Expected are ${CSV_COLUMNS.join(', ')}.`;
    return { parts: [], issues: [{ row: 1, message }] };
  }
  const parts: SheetPart[] = [];
  const issues: { row: number; message: string }[] = [];
  rows.forEach((row, n) => {
    const read = partOfRow(row, newId());
    if (typeof read === 'string') issues.push({ row: n + 2, message: read });
    else parts.push(read);
  });
  return { parts, issues };
}

function partOfRow(row: CsvRow, id: string): SheetPart | string {
  if ((row['label'] ?? '').trim() === '') return 'The label is missing.';
  const kind = (row['kind'] ?? '').trim();
  if (kind === '') return `The kind is missing; there are ${PART_KINDS.join(', ')}.`;
  let part = blankPart('', 'other', id);
  for (const field of PART_FIELDS) {
    const read = readField(field, unguarded(row[field.name] ?? ''));
    if ('issue' in read) return read.issue;
    part = withField(part, field.name, read.value);
  }
  return part;
}
