import type { Result } from '@vivid-cue/core/base';
import { secondsAt, type QuarterBpm, type Seconds } from '@vivid-cue/core/music';
import type { MeasureToJudge } from '@vivid-cue/core/readiness';
import type { Span, SpanCode } from '@vivid-cue/core/score';
import { askedSpans } from './asked.js';
import { readMeasureMap, type MappedMeasure } from './measure-map.js';
import type { ProgramPartRow } from './part-row.js';

/** A score as judging needs it; what many students' parts ask of it is worked out once. */
export interface ScoreMusic {
  readonly measures: readonly MappedMeasure[];
  /** The runs that a part asks for. Errors: those of askedSpans. */
  readonly asked: (part: ProgramPartRow) => Result<readonly Span[], SpanCode>;
  /** Every measure with its length at a tempo. */
  readonly at: (quarterBpm: QuarterBpm) => readonly MeasureToJudge[];
}

/** The music of a stored map. Shape: null where there is no score */
export function scoreMusic(measureMap: string | null): ScoreMusic | null {
  const measures = readMeasureMap(measureMap);
  if (!measures) return null;
  const asked = remembered(
    (part: ProgramPartRow) => askedSpans(measures, part),
    ({ measures: runs, pickup_counts: pickup }) => `${pickup} ${runs}`,
  );
  const at = remembered(
    (bpm: QuarterBpm) =>
      measures.map(({ quarters, demand }): { seconds: Seconds; demand: number } => ({
        seconds: secondsAt(quarters, bpm),
        demand,
      })),
    String,
  );
  return { measures, asked, at };
}

/** A function that works each question out once, as long as it is held. */
function remembered<Question, Answer>(
  answer: (question: Question) => Answer,
  keyOf: (question: Question) => string,
): (question: Question) => Answer {
  const known = new Map<string, Answer>();
  return (question) => {
    const key = keyOf(question);
    const before = known.get(key);
    if (before !== undefined) return before;
    const now = answer(question);
    known.set(key, now);
    return now;
  };
}
