import { ok, type Result } from '@vivid-cue/core/base';
import { markText, type Vocabulary } from '@vivid-cue/core/music';
import { resolveSpan, runsText, withoutPickup, type Span, type SpanCode } from '@vivid-cue/core/score';
import { citationOf } from '@vivid-cue/core/sheet';
import { askedRuns, partView, tempoOfRow, type PartRow } from '../published/sheet-part.js';

/** The sheet's tempo in one line. Shape: "" where the sheet says nothing. */
export function partTempoText(row: PartRow): string {
  return markText(tempoOfRow(row));
}

/** Number, page, book, edition and composer; "" where the sheet states none. */
export function sourceText(row: PartRow): string {
  return citationOf(partView(row));
}

/** The measures asked for, in words; "" where the sheet names none. */
export function askedText(row: PartRow, vocabulary: Vocabulary): string {
  return runsText(askedRuns(row), vocabulary);
}

/**
 * The runs of measures that a part asks for, in its score; the whole score where the sheet names none.
 * Shape:  half-open runs of measure indexes in the order played
 * Errors: those of resolveSpan, of the first run that the score does not hold
 */
export function askedSpans(
  measures: Parameters<typeof resolveSpan>[0],
  row: Pick<PartRow, 'measures'> & { readonly pickup_counts?: number },
): Result<readonly Span[], SpanCode> {
  const runs = askedRuns(row);
  if (runs.length === 0) return ok([{ fromIndex: 0, endIndex: measures.length }]);
  const spans: Span[] = [];
  for (const run of runs) {
    const named = { from: String(run.from), to: String(run.to) };
    const span = resolveSpan(measures, row.pickup_counts === 1 ? withoutPickup(measures, named) : named);
    if (!span.ok) return span;
    spans.push(span.value);
  }
  return ok(spans);
}
