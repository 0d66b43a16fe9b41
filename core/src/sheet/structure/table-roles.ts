import { scanTempos } from '../../music/index.js';
import { findSpans } from '../find-spans.js';
import { isInstrumentHeading } from '../heading.js';
import { kindOf } from '../labels.js';
import { isPersonName } from '../work-line.js';
import type { Piece } from '../text/piece.js';
import type { ColumnRole } from '../told/corrections.js';
import { roleOfWord, type Role } from './role-words.js';
import type { Row } from './tables.js';

/** What a column stands for where it is no field: one instrument, or one turn of a rotation. */
export interface Column {
  readonly role: Role | 'cells';
  readonly name: Piece | null;
}

/** A table with what its columns hold. Shape: `body` without the rows that name the columns */
export interface TableRoles {
  readonly columns: readonly Column[];
  readonly body: readonly Row[];
  /** Rows of headings over the columns, for those that name turns of a rotation. */
  readonly names: readonly Row[];
}

const ROTATION = /^(?:set|year|cycle|list)\s+(?:\d|[A-D])$|^20\d\d(?:\s*[-/]\s*(?:20)?\d\d)?$/iu;

/** Turns a table that has its parts in columns and its fields in rows. */
function upright(rows: readonly Row[]): readonly Row[] {
  const roles = rows.flatMap((row) => (row[0] ? (roleOfWord(row[0].plain) ?? []) : []));
  // "Etude" again and again names parts, and no field of them.
  const fields = new Set(roles).size < 2 ? 0 : roles.length;
  const [top] = rows;
  const isTurned =
    fields >= 2 &&
    fields * 2 >= rows.length &&
    top !== undefined &&
    top.slice(1).every((cell) => !cell || roleOfWord(cell.plain) !== 'page');
  const isNamed = (top ?? []).filter((cell) => cell && roleOfWord(cell.plain) !== null).length >= 2;
  if (!isTurned || isNamed || !top) return rows;
  return top.map((_, column) => rows.map((row) => row[column] ?? null));
}

/**
 * What the columns of a table hold, by their headings and by what stands in them; what a person said outweighs both.
 * Shape:  `told` counts columns from 0
 */
export function rolesOf(table: readonly Row[], told: ReadonlyMap<number, ColumnRole> = NONE): TableRoles {
  const read = rolesRead(table);
  if (told.size === 0) return read;
  const columns = read.columns.map((column, n) => ({ ...column, role: told.get(n) ?? column.role }));
  return { ...read, columns };
}

const NONE: ReadonlyMap<number, ColumnRole> = new Map();

function rolesRead(table: readonly Row[]): TableRoles {
  const rows = upright(table);
  const [top] = rows;
  if (!top) return { columns: [], body: [], names: [] };
  const kinds = kindMatrix(rows);
  if (kinds) return kinds;
  const named = top.map((cell) => (cell ? roleOfWord(cell.plain) : null));
  if (named.filter((role) => role !== null).length >= Math.max(2, filled(top) / 2))
    return {
      columns: withLabel(
        named.map((role, n) => {
          const isTurn = role === null && ROTATION.test(top[n]?.plain ?? '');
          return { role: role ?? (isTurn ? 'cells' : contentRole(rows.slice(1), n)), name: top[n] ?? null };
        }),
      ),
      body: rows.slice(1),
      names: [],
    };
  const heads = rows.findIndex((row) => !isMatrixHead(row));
  if (heads > 0)
    return {
      columns: top.map((_, n) => ({
        role: n === 0 && isLabelColumn(rows.slice(heads)) ? ('label' as const) : ('cells' as const),
        name: top[n] ?? null,
      })),
      body: rows.slice(heads),
      names: rows.slice(0, heads),
    };
  return {
    columns: withLabel(top.map((_, n) => ({ role: contentRole(rows, n), name: null }))),
    body: rows,
    names: [],
  };
}

/** Instruments down the side, kinds of part along the top: a part a cell. Shape: null where it is none */
function kindMatrix(rows: readonly Row[]): TableRoles | null {
  const [top, ...body] = rows;
  if (!top || body.length === 0) return null;
  const kinds = top.map(
    (cell, n) =>
      n > 0 &&
      cell !== null &&
      kindOf(cell.plain) !== null &&
      !/\b(?:no\.?|number|page|tempo)\b/iu.test(cell.plain),
  );
  const players = body.filter((row) => row[0] != null && isInstrumentHeading(row[0].plain));
  if (kinds.filter(Boolean).length < 2 || players.length * 2 <= body.length) return null;
  return {
    columns: top.map((name, n) => ({
      role: n === 0 ? 'instrument' : kinds[n] === true ? 'cells' : contentRole(body, n),
      name,
    })),
    body,
    names: [],
  };
}

/** The first column that holds names of parts is the label; a second one of the kind is the title. */
function withLabel(columns: readonly Column[]): Column[] {
  const label = columns.findIndex(({ role }) => role === 'label');
  const composer = columns.findIndex(({ role }) => role === 'composer');
  return columns.map((column, n) =>
    (column.role === 'label' && n !== label) || (column.role === 'composer' && n !== composer)
      ? { ...column, role: 'text' as const }
      : column,
  );
}

function filled(row: Row): number {
  return row.filter((cell) => cell !== null).length;
}

function isMatrixHead(row: Row): boolean {
  const own = row.slice(row[0] === null ? 1 : 0).filter((cell) => cell !== null);
  const [first, ...rest] = row;
  const cells = first === null ? own : rest.filter((cell) => cell !== null);
  return (
    cells.length >= 2 && cells.every((cell) => ROTATION.test(cell.plain) || isInstrumentHeading(cell.plain))
  );
}

function isLabelColumn(rows: readonly Row[]): boolean {
  return rows.some((row) => row[0] != null);
}

const CONTENT: readonly (readonly [Role, (plain: string) => boolean])[] = [
  ['instrument', (plain) => isInstrumentHeading(plain)],
  ['tempo', (plain) => covers(scanTempos(plain), plain)],
  [
    'measures',
    (plain) => /^(?:all|complete|entire)$/iu.test(plain) || covers(findSpans(plain, plain), plain),
  ],
  ['page', (plain) => /^pp?\.?\s*\d+$/iu.test(plain)],
  ['number', (plain) => /^(?:no\.?|#)\s*\d+[a-z]?$/iu.test(plain)],
  ['key', (plain) => /^[A-G](?:[b#]|[- ](?:flat|sharp))?(?:\s+(?:major|minor))?$/iu.test(plain)],
  ['composer', (plain) => isPersonName(plain)],
  ['points', (plain) => /^\d{1,3}\s*(?:points|pts|marks)$/iu.test(plain)],
];

function covers(found: readonly { readonly start: number; readonly end: number }[], plain: string): boolean {
  return found.reduce((sum, { start, end }) => sum + end - start, 0) >= plain.length * 0.8;
}

/** What most cells of a column are. */
function contentRole(rows: readonly Row[], column: number): Role {
  const cells = rows.flatMap((row) =>
    row[column] && filled(row) > 1 ? [row[column].plain.replace(/[*†‡]+$/u, '')] : [],
  );
  if (
    column === 0 &&
    cells.length > 0 &&
    cells.every((plain) => /^\(?\d{1,2}[.)]?$|^[A-Z]\d{0,2}$/u.test(plain))
  )
    return 'label';
  const found = CONTENT.find(
    ([, test]) => cells.length > 0 && cells.filter((plain) => test(plain)).length >= cells.length * 0.6,
  );
  if (found) return found[0];
  return column === 0 ? 'label' : 'text';
}
