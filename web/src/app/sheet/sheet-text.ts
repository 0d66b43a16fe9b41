import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  ElementRef,
  inject,
  input,
  linkedSignal,
  model,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { MenuItem } from 'primeng/api';
import { Menu } from 'primeng/menu';
import { debounceTime, fromEvent } from 'rxjs';
import type {
  Correction,
  LineAnchor,
  SheetReading,
  ShownLine,
  ShownRole,
  Stretch,
} from '@vivid-cue/core/sheet';
import type { NamedPart } from './part-groups';
import { COLUMN_CHOICES, LINE_CHOICES, roleText } from './role-texts';
import { piecesIn, textPieces, textRows, type TextPiece, type TextRow } from './text-pieces';
import { TextPiecesView } from './text-pieces-view';
import { stretchSelected, stepWord } from './text-selection';
import { TextTable, type ColumnAsked, type RowAsked } from './text-table';
import { WordGiver, type GivenWords } from './word-giver';

type DrawnRow = TextRow & { readonly pieces: readonly TextPiece[] };

/** Rows that are drawn at first; the others when they are asked for. */
const FIRST_ROWS = 400;

/** Lines that head what stands below them. */
const HEADS: ReadonlySet<ShownRole> = new Set([
  'instrument',
  'division',
  'list',
  'option',
  'section',
  'heading',
]);

/** A heading that goes on is more than one. Units: characters */
const LONGEST_HEAD = 48;

/** Time for a selection to come to rest. Units: milliseconds */
const SELECTION_MS = 150;

/**
 * The published text as it was read: what was recognised stands in ink, beside each line stands what it was taken for,
 * and both can be put right. Pointing at words lights what they became; marked words can be given to a field.
 */
@Component({
  selector: 'vc-sheet-text',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Menu, TextPiecesView, TextTable, WordGiver],
  templateUrl: './sheet-text.html',
  styleUrls: ['./text-ink.css', './sheet-text.css'],
})
export class SheetText {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly menu = viewChild.required(Menu);
  private stepped = -1;

  /** What was read. */
  readonly reading = input.required<SheetReading>();
  /** The parts that words can be given to. */
  readonly parts = input<readonly NamedPart[]>([]);
  /** What is lit on both sides. */
  readonly lit = model('');
  /** A person says what a line or a column is. */
  readonly said = output<Correction>();
  /** A person takes back what was said of a line or a column. */
  readonly takenBack = output<Correction>();
  /** Words are given to a field of a part. */
  readonly gave = output<GivenWords & Stretch>();
  /** Words were chosen: what they became is asked for. */
  readonly chosen = output<string>();

  protected readonly pieces = computed(() => textPieces(this.reading(), this.allRows()));
  private readonly isWhole = signal(false);
  private readonly allRows = computed(() => textRows(this.reading()));
  /** Rows with their words; the words of a row that reads as before stay, so that it is not drawn again. */
  protected readonly rows = linkedSignal<DrawnRow[], DrawnRow[]>({
    source: () => this.rowsNow(),
    computation: (rows, before) => {
      const known = new Map(before?.value.map((row) => [row.start, row.pieces]));
      return rows.map((row) => {
        const own = known.get(row.start);
        return own && JSON.stringify(own) === JSON.stringify(row.pieces) ? { ...row, pieces: own } : row;
      });
    },
  });
  private rowsNow(): DrawnRow[] {
    const [pieces, rows] = [this.pieces(), this.allRows()];
    return (this.isWhole() ? rows : rows.slice(0, FIRST_ROWS)).map((row) => ({
      ...row,
      pieces: row.block?.kind === 'table' ? [] : piecesIn(pieces, row),
    }));
  }
  protected readonly hidden = computed(() => this.allRows().length - this.rows().length);
  protected readonly items = signal<MenuItem[]>([]);
  protected readonly marked = signal<Stretch | null>(null);
  protected readonly markedText = computed(() => {
    const at = this.marked();
    return at ? this.reading().text.slice(at.start, at.end) : '';
  });
  /** The part that stands nearest before the marked words. */
  protected readonly nearest = computed(() => {
    const place = this.marked()?.start ?? 0;
    const keys = this.pieces().filter(({ start, key }) => start <= place && (key?.includes('/') ?? false));
    const id = keys.at(-1)?.key?.replace(/\/.*$/u, '');
    return this.parts().find((part) => part.id === id)?.id ?? this.parts()[0]?.id ?? '';
  });
  protected readonly roleText = roleText;

  /** What a line was told to be: it is shown at once, and the text is read again meanwhile. */
  private readonly justTold = linkedSignal<SheetReading, Extract<Correction, { kind: 'line' }> | null>({
    source: this.reading,
    computation: () => null,
  });

