import { plainSigns } from '../../base/index.js';
import { findDivisions, NO_DIVISION } from '../find-divisions.js';
import { instrumentNames, isInstrumentHeading } from '../heading.js';
import { kindOf } from '../labels.js';
import type { Division, PartKind } from '../model.js';
import { WHOLE_SCOPE, type PartScope } from '../scope.js';
import type { Piece } from '../text/piece.js';
import { calm } from './headings.js';
import { normalYear } from './keyed-head.js';
import { listLabel } from './sentence-reader.js';
import type { ColumnRole, LineRole } from '../told/corrections.js';
import type { Place } from './place.js';
import type { Role } from './role-words.js';
import { rolesOf, type Column, type TableRoles } from './table-roles.js';
import type { Row } from './tables.js';

/** A part as a table has it. */
export interface TablePart {
  readonly label: string;
  readonly kind: PartKind | null;
  readonly scope: PartScope;
  /** The list that its rows stand under within the table; null where the table lies in one. */
  readonly list: string | null;
  /** Where its row begins. Units: characters of the sheet's text */
  readonly at: number;
  readonly cells: { readonly piece: Piece; readonly role: Role }[];
}

/** The parts of a table, and whom it names. */
export interface TableParts {
  readonly roles: TableRoles;
  readonly parts: readonly TablePart[];
  readonly instruments: readonly string[];
  readonly divisions: readonly Division[];
  /** Rows that name nothing. */
  readonly loose: readonly Piece[];
}

interface Surroundings {
  readonly place: Place;
  /** The whole text: it says which turn of a rotation is in force. */
  readonly text: string;
  /** What a person said of its columns, and rows that name what stands below them. */
  readonly columns: ReadonlyMap<number, ColumnRole>;
  readonly names: ReadonlyMap<Row, LineRole>;
}

/** Reads a table: a part a row, or a part for every row and instrument. */
export function partsOfTable(rows: readonly Row[], around: Surroundings): TableParts {
  const roles = rolesOf(rows, around.columns);
  const reader = new TableReader(roles, around);
  for (const row of roles.body) reader.add(row);
  return {
    roles: { ...roles, columns: reader.columns },
    parts: reader.parts.filter(({ cells }) => cells.length > 0),
    instruments: reader.instruments,
    divisions: reader.divisions,
    loose: reader.loose,
  };
}

/** Cells that begin a part of their own. */
const OPENS_ROW: ReadonlySet<string> = new Set(['label', 'number', 'title', 'key']);

class TableReader {
  readonly parts: TablePart[] = [];
  readonly instruments: string[] = [];
  readonly divisions: Division[] = [];
  /** Rows of one cell that name nothing. */
  readonly loose: Piece[] = [];
  private scope: PartScope;
  private kind: PartKind | null = null;
  private list: string | null;
  private open = new Map<number, TablePart>();
  private last: Row | null = null;
  private readonly inForce: ReadonlySet<number> | null;

  constructor(
    private readonly roles: TableRoles,
    private readonly around: Surroundings,
  ) {
    this.scope = around.place.scope;
    this.list = around.place.section?.list ?? null;
    this.inForce = withTold(columnsInForce(roles, around.text), around.columns);
    for (const { role, name } of roles.columns)
      if (role === 'cells' && name && isInstrumentHeading(name.plain))
        this.instruments.push(...instrumentNames(name.text));
  }

  /** What the columns hold; a turn that is not in force holds nothing. */
  get columns(): readonly Column[] {
    return this.roles.columns.map((column, n) =>
      column.role === 'cells' && this.inForce && !this.inForce.has(n)
        ? { ...column, role: 'nothing' }
        : column,
    );
  }

  add(row: Row): void {
    const cells = row.flatMap((cell, n) => (cell ? [{ cell, n }] : []));
    const [first] = cells;
    if (!first) return;
    const said = this.around.names.get(row);
    if (said) return this.openSaid(first.cell, said);
    if (this.isHeadAgain(row)) return;
    if (cells.length === 1 && first.n === 0 && this.roles.columns.length > 2)
      return this.openName(first.cell);
    const merged = this.merged(row);
    if (row[0] === null && merged === null && this.open.size > 0) return this.goOn(row);
    this.open = new Map();
    this.last = merged ?? row;
    if (this.roles.columns.some(({ role }) => role === 'cells')) this.addMatrix(row);
    else this.addRow(this.last);
  }

