import type { SheetMark, SheetReading, ShownBlock, Stretch } from '@vivid-cue/core/sheet';

/** A stretch of the published text as it is drawn. Shape: `key` null where nothing was recognised; else see litKey */
export interface TextPiece extends Stretch {
  readonly text: string;
  readonly key: string | null;
  readonly isUnread: boolean;
}

/** What of a reading the text is drawn from. */
export type ReadText = Pick<SheetReading, 'text' | 'marks' | 'unread' | 'blocks'> & {
  readonly sheet: { readonly parts: readonly { readonly id: string }[] };
};

/**
 * What is lit on both sides of the desk: "<part>/tempo" for a field of a part, "deadlines[0]" for a date.
 * Shape:  a part is named by its identifier
 */
export function litKey(about: string, parts: readonly { readonly id: string }[]): string {
  const match = /^parts\[(\d+)\](.*)$/u.exec(about);
  return match ? `${parts[Number(match[1])]?.id ?? ''}${match[2] ?? ''}` : about;
}

/** Whether something is lit: it itself, or the whole that it is of. */
export function isLit(key: string, lit: string): boolean {
  return lit !== '' && (key === lit || key.startsWith(`${lit}/`));
}

/**
 * The published text cut where what was recognised changes; of marks that lie in each other the innermost counts.
 * Shape:  together the pieces are the whole text, and none reaches over the edge of a line or a cell
 * Units:  characters
 */
export function textPieces(
  { text, marks, unread, blocks, sheet }: ReadText,
  rows: readonly TextRow[],
): TextPiece[] {
  const cuts = new Set([0, text.length]);
  for (const { start, end } of [...marks, ...unread, ...rows, ...blocks.flatMap((block) => cellsOf(block))]) {
    cuts.add(start);
    cuts.add(end);
  }
  const places = [...cuts].filter((place) => place <= text.length).sort((a, b) => a - b);
  const byStart = [...marks].sort((a, b) => a.start - b.start);
  const isUnread = within(unread);
  let open: SheetMark[] = [];
  let next = 0;
  return places.slice(0, -1).map((start, n) => {
    const end = places[n + 1] ?? text.length;
    while (next < byStart.length && (byStart[next]?.start ?? Infinity) <= start)
      open.push(byStart[next++] as SheetMark);
    open = open.filter((mark) => mark.end > start);
    const inner = open.reduce<SheetMark | null>(
      (best, mark) => (best === null || mark.end - mark.start <= best.end - best.start ? mark : best),
      null,
    );
    return {
      start,
      end,
      text: text.slice(start, end),
      key: inner && litKey(inner.about, sheet.parts),
      isUnread: inner === null && isUnread({ start, end }),
    };
  });
}

function cellsOf(block: ShownBlock): Stretch[] {
  if (block.kind === 'line') return [];
  const { columns, heads, rows } = block;
  const cells = [...heads, ...rows].flatMap((row) => row.cells);
  return [...columns.map(({ name }) => name), ...cells].filter((cell) => cell !== null);
}

/** Whether a stretch lies within one of those given, which are in order and apart. */
function within(all: readonly Stretch[]): (stretch: Stretch) => boolean {
  let n = 0;
  return ({ start, end }) => {
    while (n < all.length && (all[n]?.end ?? 0) <= start) n += 1;
    const at = all[n];
    return at !== undefined && at.start <= start && end <= at.end;
  };
}

/** The pieces of a stretch; a piece that begins or ends outside of it is no part. */
export function piecesIn(pieces: readonly TextPiece[], { start, end }: Stretch): TextPiece[] {
  let [low, high] = [0, pieces.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((pieces[middle]?.start ?? Infinity) < start) low = middle + 1;
    else high = middle;
  }
  const found: TextPiece[] = [];
  for (let n = low; n < pieces.length && (pieces[n]?.end ?? Infinity) <= end; n += 1)
    found.push(pieces[n] as TextPiece);
  return found;
}

/** A line or a table as it is drawn. Shape: `block` null for page furniture; `lead` is what stands before it on its line */
export interface TextRow extends Stretch {
  readonly block: ShownBlock | null;
  readonly lead: string;
  readonly isAfterBlank: boolean;
}

/** The text as rows: each line and table, and what lies between them. Shape: in order */
export function textRows({ text, blocks }: Pick<SheetReading, 'text' | 'blocks'>): TextRow[] {
  const rows: TextRow[] = [];
  let place = 0;
  for (const block of blocks) {
    const gap = text.slice(Math.min(place, block.start), block.start);
    const cut = gap.lastIndexOf('\n') + 1;
    const isAfterBlank = /\n[ \t]*\n/u.test(gap);
    addFurniture(rows, { start: place, end: place + cut, text });
    const lead = block.kind === 'table' ? '' : gap.slice(cut).replace(/^\s*/u, '');
    rows.push({ start: block.start, end: block.end, block, lead, isAfterBlank });
    place = Math.max(place, block.end);
  }
  addFurniture(rows, { start: place, end: text.length, text });
  return rows;
}

/** What is no line of the sheet: heads and feet of pages, and the like. */
function addFurniture(rows: TextRow[], { start, end, text }: Stretch & { readonly text: string }): void {
  const own = text.slice(start, end);
  if (!/[\p{L}\p{N}]/u.test(own)) return;
  const lead = own.length - own.trimStart().length;
  rows.push({
    start: start + lead,
    end: start + own.trimEnd().length,
    block: null,
    lead: '',
    isAfterBlank: false,
  });
}
