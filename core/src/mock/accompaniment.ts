import { midiOf, toNumber } from '../music/index.js';
import { readScore, soundedNotes, type PartInfo, type Span } from '../score/index.js';
import { ok, type Result } from '../base/index.js';
import type { ScoreCode } from '../score/index.js';

/** What sounds: the others alone, the player's own part softly with them, or the own part alone. */
export type OwnPart = 'silent' | 'soft' | 'alone';

/** A note that accompanies. Units: sounding MIDI number; quarters from the beginning of the span; loudness 0 to 1 */
export interface AccompanyingNote {
  readonly midi: number;
  readonly start: number;
  readonly length: number;
  readonly gain: number;
}

/** How loud the others and the own part sound. */
const GAIN = { others: 0.7, soft: 0.3, alone: 1 };

/**
 * The notes of a score's parts over a span.
 * Shape:  in the order in which they begin; none where no other part is there
 * Units:  see AccompanyingNote
 * Errors: those of readScore
 */
export function accompaniment(
  bytes: Uint8Array,
  { partId, span, own }: { readonly partId: string; readonly span: Span; readonly own: OwnPart },
): Result<readonly AccompanyingNote[], ScoreCode> {
  const first = readScore(bytes, { partId });
  if (!first.ok) return first;
  const notes: AccompanyingNote[] = [];
  for (const { id } of first.value.parts as readonly PartInfo[]) {
    const gain = id === partId ? (own === 'silent' ? 0 : GAIN[own]) : own === 'alone' ? 0 : GAIN.others;
    const read = gain > 0 ? readScore(bytes, { partId: id }) : null;
    if (!read?.ok) continue;
    const { measures } = read.value;
    const startOf = (index: number): number => {
      const start = measures[index]?.start;
      return start ? toNumber(start) : 0;
    };
    const begin = startOf(span.fromIndex);
    for (const note of soundedNotes(read.value)) {
      if (note.measureIndex < span.fromIndex || note.measureIndex >= span.endIndex) continue;
      const start = startOf(note.measureIndex) + toNumber(note.onset) - begin;
      notes.push({ midi: midiOf(note.sounding), start, length: toNumber(note.length), gain });
    }
  }
  return ok(notes.sort((a, b) => a.start - b.start));
}

/** Whether a score has other parts than one. */
export function hasOthers(parts: readonly PartInfo[], partId: string): boolean {
  return parts.some(({ id }) => id !== partId);
}