  /** A row under a cell that spans several rows, with that cell. Shape: null where the row only goes on */
  private merged(row: Row): Row | null {
    const first = row.findIndex((cell) => cell !== null);
    const isOwn =
      first > 0 &&
      row.some((cell, n) => cell !== null && OPENS_ROW.has(this.roles.columns[n]?.role ?? 'text'));
    return isOwn && this.last !== null
      ? row.map((cell, n) => cell ?? (n < first ? (this.last?.[n] ?? null) : null))
      : null;
  }

  /** A page that goes on, or another instrument: the names of the columns once more. */
  private isHeadAgain(row: Row): boolean {
    const own = row.filter((cell) => cell !== null);
    return (
      own.length >= 2 &&
      row.every((cell, n) => cell === null || cell.plain === this.roles.columns[n]?.name?.plain) &&
      this.roles.names.length === 0
    );
  }

  /** A row of one cell names what the rows below it belong to. */
  private openName(name: Piece): void {
    const plain = name.plain.replace(/[:.]$/u, '');
    if (isInstrumentHeading(plain)) {
      const names = instrumentNames(name.text);
      this.instruments.push(...names);
      this.scope = { ...WHOLE_SCOPE, divisions: this.scope.divisions, instruments: names };
    } else if (/^(?:list|group)\s+(?:[A-F]|\d)$/iu.test(plain)) this.list = calm(plain);
    else if (kindOf(plain) === null) this.loose.push(name);
    else this.kind = kindOf(plain);
    this.open = new Map();
  }

  /** A row that a person said names an instrument, a division or a list. */
  private openSaid(name: Piece, said: LineRole): void {
    const printed = name.text.replace(/[:.]$/u, '');
    if (said === 'list') this.list = calm(printed);
    else if (said === 'division') this.scope = this.scopeOf(null, name);
    else {
      const names = instrumentNames(printed);
      const own = names.length > 0 ? names : [calm(printed)];
      this.instruments.push(...own);
      this.scope = { ...WHOLE_SCOPE, divisions: this.scope.divisions, instruments: own };
    }
    this.open = new Map();
  }

  private goOn(row: Row): void {
    row.forEach((cell, n) => {
      const part = this.open.get(n) ?? (this.open.size === 1 ? [...this.open.values()][0] : undefined);
      const isMatrix = this.roles.columns.some(({ role }) => role === 'cells');
      if (cell && part && (!isMatrix || this.open.has(n)))
        part.cells.push({ piece: cell, role: this.roleAt(n) });
    });
  }

  private roleAt(n: number): Role {
    const role = this.roles.columns[n]?.role ?? 'text';
    return role === 'cells' ? 'text' : role;
  }

  private addMatrix(row: Row): void {
    const [label] = row;
    // Columns of fields beside those of instruments or turns hold for each of them.
    const beside = row.flatMap((cell, n) => {
      const role = this.roles.columns[n]?.role ?? 'text';
      return cell && n > 0 && role !== 'cells' && role !== 'label' && role !== 'instrument'
        ? [{ piece: cell, role }]
        : [];
    });
    row.forEach((cell, n) => {
      const column = this.roles.columns[n];
      if (!cell || column?.role !== 'cells' || (this.inForce && !this.inForce.has(n))) return;
      if (/^(?:-+|n\/?a|none)$/iu.test(cell.plain)) return;
      const names = column.name && !this.inForce ? instrumentNames(column.name.text) : [];
      const player = this.roles.columns[0]?.role === 'instrument' ? row[0] : null;
      const scope = player
        ? this.scopeOf(player, null)
        : names.length > 0
          ? { ...this.scope, instruments: names }
          : this.scope;
      this.openPart(n, {
        label: (player ? column.name : label) ?? cell,
        scope,
        cells: [{ piece: cell, role: 'text' }, ...beside],
      });
    });
  }

  private addRow(row: Row): void {
    const at = (role: Role): Piece | null =>
      row[this.roles.columns.findIndex((column) => column.role === role)] ?? null;
    const scope = this.scopeOf(at('instrument'), at('division'));
    const label = at('label') ?? at('title') ?? at('key') ?? at('instrument');
    const cells = row.flatMap((cell, n) => {
      const role = this.roleAt(n);
      return cell && role !== 'instrument' && role !== 'division' ? [{ piece: cell, role }] : [];
    });
    const first = row.find((cell) => cell !== null);
    if (first) this.openPart(0, { label: label ?? first, scope, cells });
  }

