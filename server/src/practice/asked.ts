import { ok, type Result } from '@vivid-cue/core/base';
import { measuresText, tempoText, unitGlyph, type Vocabulary } from '@vivid-cue/core/music';
import { resolveSpan, withoutPickup, type Span, type SpanCode } from '@vivid-cue/core/score';
import type { ProgramPartRow } from './part-row.js';

/**
 * The sheet's tempo in one line.
 * Shape:  "♩=116", "♩.=60–66", "Allegro", "" where the sheet says nothing
 * Units:  beats of the unit per minute
 */
export function partTempoText({
  beat_unit: unit,
  bpm_min: low,
  bpm_max: high,
  bound,
  tempo_words: words,
}: ProgramPartRow): string {
  if (unit === null || (low ?? high) === null) return words ?? '';
  const number = (bpm: number | null): string => tempoText(bpm ?? 0, unit);
  const texts: Readonly<Record<string, string>> = {
    exact: number(low),
    about: `about ${number(low)}`,
    min: `at least ${number(low)}`,
    max: `at most ${number(high)}`,
    range: `${number(low)}–${high ?? ''}`,
  };
  return texts[bound] ?? unitGlyph(unit);
}

/** The measures asked for in words: "mm. 9–12", "start to K-6". */
export function askedText(from: string, to: string, vocabulary: Vocabulary): string {
  if (from === 'start' && to === 'end') return 'the whole piece';
  return [from, to].every((point) => /^\d/u.test(point))
    ? measuresText(from, to, vocabulary)
    : `${from} to ${to}`;
}

/**
 * The measures that a part asks for, in its score; the whole score where the sheet names none.
 * Shape:  a half-open run of measure indexes
 * Errors: those of resolveSpan
 */
export function askedSpan(
  measures: Parameters<typeof resolveSpan>[0],
  {
    span_from: from,
    span_to: to,
    pickup_counts: pickupCounts,
  }: { readonly span_from: string | null; readonly span_to: string | null; readonly pickup_counts?: number },
): Result<Span, SpanCode> {
  if (from === null || to === null) return ok({ fromIndex: 0, endIndex: measures.length });
  return resolveSpan(measures, pickupCounts === 1 ? withoutPickup(measures, { from, to }) : { from, to });
}
