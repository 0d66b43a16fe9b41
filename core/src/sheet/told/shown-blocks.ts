import type { Claims } from '../claims/claims.js';
import type { HeadRole, Outline, OutlineTable } from '../structure/place.js';
import { placeIn, type Piece } from '../text/piece.js';
import type { ColumnRole, LineAnchor, LineIndex } from './corrections.js';

/** What a line is taken for. Shape: `more` says something of the part above; `unread` became nothing */
export type ShownRole = HeadRole | 'choice' | 'note' | 'unread';

/** A stretch of the text. Units: characters; `start` to before `end` */
export interface Stretch {
  readonly start: number;
  readonly end: number;
}

/** A line of sense as it was read. */
export interface ShownLine extends Stretch {
  readonly kind: 'line';
  readonly at: LineAnchor;
  readonly role: ShownRole;
  /** Whether a person said so. */
  readonly isTold: boolean;
}

/** A table as it was read. Shape: rows as wide as `columns`; a cell is null where nothing is printed */
export interface ShownTable extends Stretch {
  readonly kind: 'table';
  readonly at: LineAnchor;
  readonly columns: readonly {
    readonly role: ColumnRole;
    readonly name: Stretch | null;
    readonly isTold: boolean;
  }[];
  /** Rows that name columns of instruments or of turns. */
  readonly heads: readonly ShownRow[];
  readonly rows: readonly ShownRow[];
}

/** A row of a table. */
export interface ShownRow {
  readonly at: LineAnchor;
  readonly cells: readonly (Stretch | null)[];
}

/** A line or a table. */
export type ShownBlock = ShownLine | ShownTable;

/** The blocks of a text as they were read, in order. Shape: what is no block was page furniture */
export function shownBlocks(
  { lines, tables, seeds }: Outline,
  claims: Claims,
  { index, unread }: { readonly index: LineIndex; readonly unread: readonly Stretch[] },
): ShownBlock[] {
  const roles = new Places([
    ...claims.used.flatMap(({ piece, about }) => placed(piece, roleOfUse(about))),
    ...claims.scopes.flatMap(({ piece }) => placed(piece, 'rule')),
    ...unread.map(({ start }) => ({ place: start, role: 'unread' as const })),
    ...seeds.flatMap(({ evidence }) => evidence.flatMap(({ piece }) => placed(piece, 'more'))),
  ]);
  const shown = lines.flatMap(({ line, role, isTold }): ShownBlock[] => {
    if (line.text === '') return [];
    const stretch = placeIn(line, 0, line.text.length);
    const at = index.anchorAt(stretch.start);
    return at
      ? [{ kind: 'line', ...stretch, at, role: role ?? roles.within(stretch) ?? 'nothing', isTold }]
      : [];
  });
  return [...shown, ...tables.flatMap((table) => shownTable(table, index))].sort((a, b) => a.start - b.start);
}

function placed(piece: Piece, role: ShownRole): { readonly place: number; readonly role: ShownRole }[] {
  const [place] = piece.at;
  return place === undefined ? [] : [{ place, role }];
}

function roleOfUse(about: string): ShownRole {
  if (about.startsWith('deadlines')) return 'dates';
  if (about.startsWith('notes')) return 'note';
  if (about.startsWith('choices')) return 'choice';
  return about === 'points' ? 'scoring' : 'rule';
}

/** What weighs more where a line became several things. */
const WEIGHT: readonly ShownRole[] = ['dates', 'scoring', 'rule', 'more', 'choice', 'note', 'unread'];

class Places {
  private readonly all: readonly { readonly place: number; readonly role: ShownRole }[];

  constructor(all: readonly { readonly place: number; readonly role: ShownRole }[]) {
    this.all = [...all].sort((a, b) => a.place - b.place);
  }

  /** The weightiest thing that begins in a stretch; null where none does. */
  within({ start, end }: Stretch): ShownRole | null {
    let [low, high] = [0, this.all.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((this.all[middle]?.place ?? Infinity) < start) low = middle + 1;
      else high = middle;
    }
    let best: ShownRole | null = null;
    for (let n = low; n < this.all.length && (this.all[n]?.place ?? Infinity) < end; n += 1) {
      const role = this.all[n]?.role ?? null;
      if (role && (best === null || WEIGHT.indexOf(role) < WEIGHT.indexOf(best))) best = role;
    }
    return best;
  }
}

function shownTable({ roles, start, end, told }: OutlineTable, index: LineIndex): ShownBlock[] {
  const at = index.anchorAt(start) ?? index.anchorAt(end);
  if (!at) return [];
  const stretch = (cell: Piece | null): Stretch | null =>
    cell && cell.text !== '' ? placeIn(cell, 0, cell.text.length) : null;
  const row = (cells: readonly (Piece | null)[]): ShownRow => {
    const own = cells.map(stretch);
    return { at: index.anchorAt(own.find((cell) => cell !== null)?.start ?? start) ?? at, cells: own };
  };
  return [
    {
      kind: 'table',
      start,
      end,
      at,
      columns: roles.columns.map(({ role, name }, n) => ({
        role,
        name: roles.names.length > 0 ? null : stretch(name),
        isTold: told.has(n),
      })),
      heads: roles.names.map(row),
      rows: roles.body.map(row),
    },
  ];
}
