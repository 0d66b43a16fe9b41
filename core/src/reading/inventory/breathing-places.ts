import { roundTo } from '../../base/index.js';
import { toNumber, type QuarterCount } from '../../music/index.js';
import type { Score } from '../../score/index.js';
import type { LineNote, SoloLine } from '../line/solo-line.js';
import { secondsBetween, type Pace } from '../line/pace.js';

/** The longest note. Units: quarters, seconds; seconds null without a tempo. */
export interface HeldNote {
  readonly measure: string;
  readonly quarters: QuarterCount;
  readonly seconds: number | null;
}

/** The longest stretch without a rest. Shape: printed numbers of its first and last measure. */
export interface LongStretch {
  readonly from: string;
  readonly to: string;
  readonly quarters: QuarterCount;
  readonly seconds: number | null;
}

/**
 * A place where breath can be taken.
 * Units: printed beats, from 1: where a rest begins, else where the note before the breath ends; on a bar line it belongs
 * to the measure of that note, one beat past its last
 */
export interface BreathingPlace {
  readonly measure: string;
  readonly beat: number;
  readonly kind: 'rest' | 'breath mark' | 'fermata' | 'long note';
}

/** A note that is held this long, before a shorter one, lets a phrase end (our own knee). */
const LONG_QUARTERS = 2;

/** Held notes, long stretches and breathing places of a line. */
export interface Breathing {
  readonly longestHeld: HeldNote | null;
  readonly longestWithoutRest: LongStretch | null;
  readonly breathingPlaces: readonly BreathingPlace[];
}

/**
 * Measures what the line holds and where it lets go.
 * Shape:  the first of equal lengths; ties joined
 * Units:  see the members
 * Source: arithmetic; breaths at rests, signs and after long notes are common practice, no source
 */
export function breathing(score: Score, line: SoloLine, pace: Pace): Breathing {
  return {
    longestHeld: longestHeld(score, line, pace),
    longestWithoutRest: longestWithoutRest(score, line, pace),
    breathingPlaces: breathingPlaces(score, line),
  };
}

function longestHeld(score: Score, { notes }: SoloLine, pace: Pace): HeldNote | null {
  let longest: LineNote | null = null;
  for (const note of notes) if (!longest || note.length > longest.length + 1e-9) longest = note;
  return (
    longest && {
      measure: score.measures[longest.measureIndex]?.number ?? '',
      quarters: roundTo(longest.length, 6),
      seconds: secondsBetween(pace, longest.start, longest.start + longest.length),
    }
  );
}

function longestWithoutRest(score: Score, { notes, rests }: SoloLine, pace: Pace): LongStretch | null {
  const restStarts = rests.map(({ start }) => start);
  let longest: { from: LineNote; to: LineNote; length: number } | null = null;
  let from: LineNote | null = null;
  let last: LineNote | null = null;
  let nextRest = 0;
  for (const note of notes) {
    // A gap without a printed rest, under cue notes for example, is silence too.
    const isSilent = last !== null && note.start > last.start + last.length + 1e-9;
    const isBroken = isSilent || (restStarts[nextRest] ?? Infinity) < note.start + 1e-9;
    while ((restStarts[nextRest] ?? Infinity) < note.start + 1e-9) nextRest += 1;
    if (!from || isBroken) from = note;
    last = note;
    const length = last.start + last.length - from.start;
    if (!longest || length > longest.length + 1e-9) longest = { from, to: last, length };
  }
  if (!longest) return null;
  const end = longest.to.start + longest.to.length;
  return {
    from: score.measures[longest.from.measureIndex]?.number ?? '',
    to: score.measures[lastMeasureBefore(score, end)]?.number ?? '',
    quarters: roundTo(longest.length, 6),
    seconds: secondsBetween(pace, longest.from.start, end),
  };
}

/** A tied note may sound on into a later measure. */
function lastMeasureBefore({ measures }: Score, end: number): number {
  return Math.max(
    0,
    measures.findLastIndex(({ start }) => toNumber(start) < end - 1e-9),
  );
}

interface Place {
  readonly at: number;
  readonly measureIndex: number;
  readonly kind: BreathingPlace['kind'];
}

function breathingPlaces(score: Score, { notes, rests }: SoloLine): BreathingPlace[] {
  const places = rests.map(({ start, measureIndex }): Place => ({ at: start, measureIndex, kind: 'rest' }));
  const after = (note: LineNote, kind: BreathingPlace['kind']): void => {
    const at = note.start + note.length;
    places.push({ at, measureIndex: lastMeasureBefore(score, at), kind });
  };
  notes.forEach((note, n) => {
    if (note.isGrace) return;
    const next = notes.slice(n + 1, n + 4).find(({ isGrace }) => !isGrace);
    if (note.signs.hasBreath) after(note, 'breath mark');
    else if (note.signs.hasFermata) after(note, 'fermata');
    else if (next && note.length >= LONG_QUARTERS && next.length < note.length && !next.isSlurredInto)
      after(note, 'long note');
  });
  const seen = new Set<string>();
  return places
    .sort((a, b) => a.at - b.at || Number(b.kind === 'rest') - Number(a.kind === 'rest'))
    .flatMap(({ at, measureIndex, kind }) => {
      const measure = score.measures[measureIndex];
      // Silence that goes on into the next measure, and a rest where a long note ends, are one place.
      const key = at.toFixed(4);
      if (!measure || seen.has(key) || at >= endOf(score) - 1e-9) return [];
      seen.add(key);
      const beat = roundTo(((at - toNumber(measure.start)) * measure.meter.beatType) / 4 + 1, 6);
      return [{ measure: measure.number, beat, kind }];
    });
}

function endOf({ measures }: Score): number {
  const last = measures.at(-1);
  return last ? toNumber(last.start) + toNumber(last.length) : 0;
}
