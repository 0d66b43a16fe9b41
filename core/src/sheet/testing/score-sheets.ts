import { readdirSync, readFileSync } from 'node:fs';
import { exchangedSheet, type ExchangedSheet } from '../identity.js';
import { blankPart, type PartKind, type SheetPart } from '../model.js';
import { labelKey } from '../labels.js';
import { readSheet } from '../read-sheet.js';

const FOLDER = new URL('../../../testdata/sheets/', import.meta.url);

type Sparse = Readonly<Record<string, unknown>> & {
  readonly parts: readonly (Readonly<Record<string, unknown>> & {
    readonly label: string;
    readonly kind: PartKind;
  })[];
};

/** Right and all cells of one field: a cell is a value that the text states or that the reader gave. */
export interface FieldScore {
  right: number;
  cells: number;
}

/** How well a set of sheets is read. Shape: per field, with every miss in words. */
export interface SheetScore {
  readonly fields: Readonly<Record<string, FieldScore>>;
  readonly misses: readonly string[];
}

/** Sheets that the rules were written with, sheets kept aside while they were, sheets written afterwards. */
export type SheetSet = 'tuned' | 'aside' | 'fresh' | 'last';

/** The names of the sheets of a set. */
export function sheetNames(set: SheetSet): string[] {
  return readdirSync(new URL(`${set}/`, FOLDER))
    .filter((name) => name.endsWith('.txt'))
    .map((name) => name.slice(0, -4))
    .sort();
}

/** The text of a sheet of the tests. */
export function sheetText(set: SheetSet, name: string): string {
  return readFileSync(new URL(`${set}/${name}.txt`, FOLDER), 'utf8');
}

/**
 * Reads a set of sheets and compares every field with what its author wrote down before.
 * Shape:  cells that are empty on both sides do not count
 * Units:  cells
 */
export function scoreSheets(set: SheetSet): SheetScore {
  const fields: Record<string, FieldScore> = {};
  const misses: string[] = [];
  for (const name of sheetNames(set)) {
    const expected = JSON.parse(readFileSync(new URL(`${set}/${name}.json`, FOLDER), 'utf8')) as Sparse;
    const sheet = exchangedSheet(readSheet(sheetText(set, name)).sheet);
    const count = (field: string, wanted: unknown, came: unknown): void => {
      if (isEmpty(wanted) && isEmpty(came)) return;
      const score = (fields[field] ??= { right: 0, cells: 0 });
      score.cells += 1;
      if (same(wanted, came)) score.right += 1;
      else misses.push(`${name} ${field}: wanted ${JSON.stringify(wanted)}, came ${JSON.stringify(came)}`);
    };
    compareHead(expected, sheet, count);
    compareParts(expected, sheet, count);
  }
  return { fields, misses };
}

type Count = (field: string, wanted: unknown, came: unknown) => void;

function compareHead(expected: Sparse, sheet: ExchangedSheet, count: Count): void {
  count('body', expected.body ?? null, sheet.body);
  count('year', expected.year ?? null, sheet.year);
  count('instruments', expected.instruments ?? [], sheet.instruments);
  compareLists(
    'division',
    expected.division,
    sheet.division,
    ['name', 'gradeMin', 'gradeMax', 'ageMin', 'ageMax', 'asOf'],
    count,
  );
  compareLists('deadlines', expected.deadlines, sheet.deadlines, ['what', 'date', 'time', 'zone'], count);
  compareLists('choices', expected.choices, sheet.choices, ['rule', 'n', 'of'], count);
  const kinds = (notes: unknown): string[] =>
    ((notes ?? []) as { kind: string }[]).map(({ kind }) => kind).sort();
  for (const kind of new Set([...kinds(expected.notes), ...kinds(sheet.notes)]))
    count(
      'notes',
      kinds(expected.notes).filter((one) => one === kind).length,
      kinds(sheet.notes).filter((one) => one === kind).length,
    );
  const abouts = (questions: unknown): string[] =>
    ((questions ?? []) as { about: string }[]).map(({ about }) => about.toLowerCase());
  for (const about of new Set([...abouts(expected.questions), ...abouts(sheet.questions)]))
    count(
      'questions',
      abouts(expected.questions).includes(about) ? about : null,
      abouts(sheet.questions).includes(about) ? about : null,
    );
}

function compareLists(
  name: string,
  wanted: unknown,
  came: readonly unknown[],
  members: readonly string[],
  count: Count,
): void {
  const list = (wanted ?? []) as Record<string, unknown>[];
  for (let n = 0; n < Math.max(list.length, came.length); n += 1)
    for (const member of members)
      count(
        `${name}.${member}`,
        list[n]?.[member] ?? null,
        (came[n] as Record<string, unknown> | undefined)?.[member] ?? null,
      );
}

function compareParts(expected: Sparse, sheet: ExchangedSheet, count: Count): void {
  const left = [...sheet.parts];
  for (const wanted of expected.parts) {
    const at = left.findIndex(
      (part) =>
        labelKey(part.label) === labelKey(wanted.label) &&
        (wanted.appliesTo === undefined || same(wanted.appliesTo, part.appliesTo)),
    );
    const [part] = at < 0 ? [] : left.splice(at, 1);
    count('parts.label', wanted.label.toLowerCase(), part ? wanted.label.toLowerCase() : null);
    // A missed part misses every field that it states.
    comparePart(wanted, part ?? blankExchanged(), count);
  }
  for (const extra of left) {
    count('parts.label', null, extra.label);
    comparePart({ label: extra.label, kind: extra.kind }, extra, count);
  }
}

type Exchanged = ExchangedSheet['parts'][number];

function blankExchanged(): Exchanged {
  const { scope: _, ...rest } = blankPart('', 'other');
  return { ...rest, appliesTo: [] };
}

function comparePart(wanted: Sparse['parts'][number], part: Exchanged, count: Count): void {
  const blank = blankExchanged();
  const full = {
    ...blank,
    ...wanted,
    source: { ...blank.source, ...(wanted.source as object) },
    tempo: { ...blank.tempo, ...(wanted.tempo as object) },
  } as Exchanged;
  for (const field of Object.keys(blank) as (keyof Exchanged)[]) {
    if (field === 'label' || field === 'id') continue;
    if (field === 'source')
      for (const own of Object.keys(blank.source) as (keyof SheetPart['source'])[])
        count(`source.${own}`, full.source[own], part.source[own]);
    else if (field === 'measures')
      count(
        'measures',
        full.measures.map(({ from, to }) => [from, to]),
        part.measures.map(({ from, to }) => [from, to]),
      );
    else count(field, full[field], part[field]);
  }
}

function isEmpty(value: unknown): boolean {
  return (
    value === null ||
    value === undefined ||
    value === 0 ||
    value === 'unstated' ||
    (Array.isArray(value) && value.length === 0) ||
    (typeof value === 'object' && (value as { bound?: string }).bound === 'none')
  );
}

function same(a: unknown, b: unknown): boolean {
  const calm = (value: unknown): string =>
    JSON.stringify(value, (_, inner: unknown) => (typeof inner === 'string' ? inner.toLowerCase() : inner)) ??
    '';
  const ordered = (value: unknown): unknown =>
    value !== null && typeof value === 'object' && !Array.isArray(value)
      ? Object.fromEntries(Object.entries(value).sort(([x], [y]) => (x < y ? -1 : 1)))
      : value;
  return calm(ordered(a)) === calm(ordered(b));
}