  protected roleOf({ at, role }: ShownLine): ShownRole {
    const told = this.justTold();
    return told && told.at.line === at.line && told.at.nth === at.nth ? told.role : role;
  }

  protected isHead(line: ShownLine): boolean {
    const { start, end } = line;
    return HEADS.has(this.roleOf(line)) && end - start <= LONGEST_HEAD;
  }

  constructor() {
    const destroyRef = inject(DestroyRef);
    fromEvent<MouseEvent>(this.host.nativeElement, 'click')
      .pipe(takeUntilDestroyed(destroyRef))
      .subscribe(({ target }) => {
        const key = (target as HTMLElement).closest<HTMLElement>('[data-key]')?.dataset['key'];
        if (key !== undefined && (getSelection()?.isCollapsed ?? true)) this.chosen.emit(key);
      });
    fromEvent(document, 'selectionchange')
      .pipe(debounceTime(SELECTION_MS), takeUntilDestroyed(destroyRef))
      .subscribe(() => {
        const text = this.host.nativeElement.querySelector<HTMLElement>('.text');
        const stretch = text && stretchSelected(text);
        if (stretch) this.marked.set(stretch);
      });
  }

  /** Leads to the next phrase that became nothing, the first after the last. */
  step(): void {
    this.isWhole.set(true);
    const unread = [...this.host.nativeElement.querySelectorAll<HTMLElement>('.text .unread')];
    this.stepped = (this.stepped + 1) % Math.max(1, unread.length);
    unread[this.stepped]?.focus();
  }

  protected showAll(): void {
    this.isWhole.set(true);
  }

  /** Words are marked with the arrow keys while the text itself has the focus; between roles the arrows step. */
  protected key(event: KeyboardEvent): void {
    const text = event.currentTarget as HTMLElement;
    if (event.key === 'Enter' && event.target === text) this.leadToGiver();
    const way = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (way === undefined) return;
    const target = event.target as HTMLElement;
    if (target.matches('.margin .role') && /Up|Down/u.test(event.key)) {
      const roles = [...text.querySelectorAll<HTMLElement>('.margin .role')];
      roles[roles.indexOf(target) + way]?.focus();
      event.preventDefault();
    } else if (target === text && /Left|Right/u.test(event.key)) {
      stepWord(text, this.reading().text, { way, isExtending: event.shiftKey });
      event.preventDefault();
    }
  }

  private leadToGiver(): void {
    this.host.nativeElement.querySelector<HTMLElement>('vc-word-giver [role=combobox]')?.focus();
  }

  protected askLine(
    event: Event,
    { at, role, isTold }: Pick<ShownLine, 'at' | 'isTold'> & { role: string },
  ): void {
    this.items.set(
      this.choices(LINE_CHOICES, { role, isTold, make: (own) => ({ kind: 'line', at, role: own }) }),
    );
    this.menu().toggle(event);
  }

  protected askRow({ event, row }: RowAsked): void {
    this.askLine(event, { at: row.at, role: '', isTold: false });
  }

  protected askColumn({ event, table, column }: ColumnAsked): void {
    const { role = 'text', isTold = false } = table.columns[column] ?? {};
    const at: LineAnchor = table.at;
    this.items.set(
      this.choices(COLUMN_CHOICES, {
        role,
        isTold,
        make: (own) => ({ kind: 'column', at, column, role: own }),
      }),
    );
    this.menu().toggle(event);
  }

  private choices<Role extends string>(
    all: readonly { readonly role: Role; readonly label: string }[],
    {
      role,
      isTold,
      make,
    }: { readonly role: string; readonly isTold: boolean; readonly make: (role: Role) => Correction },
  ): MenuItem[] {
    const items: MenuItem[] = all.map((choice) => ({
      label: choice.label,
      icon: choice.role === role ? 'pi pi-check' : 'pi',
      command: () => this.tell(make(choice.role)),
    }));
    const [first] = all;
    const back: MenuItem[] =
      isTold && first
        ? [
            {
              label: 'As it reads by itself',
              icon: 'pi pi-undo',
              command: () => this.takenBack.emit(make(first.role)),
            },
          ]
        : [];
    return [...back, ...items];
  }

  private tell(correction: Correction): void {
    if (correction.kind === 'line') this.justTold.set(correction);
    this.said.emit(correction);
  }

  protected give(words: GivenWords): void {
    const at = this.marked();
    if (at) this.gave.emit({ ...words, ...at });
    this.unmark();
  }

  protected unmark(): void {
    this.marked.set(null);
    getSelection()?.removeAllRanges();
  }
}
