import { ChangeDetectionStrategy, Component, computed, input, model, output, signal } from '@angular/core';
import type { ShownRow, ShownTable, Stretch } from '@vivid-cue/core/sheet';
import { columnText } from './role-texts';
import { piecesIn, type TextPiece } from './text-pieces';
import { TextPiecesView } from './text-pieces-view';

/** Rows that are drawn at first; the others when they are asked for. */
const FIRST_ROWS = 60;

/** Cells that are longer run over several lines. Units: characters */
const LONG_CELL = 36;

/** A column that is to be told what it holds. */
export interface ColumnAsked {
  readonly event: Event;
  readonly table: ShownTable;
  readonly column: number;
}

/** A row that is to be told what it is. */
export interface RowAsked {
  readonly event: Event;
  readonly row: ShownRow;
}

/** A table of the published text as a table, with what its columns hold at their heads. */
@Component({
  selector: 'vc-text-table',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [TextPiecesView],
  templateUrl: './text-table.html',
  styleUrls: ['./text-ink.css', './text-table.css'],
})
export class TextTable {
  /** The table. */
  readonly table = input.required<ShownTable>();
  /** The words of the whole text. */
  readonly pieces = input.required<readonly TextPiece[]>();
  /** What is lit on both sides. */
  readonly lit = model('');
  /** A column is to be told what it holds. */
  readonly columnAsked = output<ColumnAsked>();
  /** A row is to be told what it is. */
  readonly rowAsked = output<RowAsked>();

  private readonly isWhole = signal(false);
  protected readonly rows = computed(() => {
    const { heads, rows } = this.table();
    const all = [
      ...heads.map((row) => ({ row, isHead: true })),
      ...rows.map((row) => ({ row, isHead: false })),
    ];
    return this.isWhole() ? all : all.slice(0, FIRST_ROWS);
  });
  protected readonly hidden = computed(() => {
    const { heads, rows } = this.table();
    return heads.length + rows.length - this.rows().length;
  });
  /** Cells of the drawn rows, as their words. */
  protected readonly cells = computed(() => {
    const pieces = this.pieces();
    return this.rows().map(({ row }) => row.cells.map((cell) => (cell ? piecesIn(pieces, cell) : [])));
  });
  protected readonly names = computed(() =>
    this.table().columns.map(({ name }) => (name ? piecesIn(this.pieces(), name) : [])),
  );

  protected readonly columnText = columnText;

  protected isLong(cell: Stretch | null | undefined): boolean {
    return cell != null && cell.end - cell.start > LONG_CELL;
  }

  protected showAll(): void {
    this.isWhole.set(true);
  }
}
