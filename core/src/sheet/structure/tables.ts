import { rememberedFor } from '../../base/index.js';
import { joined, type Piece } from '../text/piece.js';
import type { RawLine } from '../text/raw-lines.js';
import { isRoleWord } from './role-words.js';

/** A row of a table. Shape: a cell is null where nothing is printed; a row of one cell is a heading within the table */
export type Row = readonly (Piece | null)[];

/** A table with the printed lines it was found in. Shape: rows are equally long; lines `from` to before `to` */
export interface Table {
  readonly rows: readonly Row[];
  readonly from: number;
  readonly to: number;
}

interface Cell {
  readonly text: string;
  readonly start: number;
  readonly column: number;
}
type Cells = readonly Cell[];

/**
 * Finds tables: pasted with tabs, pipes, commas, wide or single spaces, or with one cell a line.
 * Shape:  in order, none overlapping another
 * Units:  printed lines
 */
export function findTables(raw: readonly RawLine[]): Table[] {
  const tables: Table[] = [];
  for (let n = 0; n < raw.length; n += 1) {
    const table =
      tabbed(raw, n) ??
      piped(raw, n) ??
      commas(raw, n) ??
      spaced(raw, n) ??
      singleSpaced(raw, n) ??
      stacked(raw, n);
    if (!table) continue;
    tables.push(table);
    n = table.to - 1;
  }
  return tables;
}

function cutAt({ whole, lineStart }: RawLine, sign: string): Cells {
  let place = lineStart;
  return whole.split(sign).map((own, column) => {
    const lead = own.length - own.trimStart().length;
    const cell = { text: own.trim(), start: place + lead, column };
    place += own.length + sign.length;
    return cell;
  });
}

/** Rows of equal length out of cells; rows with nothing but rules are gone, empty columns too. */
function tableOf(lines: readonly Cells[], from: number, to: number): Table {
  const kept = lines.filter((cells) => cells.some(({ text }) => /[\p{L}\p{N}\u2669-\u266f]/u.test(text)));
  const width = Math.max(...kept.flatMap((cells) => cells.map(({ column }) => column + 1)), 1);
  const rows = kept.map((cells) =>
    Array.from({ length: width }, (_, column) => {
      const own = cells.filter((cell) => cell.column === column && cell.text !== '');
      return own.length === 0 ? null : joined(own);
    }),
  );
  const used = Array.from({ length: width }, (_, n) => rows.some((row) => row[n] != null));
  return { rows: rows.map((row) => row.filter((_, n) => used[n])), from, to };
}

/** A name on a line of its own within a table: what the rows below it belong to. */
function isNameLine(line: RawLine | undefined): boolean {
  return line !== undefined && line.text.length <= 40 && !/[.!?;:]$|\t|[=]/u.test(line.text);
}

function tabbed(raw: readonly RawLine[], n: number): Table | null {
  const has = (line: RawLine | undefined): boolean =>
    line !== undefined && line.whole.trimEnd().includes('\t');
  if (!has(raw[n])) return null;
  let end = n;
  while (has(raw[end]) || (isNameLine(raw[end]) && has(raw[end + 1]))) end += 1;
  const lines = raw.slice(n, end);
  if (lines.filter((line) => has(line)).length < 2) return null;
  return tableOf(
    lines.map((line) => cutAt(line, '\t')),
    n,
    end,
  );
}

function piped(raw: readonly RawLine[], n: number): Table | null {
  const cells = (line: RawLine | undefined): Cells | null => {
    if (!line || !line.whole.includes('|')) return null;
    const cut = cutAt(line, '|');
    return cut.filter(({ text }) => text !== '').length === 0 ? null : cut;
  };
  const first = cells(raw[n]);
  if (!first || first.length < 3) return null;
  const lines: Cells[] = [];
  let end = n;
  for (let next = cells(raw[end]); next && next.length === first.length; next = cells(raw[end])) {
    if (end > n && raw[end]?.isAfterBlank) break;
    lines.push(next);
    end += 1;
  }
  return lines.length < 2 ? null : tableOf(lines, n, end);
}

const csvCells = rememberedFor(({ whole, lineStart }: RawLine): Cells => {
  const cells: Cell[] = [];
  for (const match of whole.matchAll(/(?<=^|,)(?:\s*"((?:[^"]|"")*)"\s*|([^,"]*))(?=,|$)/gu)) {
    const own = match[1] ?? match[2] ?? '';
    const lead = own.length - own.trimStart().length;
    const start = lineStart + match.index + match[0].indexOf(own) + lead;
    cells.push({ text: own.trim().replace(/""/gu, '"'), start, column: cells.length });
  }
  return cells;
});

