import type { Random } from '../base/index.js';
import { indexesOf, inSpan, runsOf, type Span } from '../score/index.js';

/** A stretch with a name, as suggestions are cut and joined. */
export interface NamedSpan extends Span {
  readonly name: string;
}

/**
 * Joins a stretch with the next.
 * Shape:  the first keeps its name; unchanged where no next one touches it
 */
export function mergeNext<T extends NamedSpan>(spans: readonly T[], at: number): T[] {
  const [here, next] = [spans[at], spans[at + 1]];
  if (!here || !next || here.endIndex !== next.fromIndex) return [...spans];
  return spans.flatMap((span, n) =>
    n === at ? [{ ...here, endIndex: next.endIndex }] : n === at + 1 ? [] : [span],
  );
}

/**
 * Cuts a stretch in two before a measure.
 * Shape:  the second is named after the first, "…, 2", nameless stays nameless; unchanged where the measure is not inside
 * Units:  measure index
 */
export function splitAt<T extends NamedSpan>(spans: readonly T[], at: number, index: number): T[] {
  const here = spans[at];
  if (!here || index <= here.fromIndex || index >= here.endIndex) return [...spans];
  const name = here.name === '' ? '' : secondName(here.name, new Set(spans.map((span) => span.name)));
  return spans.flatMap((span, k) =>
    k === at
      ? [
          { ...here, endIndex: index },
          { ...here, name, fromIndex: index },
        ]
      : [span],
  );
}

function secondName(name: string, taken: ReadonlySet<string>): string {
  let n = 2;
  while (taken.has(`${name}, ${n}`)) n += 1;
  return `${name}, ${n}`;
}

/**
 * Moves the border between a stretch and the next, where they touch, or the end of the last.
 * Shape:  each keeps at least one measure; `limit` is the end of the piece
 * Units:  measure index
 */
export function moveEnd<T extends NamedSpan>(
  spans: readonly T[],
  at: number,
  { index, limit }: { readonly index: number; readonly limit: number },
): T[] {
  const [here, next] = [spans[at], spans[at + 1]];
  if (!here) return [...spans];
  const touches = next?.fromIndex === here.endIndex;
  const most = touches ? next.endIndex - 1 : Math.min(limit, next?.fromIndex ?? limit);
  const end = Math.min(most, Math.max(here.fromIndex + 1, index));
  return spans.map((span, n) => {
    if (n === at) return { ...span, endIndex: end };
    return n === at + 1 && touches ? { ...span, fromIndex: end } : span;
  });
}

/**
 * Stretches where nothing lies yet: what is taken is cut out of them, and a single measure that is left joins the
 * stretch it touches.
 * Shape:  in the order of the music, no overlap with `taken`
 * Units:  measure indexes
 */
export function fitAround<T extends NamedSpan>(spans: readonly T[], taken: readonly Span[]): T[] {
  const isTaken = (index: number): boolean => taken.some((span) => inSpan(span, index));
  const pieces = spans.flatMap((span) => {
    const free = indexesOf([span]).filter((index) => !isTaken(index));
    return runsOf(free).map((run) => ({ ...span, ...run }));
  });
  return pieces.reduce<T[]>((kept, piece) => {
    const last = kept.at(-1);
    const touches = last?.endIndex === piece.fromIndex;
    if (last && touches && size(last) === 1) kept[kept.length - 1] = { ...piece, fromIndex: last.fromIndex };
    else if (last && touches && size(piece) === 1)
      kept[kept.length - 1] = { ...last, endIndex: piece.endIndex };
    else kept.push(piece);
    return kept;
  }, []);
}

function size({ fromIndex, endIndex }: Span): number {
  return endIndex - fromIndex;
}

/**
 * A measure to begin at, anywhere in the program: every measure of every part is as likely.
 * Shape:  null for a program without measures
 * Units:  measure index within its part
 * Source: common practice, no source
 */
export function startAnywhere<P extends Span>(
  parts: readonly P[],
  random: Random,
): { readonly part: P; readonly index: number } | null {
  const total = parts.reduce((sum, { fromIndex, endIndex }) => sum + Math.max(0, endIndex - fromIndex), 0);
  let left = Math.floor(random() * total);
  for (const part of parts) {
    const size = Math.max(0, part.endIndex - part.fromIndex);
    if (left < size) return { part, index: part.fromIndex + left };
    left -= size;
  }
  return null;
}
