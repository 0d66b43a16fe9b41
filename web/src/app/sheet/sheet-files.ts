import { parse, unparse } from 'papaparse';
import { exchangedSheet, type ExchangedSheet, type StructuredSheet } from '@vivid-cue/core/sheet';
import { v7 as newId } from 'uuid';
import {
  adoptedSheet,
  CSV_COLUMNS,
  csvRows,
  partsFromCsv,
  type CsvParts,
  type CsvRow,
} from '@vivid-cue/contract';
import { fileNameOf, handOver } from '../data/hand-over';

/** Longest file that is imported. Units: bytes (our own limit). */
const FILE_LIMIT = 1_000_000;

/** What an imported file gives. */
export type ImportedSheet =
  | { readonly kind: 'sheet'; readonly sheet: StructuredSheet }
  | { readonly kind: 'parts'; readonly csv: CsvParts };

/**
 * Reads a JSON or CSV file of a sheet.
 * Shape:  JSON is a whole structured sheet, CSV its parts
 * Errors: an Error with a sentence for a person
 * Source: docs/formats.md; RFC 4180 for CSV
 */
export async function importSheet(file: File): Promise<ImportedSheet> {
  if (file.size > FILE_LIMIT)
    throw new Error(`A sheet file has at most 1 MB; "${file.name}" has ${(file.size / 1e6).toFixed(1)} MB.`);
  const text = (await file.text()).replace(/^\ufeff/u, '');
  return /^\s*[{[]/u.test(text)
    ? { kind: 'sheet', sheet: sheetOf(text, file.name) }
    : { kind: 'parts', csv: partsOf(text) };
}

function sheetOf(text: string, name: string): StructuredSheet {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new Error(`"${name}" is no complete JSON file; export it again.`);
  }
  const sheet = value as ExchangedSheet;
  const lists = ['instruments', 'division', 'deadlines', 'parts', 'choices', 'notes', 'questions'] as const;
  const missing = lists.filter((list) => !Array.isArray((value as Record<string, unknown>)[list]));
  if (missing.length > 0) throw new Error(`"${name}" is no sheet: it has no list of ${missing.join(', ')}.`);
  return adoptedSheet(sheet, newId);
}

function partsOf(text: string): CsvParts {
  const { data, meta } = parse<CsvRow>(text, { header: true, skipEmptyLines: 'greedy' });
  return partsFromCsv(meta.fields ?? [], data, newId);
}

/** The parts of a sheet as CSV. Source: RFC 4180 */
export function csvText({ parts }: Pick<StructuredSheet, 'parts'>): string {
  return unparse({
    fields: [...CSV_COLUMNS],
    data: csvRows(parts).map((row) => CSV_COLUMNS.map((column) => row[column] ?? '')),
  });
}

/** Hands a sheet to the browser as a file. */
export function saveSheetFile(sheet: StructuredSheet, kind: 'json' | 'csv'): void {
  const title = `${sheet.body ?? 'sheet'} ${sheet.year ?? ''}`.trim();
  const content = kind === 'json' ? JSON.stringify(exchangedSheet(sheet), null, 2) : csvText(sheet);
  const type = kind === 'json' ? 'application/json' : 'text/csv';
  handOver(new Blob([content], { type }), fileNameOf(title, kind));
}
