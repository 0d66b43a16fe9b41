import { quarterBpm, type BeatUnit } from '@vivid-cue/core/music';
import { indexesOf, type Span } from '@vivid-cue/core/spans';
import { tappedPulse, type ToldTake } from '@vivid-cue/core/takes';
import type { TakeBounds, TakeMarks } from '@vivid-cue/contract';

/** A measure of the score, as far as a take needs it. Units: quarters */
export interface ScoreMeasure {
  readonly index: number;
  readonly number: string;
  readonly quarters: number;
}

/** A measure where it stands in a take. Shape: null tempo where nobody knows it. Units: seconds; beats a minute */
export interface PlacedMeasure {
  readonly index: number | null;
  readonly number: string;
  readonly start: number;
  readonly end: number;
  readonly bpm: number | null;
  readonly confidence: number;
}

/** What a take's places come from. */
export interface MapFacts {
  readonly told: ToldTake | null;
  readonly marks: TakeMarks;
  readonly measures: readonly ScoreMeasure[];
  readonly runs: readonly Span[];
}

/**
 * The measures of a take where they were played: as they were followed, or else as their downbeats were tapped.
 * Shape:  in the order of the take; empty where nobody knows anything
 */
export function placedMeasures({ told, marks, measures, runs }: MapFacts): PlacedMeasure[] {
  if (told) return [...told.measures];
  const asked = runs.length === 0 ? measures : indexesOf(runs).flatMap((index) => measures[index] ?? []);
  return tappedPulse(marks.downbeats, marks.beats).measures.map(({ start, end, bpm }, n) => ({
    ...{ index: asked[n]?.index ?? null, number: asked[n]?.number ?? String(n + 1) },
    ...{ start, end, bpm, confidence: 1 },
  }));
}

/** The tempo that the sheet binds, in the beats of the take. Shape: null where it binds nothing that way */
export interface TempoBand {
  readonly min: number | null;
  readonly max: number | null;
  readonly isExact: boolean;
}

/** A number that is meant exactly is kept by this much (our own). Shape: a share */
export const EXACT = 0.02;

/** Units: `bounds` in beats of their unit, the band in beats of the take */
export function bandOf(bounds: TakeBounds | null, beatQuarters: number): TempoBand | null {
  if (!bounds) return null;
  const inBeats = (bpm: number | null, unit: BeatUnit): number | null =>
    bpm === null ? null : quarterBpm(bpm, unit) / beatQuarters;
  const { min, max, beatUnit } = bounds;
  const isExact = min !== null && min === max;
  const [low, high] = [inBeats(min, beatUnit), inBeats(max, beatUnit)];
  if (!isExact || low === null || high === null) return { min: low, max: high, isExact: false };
  return { min: low * (1 - EXACT), max: high * (1 + EXACT), isExact };
}

/** Whether a tempo lies beside what the sheet binds. */
export function isBeside(bpm: number, band: TempoBand | null): boolean {
  if (!band) return false;
  return (band.min !== null && bpm < band.min) || (band.max !== null && bpm > band.max);
}

/** From where to where a picture of tempos reaches. Units: beats a minute */
export interface TempoRange {
  readonly low: number;
  readonly high: number;
}

/** Room above and below the tempos. Units: beats a minute */
const ROOM = 6;
/** What lies farther from the middle is drawn at the edge, or one doubtful measure would flatten all others. */
const FARTHEST = 1.6;

/** The range of some takes' tempos and of what the sheet binds. Shape: around 96 where there is nothing */
export function rangeOf(takes: readonly (readonly number[])[], band: TempoBand | null): TempoRange {
  const sorted = takes.flat().sort((a, b) => a - b);
  const middle = sorted[sorted.length >> 1] ?? 96;
  const near = sorted.filter((bpm) => bpm < middle * FARTHEST && bpm > middle / FARTHEST);
  const bound = [band?.min, band?.max].flatMap((bpm) => bpm ?? []);
  const all = near.length > 0 ? [...near, ...bound] : [middle, ...bound];
  return { low: Math.min(...all) - ROOM, high: Math.max(...all) + ROOM };
}
