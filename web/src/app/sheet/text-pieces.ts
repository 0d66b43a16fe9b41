import type { SheetMark, SheetReading } from '@vivid-cue/core/sheet';

/** A stretch of the published text as it is drawn. Shape: `about` null where nothing was recognised. */
export interface TextPiece {
  readonly start: number;
  readonly text: string;
  readonly about: string | null;
  readonly isUnread: boolean;
}

/**
 * The published text cut where what was recognised changes; of marks that lie in each other the innermost counts.
 * Shape:  together the pieces are the whole text
 * Units:  characters
 */
export function textPieces({
  text,
  marks,
  unread,
}: Pick<SheetReading, 'text' | 'marks' | 'unread'>): TextPiece[] {
  const cuts = new Set([0, text.length]);
  for (const { start, end } of [...marks, ...unread]) {
    cuts.add(start);
    cuts.add(end);
  }
  const places = [...cuts].filter((place) => place <= text.length).sort((a, b) => a - b);
  const byStart = [...marks].sort((a, b) => a.start - b.start);
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
    const isUnread = inner === null && unread.some((stretch) => stretch.start <= start && end <= stretch.end);
    return { start, text: text.slice(start, end), about: inner?.about ?? null, isUnread };
  });
}

/** The thing of the sheet that a path belongs to: "parts[2]/tempo" is of "parts[2]". */
export function ownerOf(about: string | null): string {
  return about?.replace(/\/.*$/u, '') ?? '';
}
