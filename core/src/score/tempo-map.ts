import {
  addQuarters,
  asQuarterBpm,
  compareQuarters,
  secondsAt,
  toNumber,
  type QuarterBpm,
  type QuarterCount,
  type Quarters,
} from '../music/index.js';
import type { TempoMarkFound } from './direction-reader.js';
import type { ScoreWarning } from './issues.js';
import type { ScoreMeasure, TempoSegment } from './model.js';

/** A tempo mark with its place. */
export interface TempoEvent {
  readonly partId: string;
  readonly measureIndex: number;
  readonly offset: Quarters;
  readonly mark: TempoMarkFound;
}

/** Printed and sounded tempo may differ by this share before it is worth a word (our own knee, for rounding). */
const CONFLICT_SHARE = 0.02;

/**
 * The tempo over the whole piece. The printed mark binds; a `sound` tempo fills an empty or broken one; marks that
 * stand only in another part are borrowed.
 * Shape:  ascending; empty when the file states no tempo at all
 * Units:  quarters from the beginning; quarter notes per minute
 * Errors: none; conflicts and borrowed marks are warned of
 * Source: MusicXML 4.0, elements metronome and sound
 */
export function tempoMap(
  events: readonly TempoEvent[],
  measures: readonly ScoreMeasure[],
  partId: string,
): { tempos: TempoSegment[]; warnings: ScoreWarning[] } {
  const warnings: ScoreWarning[] = [];
  const tempos: TempoSegment[] = [];
  for (const event of inOrder(events, partId)) {
    const measure = measures[event.measureIndex];
    if (!measure) continue;
    const at = addQuarters(measure.start, event.offset);
    const before = tempos.at(-1);
    const quarterBpm = resolve(event, measure.number, { before: before?.quarterBpm ?? null, warnings });
    if (quarterBpm === null) continue;
    if (before && compareQuarters(before.at, at) === 0) {
      if (event.partId !== partId) continue;
      tempos.pop();
    }
    if (event.partId !== partId) {
      warnings.push({
        code: 'tempo-borrowed',
        where: `measure ${measure.number}`,
        message: `The tempo at measure ${measure.number} stands only in another part; it is used here too.`,
      });
    }
    tempos.push({ at, quarterBpm, unit: event.mark.printedUnit });
  }
  if (tempos.length === 0) {
    warnings.push({
      code: 'tempo-unknown',
      where: '',
      message: 'The file states no tempo, so no seconds can be told from it alone.',
    });
  }
  return { tempos, warnings };
}

function inOrder(events: readonly TempoEvent[], partId: string): TempoEvent[] {
  const own = (event: TempoEvent): number => (event.partId === partId ? 0 : 1);
  return [...events].sort(
    (a, b) => a.measureIndex - b.measureIndex || compareQuarters(a.offset, b.offset) || own(a) - own(b),
  );
}

function resolve(
  event: TempoEvent,
  number: string,
  { before, warnings }: { readonly before: QuarterBpm | null; readonly warnings: ScoreWarning[] },
): QuarterBpm | null {
  const { printedQuarterBpm, soundQuarterBpm, relativeFactor, hasSign } = event.mark;
  const where = `measure ${number}`;
  if (printedQuarterBpm !== null) {
    if (soundQuarterBpm !== null && Math.abs(soundQuarterBpm / printedQuarterBpm - 1) > CONFLICT_SHARE) {
      warnings.push({
        code: 'tempo-conflict',
        where,
        message: `Measure ${number} prints a tempo of ${round(printedQuarterBpm)} quarter notes a minute but plays ${round(soundQuarterBpm)}; the printed one is used.`,
      });
    }
    return printedQuarterBpm;
  }
  if (soundQuarterBpm !== null) {
    if (hasSign && relativeFactor === null) {
      warnings.push({
        code: 'tempo-from-sound',
        where,
        message: `The tempo printed at measure ${number} is empty or broken; the file's playing tempo of ${round(soundQuarterBpm)} quarter notes a minute is used.`,
      });
    }
    return soundQuarterBpm;
  }
  return relativeFactor !== null && before !== null ? asQuarterBpm(before * relativeFactor) : null;
}

function round(bpm: QuarterBpm): number {
  return Math.round(bpm * 100) / 100;
}

/**
 * The tempo in force at a place.
 * Shape:  null before the first mark
 * Units:  quarters from the beginning; quarter notes per minute
 */
export function quarterBpmAt(tempos: readonly TempoSegment[], at: Quarters): QuarterBpm | null {
  return tempos.findLast((segment) => compareQuarters(segment.at, at) <= 0)?.quarterBpm ?? null;
}

/**
 * The seconds of every measure, over each tempo that holds in it.
 * Shape:  one number a measure; null where a stretch has no tempo
 * Units:  seconds
 * Source: arithmetic
 */
export function measureSeconds(
  measures: readonly ScoreMeasure[],
  tempos: readonly TempoSegment[],
): (number | null)[] {
  let next = 0;
  let current: QuarterBpm | null = null;
  return measures.map((measure) => {
    let from = toNumber(measure.start);
    const end = from + toNumber(measure.length);
    let seconds: number | null = 0;
    for (let segment = tempos[next]; segment && toNumber(segment.at) < end; segment = tempos[next]) {
      seconds = addStretch(seconds, Math.max(0, toNumber(segment.at) - from), current);
      from = Math.max(from, toNumber(segment.at));
      current = segment.quarterBpm;
      next += 1;
    }
    return addStretch(seconds, end - from, current);
  });
}

function addStretch(
  seconds: number | null,
  quarterCount: QuarterCount,
  quarterBpm: QuarterBpm | null,
): number | null {
  if (quarterCount === 0) return seconds;
  return seconds === null || quarterBpm === null ? null : seconds + secondsAt(quarterCount, quarterBpm);
}
