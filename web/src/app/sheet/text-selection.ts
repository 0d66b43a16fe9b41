import type { Stretch } from '@vivid-cue/core/sheet';

/** How the mark moves from word to word. */
interface Step {
  readonly way: number;
  readonly isExtending: boolean;
}

function spansOf(root: HTMLElement): HTMLElement[] {
  return [...root.querySelectorAll<HTMLElement>('[data-start]')];
}

function startOf(span: HTMLElement): number {
  return Number(span.dataset['start']);
}

function lengthOf(span: HTMLElement): number {
  return span.textContent?.length ?? 0;
}

/**
 * What is marked in a text whose words are spans that know their place.
 * Shape:  without the spaces around it; null where nothing is marked in there
 * Units:  characters of the text
 */
export function stretchSelected(root: HTMLElement): Stretch | null {
  const selection = getSelection();
  if (!selection || selection.isCollapsed || selection.rangeCount === 0) return null;
  const range = selection.getRangeAt(0);
  if (!root.contains(range.commonAncestorContainer)) return null;
  const spans = spansOf(root).filter((span) => range.intersectsNode(span));
  const words = spans.map((span) => {
    const from = span.contains(range.startContainer) ? offsetIn(range.startContainer, range.startOffset) : 0;
    const to = span.contains(range.endContainer)
      ? offsetIn(range.endContainer, range.endOffset)
      : lengthOf(span);
    return { at: startOf(span), from, to, own: (span.textContent ?? '').slice(from, to) };
  });
  const first = words.find(({ own }) => own.trim() !== '');
  const last = words.findLast(({ own }) => own.trim() !== '');
  if (!first || !last) return null;
  const lead = first.own.length - first.own.trimStart().length;
  const start = first.at + first.from + lead;
  const end = last.at + last.from + last.own.trimEnd().length;
  return end > start ? { start, end } : null;
}

function offsetIn(node: Node, offset: number): number {
  if (node.nodeType === Node.TEXT_NODE) return offset;
  return [...node.childNodes]
    .slice(0, offset)
    .reduce((sum, child) => sum + (child.textContent?.length ?? 0), 0);
}

/** Marks the next word, or one word more or less, as the arrow keys do. */
export function stepWord(root: HTMLElement, text: string, { way, isExtending }: Step): void {
  const spans = spansOf(root);
  const shown = spans.map((span) => ({ start: startOf(span), end: startOf(span) + lengthOf(span) }));
  const words = [...text.matchAll(/[^\s|]+/gu)]
    .map((match) => ({ start: match.index, end: match.index + match[0].length }))
    .filter((word) => shown.some((span) => span.start < word.end && word.start < span.end));
  const before = stretchSelected(root);
  const first = words.findIndex((word) => before !== null && word.end > before.start);
  const last = words.findLastIndex((word) => before !== null && word.start < before.end);
  const at =
    before === null ? (way > 0 ? 0 : words.length - 1) : (isExtending || way > 0 ? last : first) + way;
  const word = words[Math.min(words.length - 1, Math.max(0, at))];
  if (!word) return;
  const start = isExtending && before ? before.start : word.start;
  mark(spans, { start, end: Math.max(word.end, start + 1) });
}

function mark(spans: readonly HTMLElement[], { start, end }: Stretch): void {
  const holding = (place: number): HTMLElement | undefined =>
    spans.find((span) => startOf(span) <= place && place < startOf(span) + lengthOf(span));
  const [from, to] = [holding(start), holding(end - 1)];
  const [one, other] = [from?.firstChild, to?.firstChild];
  if (!from || !to || !one || !other) return;
  getSelection()?.setBaseAndExtent(one, start - startOf(from), other, end - startOf(to));
  to.scrollIntoView({ block: 'nearest' });
}
