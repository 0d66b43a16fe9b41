import { CoverableText } from './found.js';
import type { Line } from './lines.js';
import type { PartDraft } from './part-draft.js';
import type { Stretch } from './sentences.js';
import { mark, type SheetState } from './sheet-state.js';

/** Reads a stretch of a sentence into a part, marking what was recognised. */
export function readInto(
  state: SheetState,
  draft: PartDraft,
  {
    line,
    sentence,
    work,
    start,
    after,
    end,
    isFirst,
  }: {
    readonly line: Line;
    readonly sentence: Stretch;
    readonly work: CoverableText;
    readonly start: number;
    readonly after: number;
    readonly end: number;
    readonly isFirst: boolean;
  },
): void {
  if (after > start)
    mark(state, line, {
      stretch: { start: sentence.start + start, end: sentence.start + after },
      about: 'label',
      draft,
    });
  const own = new CoverableText(work.printed.slice(start, end), work.plain.slice(start, end));
  own.cover({ start: 0, end: after - start });
  for (const { field, start: from, end: to } of draft.read(own, after - start, isFirst))
    mark(state, line, {
      stretch: { start: sentence.start + start + from, end: sentence.start + start + to },
      about: field,
      draft,
    });
}
