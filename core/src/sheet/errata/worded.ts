import { scanTempos, type BeatUnit, type TempoMark } from '../../music/index.js';
import { partSaid } from '../assemble/one-part.js';
import { kindOf } from '../labels.js';
import type { SheetPart, SheetSpan } from '../model.js';
import { fieldOf, PART_FIELDS } from '../part-fields.js';
import { readPoint } from '../span-reader.js';
import type { Subject } from './subjects.js';

/** One field of a part with what stood and what stands now. */
export interface FieldChange {
  readonly field: string;
  readonly old: unknown;
  readonly now: unknown;
  /** What the notice itself says that stood; null where it does not say. */
  readonly said?: unknown;
}

/** A sentence that quotes what is printed, moves one end of a run, or names another note. Shape: null where it does none of these */
export function worded(plain: string, printed: string, subject: Subject): FieldChange[] | null {
  return quoted(plain, printed, subject) ?? edges(plain, subject.part) ?? otherNote(plain, subject.part);
}

/** "For “A” read “B”", "change “A” to “B”": what the two say differently. */
function quoted(plain: string, printed: string, { label, part }: Subject): FieldChange[] | null {
  const match =
    /(?:\bfor|\bchange|\breplace|\binstead\s+of)\s+"(?<old>[^"]+)"\s*,?\s*(?:please\s+)?(?:read|to|with|by|put|play)\s+"(?<now>[^"]+)"/iu.exec(
      plain,
    );
  if (!match?.groups?.old || !match.groups.now) return null;
  const at = (text: string): string => {
    const start = plain.indexOf(text, match.index);
    return printed.slice(start, start + text.length).replace(/[.,]$/u, '');
  };
  const kind = part?.kind ?? kindOf(label) ?? 'other';
  const [before, after] = [
    partSaid(at(match.groups.old), kind, true),
    partSaid(at(match.groups.now), kind, true),
  ];
  const fields = PART_FIELDS.map(({ name }) => name).filter(
    (name) => JSON.stringify(fieldOf(before, name)) !== JSON.stringify(fieldOf(after, name)),
  );
  return fields.map((name) => {
    const stood = part ? fieldOf(part, name) : fieldOf(before, name);
    const now =
      name === 'measures'
        ? movedSpans(part?.measures ?? [], before.measures, after.measures)
        : fieldOf(after, name);
    return {
      field: name,
      old: stood,
      now: name === 'tempo' ? withWords(now as TempoMark, part) : now,
      said: name === 'measures' ? null : fieldOf(before, name),
    };
  });
}

/** Runs of which only the end moved keep their beginning. */
function movedSpans(
  stood: readonly SheetSpan[],
  before: readonly SheetSpan[],
  after: readonly SheetSpan[],
): readonly SheetSpan[] {
  if (stood.length === 0 || before.length !== 1 || after.length !== 1) return after;
  const [old, now] = [before[0], after[0]];
  return stood.map((span) =>
    String(span.to) === String(old?.to) && now
      ? {
          ...span,
          to: now.to,
          from: String(span.from) === String(old?.from) ? now.from : span.from,
          anchorText: now.anchorText,
        }
      : span,
  );
}

/** A number for a heading of words: the words stay. */
export function withWords(mark: TempoMark, part: SheetPart | null): TempoMark {
  return { ...mark, words: mark.words ?? part?.tempo.words ?? null };
}

/** "Should end on the downbeat of Q", "now starts at m. 5": one end of a run. */
function edges(plain: string, part: SheetPart | null): FieldChange[] | null {
  const match =
    /\b(?:should|must|now|will|to)\s+(?:now\s+)?(?<way>end|stop|finish|start|begin)s?\s+(?:on|at|with|in)\s+/iu.exec(
      plain,
    );
  if (!match || !part || part.measures.length === 0) return null;
  const point = readPoint(plain, match.index + match[0].length);
  if (!point) return null;
  const isEnd = /^(?:end|stop|finish)/iu.test(match.groups?.way ?? '');
  const last = part.measures.length - 1;
  const now = part.measures.map((span, n) => {
    if (isEnd ? n !== last : n !== 0) return span;
    return isEnd ? { ...span, to: point.point } : { ...span, from: point.point };
  });
  return [{ field: 'measures', old: part.measures, now }];
}

/** "It is the quarter note, not the half note, that goes at 88." */
function otherNote(plain: string, part: SheetPart | null): FieldChange[] | null {
  const match =
    /\bthe\s+(?<now>(?:dotted\s+)?\p{L}+)(?:\s+note)?,?\s+(?:and\s+)?not\s+the\s+(?<old>(?:dotted\s+)?\p{L}+)/iu.exec(
      plain,
    );
  if (!match?.groups || !part) return null;
  const unit = (text: string | undefined): BeatUnit | null =>
    scanTempos(`${text ?? ''} = 60`)[0]?.mark.beatUnit ?? null;
  const [now, old] = [unit(match.groups.now), unit(match.groups.old)];
  if (now === null || old === null) return null;
  return [{ field: 'tempo', old: part.tempo, now: { ...part.tempo, beatUnit: now } }];
}
