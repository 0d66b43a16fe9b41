import type { LineRole, Told } from '../told/corrections.js';
import type { RawLine } from '../text/raw-lines.js';
import { isRoleWord } from './role-words.js';
import { findTables, headCells, type Row, type Table } from './tables.js';
import { wrapped, type Line } from './wrapped.js';

/** A table with where it stands, and what a person said of its columns and rows. */
export interface ToldTable extends Pick<Table, 'rows'> {
  readonly start: number;
  readonly end: number;
  readonly columns: Told['columns'] extends ReadonlyMap<number, infer Own> ? Own : never;
  /** Rows that name what the rows below them belong to. */
  readonly names: ReadonlyMap<Row, LineRole>;
}

/** A line of sense, with what a person said that it is, or a table. */
export type Block =
  | {
      readonly line: Line;
      readonly said: LineRole | null;
      /** Whether it names the columns of tables that come later. */
      readonly isHeads?: boolean;
    }
  | { readonly table: ToldTable };

/** What a row of a table may be told and stay in it. */
const IN_TABLE: ReadonlySet<LineRole> = new Set(['instrument', 'list', 'division']);

/**
 * The blocks of a text, in order.
 * Shape:  lines of no use stand for themselves and break nothing; a row that is told to be no row comes behind its table
 */
export function readBlocks(told: Told): Block[] {
  const blocks: Block[] = [];
  const raw = withoutUseless(told, blocks);
  let place = 0;
  const tables = findTables(raw);
  const heads = headsFor(tables, raw, told);
  const isCut = (line: RawLine): boolean => told.lines.has(line.start) || heads.lines.has(line);
  const addLines = (lines: readonly RawLine[]): void => {
    for (const stretch of cutBefore(lines, isCut))
      wrapped(stretch).forEach((line, n) => {
        const said = n === 0 ? (told.lines.get(stretch[0]?.start ?? -1) ?? null) : null;
        blocks.push({ line, said, isHeads: n === 0 && heads.lines.has(stretch[0] as RawLine) });
      });
  };
  for (const table of tables) {
    addLines(raw.slice(place, table.from));
    const own = raw.slice(table.from, table.to);
    const said = new Set(own.filter(({ start }) => isNoRow(told, start)));
    blocks.push({ table: toldTable(heads.tables.get(table) ?? table, own, { told, said }) });
    addLines([...said]);
    place = table.to;
  }
  addLines(raw.slice(place));
  return told.lines.size === 0 ? blocks : blocks.sort((a, b) => startOf(a) - startOf(b));
}

/** Tables that lack the names of their columns, with those that a line above them has. */
function headsFor(
  tables: readonly Table[],
  raw: readonly RawLine[],
  told: Told,
): { readonly tables: ReadonlyMap<Table, Table>; readonly lines: ReadonlySet<RawLine> } {
  const named = new Map<Table, Table>();
  const lines = new Set<RawLine>();
  let head: { readonly line: RawLine; readonly cells: Row } | null = null;
  let place = 0;
  for (const table of tables) {
    for (const line of raw.slice(place, table.from)) {
      const cells = told.lines.has(line.start) ? null : headCells(line);
      if (cells) head = { line, cells };
    }
    place = table.to;
    const [first = []] = table.rows;
    const isNamed = first.filter((cell) => cell !== null && isRoleWord(cell.text)).length >= 2;
    if (isNamed) head = null;
    else if (head && first.length === head.cells.length) {
      named.set(table, { ...table, rows: [head.cells, ...table.rows] });
      lines.add(head.line);
    }
  }
  return { tables: named, lines };
}

function startOf(block: Block): number {
  return 'table' in block ? block.table.start : (block.line.at[0] ?? 0);
}

function isNoRow({ lines }: Told, start: number): boolean {
  const role = lines.get(start);
  return role !== undefined && !IN_TABLE.has(role);
}

/** Lines without those of no use; a blank line before one is kept for the next. */
function withoutUseless({ raw, lines }: Told, blocks: Block[]): RawLine[] {
  let isAfterBlank = false;
  return raw.flatMap((line) => {
    if (lines.get(line.start) === 'nothing') {
      isAfterBlank ||= line.isAfterBlank;
      blocks.push(...wrapped([line]).map((own) => ({ line: own, said: 'nothing' as const })));
      return [];
    }
    const own = isAfterBlank ? { ...line, isAfterBlank } : line;
    isAfterBlank = false;
    return [own];
  });
}

/** Lines cut into stretches, each of which begins where something was said. */
function cutBefore(lines: readonly RawLine[], isCut: (line: RawLine) => boolean): RawLine[][] {
  const stretches: RawLine[][] = [];
  for (const line of lines) {
    if (stretches.length === 0 || isCut(line)) stretches.push([]);
    stretches.at(-1)?.push(line);
  }
  return stretches;
}

function toldTable(
  { rows }: Table,
  own: readonly RawLine[],
  { told, said }: { readonly told: Told; readonly said: ReadonlySet<RawLine> },
): ToldTable {
  const lineOf = (row: Row): number => {
    const place = row.find((cell) => cell !== null)?.at[0];
    return (place === undefined ? null : told.index.lineAt(place)?.start) ?? -1;
  };
  const gone = new Set([...said].map(({ start }) => start));
  const names = rows.flatMap((row) => {
    const role = told.lines.get(lineOf(row));
    return role !== undefined && IN_TABLE.has(role) ? [[row, role] as const] : [];
  });
  const start = own[0]?.start ?? 0;
  const last = own.at(-1);
  return {
    rows: rows.filter((row) => !gone.has(lineOf(row))),
    start,
    end: (last?.lineStart ?? 0) + (last?.whole.length ?? 0),
    columns: columnsTold(own, told),
    names: new Map(names),
  };
}

/** What was said of a table's columns, by whichever of its lines it was said. */
function columnsTold(own: readonly RawLine[], { raw, columns, lines }: Told): ToldTable['columns'] {
  if (columns.size === 0) return new Map();
  const first = raw.findIndex(({ start }) => start === own[0]?.start);
  let from = first;
  while (from > 0 && lines.get(raw[from - 1]?.start ?? -1) === 'nothing') from -= 1;
  return new Map([...raw.slice(from, first), ...own].flatMap(({ start }) => [...(columns.get(start) ?? [])]));
}