  private openPart(
    column: number,
    {
      label,
      scope,
      cells,
    }: { readonly label: Piece; readonly scope: PartScope; readonly cells: TablePart['cells'] },
  ): void {
    const { list } = this;
    const code = label.plain.replace(/[().†*‡\s]/gu, '');
    const isCode = /^(?:\d{1,2}|[a-h])$/iu.test(code) && cells.every(({ role }) => role !== 'key');
    const head = this.roles.columns.find(({ role }) => role === 'label')?.name?.text ?? null;
    const word = head !== null && kindOf(head) !== null ? calm(head.replace(/s$/iu, '')) : 'Item';
    const said = this.kindOfCells(cells);
    const kind =
      kindOf(label.plain) ??
      (said === 'improvisation' || said === 'rudiments'
        ? said
        : isCode && head !== null
          ? (kindOf(head) ?? said)
          : said);
    const name = isCode
      ? list
        ? listLabel(list, code)
        : `${word} ${code}`
      : calm(label.text.replace(/[:.]$/u, ''));
    const part = {
      at: label.at[0] ?? cells[0]?.piece.at[0] ?? 0,
      label: isInstrumentHeading(name) ? (this.around.place.section?.label ?? 'Etude') : name,
      kind,
      scope,
      cells,
      list,
    };
    this.open.set(column, part);
    this.parts.push(part);
  }

  private kindOfCells(cells: TablePart['cells']): PartKind | null {
    const section = this.around.place.section?.kind ?? this.kind;
    const said = cells.map(({ piece, role }) =>
      role === 'words' || role === 'label' || role === 'title' || role === 'text'
        ? kindOf(piece.plain)
        : null,
    );
    if (section === null || section === 'other') {
      const isKey = cells.some(({ role }) => role === 'key' || role === 'octaves');
      const style = said.find((kind) => kind === 'improvisation' || kind === 'rudiments');
      return isKey ? 'scale' : (style ?? said.find((kind) => kind !== null) ?? 'etude');
    }
    return section === 'solo' && said.includes('etude') ? 'etude' : section;
  }

  private scopeOf(instrument: Piece | null, division: Piece | null): PartScope {
    let { scope } = this;
    if (instrument && !/^(?:all|any|both)\b/iu.test(instrument.plain)) {
      const names = instrumentNames(instrument.text);
      const own = names.length > 0 ? names : [instrument.text];
      this.instruments.push(...own);
      scope = { ...scope, instruments: own };
    }
    if (division && !/^(?:all|any|both)\b/iu.test(division.plain)) {
      const [found] = findDivisions(division.plain, division.text);
      const name = division.text.replace(/\s*[(,].*$/u, '').trim();
      this.divisions.push({ ...NO_DIVISION, ...found?.value, name, text: division.text });
      scope = { ...scope, divisions: [name] };
    }
    return scope;
  }
}

/** A column that is told to hold what is played is in force, one that is told otherwise is not. */
function withTold(
  inForce: ReadonlySet<number> | null,
  columns: Surroundings['columns'],
): ReadonlySet<number> | null {
  const told = [...columns].flatMap(([n, role]) => (role === 'cells' ? [n] : []));
  return inForce === null ? null : new Set(told.length > 0 ? told : inForce);
}

/** Which columns of a rotation are in force. Shape: null where the columns are no rotation */
function columnsInForce({ columns, names: rows }: TableRoles, text: string): ReadonlySet<number> | null {
  const names = rows.length > 0 ? rows : [columns.map(({ role, name }) => (role === 'cells' ? name : null))];
  const isRotation = (plain: string): boolean => /^(?:set|year|cycle|list)\s+\S+$|^20\d\d/iu.test(plain);
  if (!names.some((row) => row.some((cell) => cell && isRotation(cell.plain)))) return null;
  const all = plainSigns(text).replace(/\s+/gu, ' ');
  const said =
    /(?:list\s+for|in\s+force\s+for|applies\s+(?:to|in)|current(?:ly)?)\s+(?:the\s+)?(20\d\d[^ ]*)/iu.exec(
      all,
    )?.[1] ?? null;
  const set =
    /\b(set|cycle|list|year)\s+(\d|[A-D])\b(?:\s+of\s+\d)?\s*(?:is|are|,)?\s*(?:the\s+one\s+)?(?:in\s+force|applies|is\s+used|current)/iu.exec(
      all,
    );
  const wanted = set ? `${set[1]} ${set[2]}`.toLowerCase() : null;
  const year = normalYear(said ?? all.slice(0, 300).replace(/[A-Z][a-z]+ \d{1,2}, 20\d\d/gu, ' '));
  const matches = (n: number): boolean =>
    names.some((row) => {
      const cell = row[n];
      if (!cell) return false;
      return wanted !== null
        ? cell.plain.toLowerCase() === wanted
        : year !== null && normalYear(cell.plain) === year;
    });
  const found = columns.flatMap((_: Column, n) => (matches(n) ? [n] : []));
  return new Set(found.length > 0 ? found.slice(0, 1) : []);
}