function commas(raw: readonly RawLine[], n: number): Table | null {
  const header = raw[n];
  if (!header || (header.text.match(/,/gu)?.length ?? 0) < 2) return null;
  const names = csvCells(header);
  if (names.filter(({ text }) => isRoleWord(text)).length < Math.max(2, names.length / 2)) return null;
  let end = n + 1;
  while (end < raw.length && csvCells(raw[end] as RawLine).length === names.length) end += 1;
  return end - n < 2
    ? null
    : tableOf(
        raw.slice(n, end).map((line) => csvCells(line)),
        n,
        end,
      );
}

/** Cells of a line that wide gaps set apart; `column` is their place in print. */
const gapCells = rememberedFor(({ text, start, indent }: RawLine): Cells => {
  const cells: Cell[] = [];
  for (const match of text.matchAll(/\S(?:.*?\S)??(?=\s{2,}|$)/gu))
    cells.push({ text: match[0], start: start + match.index, column: indent + match.index });
  return cells;
});

/**
 * The names of columns that a line has by itself, for tables that come later without their own.
 * Shape:  null where at most half of its cells name a column
 */
export function headCells(line: RawLine): Row | null {
  const cells = line.whole.trimEnd().includes('\t')
    ? cutAt(line, '\t')
    : line.whole.includes('|')
      ? cutAt(line, '|')
      : gapCells(line);
  const own = cells.filter(({ text }) => text !== '');
  const named = own.filter(({ text }) => isRoleWord(text));
  const isHead = own.length >= 3 && named.length >= 2 && named.length * 2 > own.length;
  return isHead ? own.map((cell) => joined([cell])) : null;
}

const NEAR = 2;

/** Columns that begin at the same places on several lines. */
function spaced(raw: readonly RawLine[], n: number): Table | null {
  const first = raw[n];
  if (!first) return null;
  const header = gapCells(first);
  if (header.length < 3) return null;
  const columns = header.map(({ column }) => column);
  const columnOf = ({ column }: Cell): number =>
    columns.findIndex((place) => Math.abs(place - column) <= NEAR);
  const lines: Cell[][] = [];
  let end = n;
  for (; end < raw.length; end += 1) {
    const line = raw[end] as RawLine;
    if (end > n && line.isAfterBlank) break;
    const cells = gapCells(line).map((cell) => ({ ...cell, column: columnOf(cell) }));
    const isWithin = cells.every(({ column }) => column >= 0);
    const last = lines.at(-1);
    if (isWithin && cells.length === 1 && last && (cells[0]?.column ?? 0) > 0) last.push(...cells);
    else if (isWithin && (cells.length >= 2 || isNameLine(line))) lines.push(cells);
    else break;
  }
  while (lines.length > 0 && lines.at(-1)?.length === 1) {
    lines.pop();
    end -= 1;
  }
  const wide = lines.filter(
    (cells) => new Set(cells.map(({ column }) => column)).size >= Math.min(3, columns.length),
  );
  return wide.length < 2 ? null : tableOf(lines, n, end);
}

const wordCells = rememberedFor(({ text, start }: RawLine): Cells =>
  [...text.matchAll(/\S+/gu)].map(({ 0: word, index }, column) => ({
    text: word,
    start: start + index,
    column,
  })),
);

/** A heading of single words, and lines of as many. */
function singleSpaced(raw: readonly RawLine[], n: number): Table | null {
  const words = (line: RawLine | undefined): Cells => (line ? wordCells(line) : []);
  const header = words(raw[n]);
  if (header.length < 3 || !header.every(({ text }) => isRoleWord(text))) return null;
  let end = n + 1;
  while (end < raw.length && words(raw[end]).length === header.length && !raw[end]?.isAfterBlank) end += 1;
  return end - n < 2
    ? null
    : tableOf(
        raw.slice(n, end).map((line) => words(line)),
        n,
        end,
      );
}

/** One cell a line: the names of the columns, and then as many lines for every row. */
function stacked(raw: readonly RawLine[], n: number): Table | null {
  let header = 0;
  while (isRoleWord(raw[n + header]?.text ?? '') && !(header > 0 && raw[n + header]?.isAfterBlank))
    header += 1;
  if (header < 3) return null;
  let end = n + header;
  while (end < raw.length && !raw[end]?.isAfterBlank) end += 1;
  const rows = Math.floor((end - n) / header);
  if (rows < 2) return null;
  const lines = Array.from({ length: rows }, (_, row) =>
    raw
      .slice(n + row * header, n + (row + 1) * header)
      .map(({ text, start }, column) => ({ text, start, column })),
  );
  return tableOf(lines, n, n + rows * header);
}
