import type { Score } from '../score/index.js';
import { awkwardPairs, type AwkwardPair } from './awkward-pairs.js';
import { breathing, type Breathing } from './breathing-places.js';
import {
  decidingMeasure,
  demands,
  openingTempo,
  type Deciding,
  type MeasureDemand,
  type Opening,
} from './demands.js';
import { dynamicsAdvice, type DynamicsAdvice } from './dynamics-advice.js';
import { beatToFeel, type BeatToFeel } from './feel.js';
import { inventory, type Inventory } from './inventory.js';
import { meterTraps, type MeterTrap } from './meter-traps.js';
import { oddOnesOut, type OddOneOut } from './odd-ones-out.js';
import { paceOf } from './pace.js';
import { instrumentProfile } from './profiles.js';
import { findRepeats, type Repeats } from './repeats.js';
import { likeMeasures, rhythmPatterns, type RhythmPattern } from './rhythm-patterns.js';
import { runs, type Run } from './runs.js';
import { shows, type Shows } from './shows.js';
import { soloLine } from './solo-line.js';
import { surprises, type Surprise } from './surprises.js';

/** What an experienced player notes in the first hour with a score. Shape: measures by printed number. */
export interface MusicReading extends Inventory, Repeats, Breathing {
  readonly oddOnesOut: readonly OddOneOut[];
  readonly surprises: readonly Surprise[];
  readonly meterTraps: readonly MeterTrap[];
  readonly patterns: readonly RhythmPattern[];
  readonly runs: readonly Run[];
  readonly dynamicsAdvice: readonly DynamicsAdvice[];
  readonly shows: readonly Shows[];
  readonly beatToFeel: readonly BeatToFeel[];
  readonly awkwardPairs: readonly AwkwardPair[];
  readonly demands: readonly MeasureDemand[];
  readonly deciding: Deciding | null;
  readonly opening: Opening;
}

/** How to read. Shape: `instrument` instead of the part's own name; `bpm` in beats of the first full measure. */
export interface ReadMusicOptions {
  readonly instrument: string | null;
  readonly bpm: number | null;
}

/** What the reading is busy with, in this order. */
export const READING_STEPS = ['counting', 'demands', 'repeats', 'traps'] as const;

/** One of the steps. */
export type ReadingStep = (typeof READING_STEPS)[number];

/**
 * Reads a score for what is easy to miss and for what it demands.
 * Shape:  see MusicReading; `watch` is told of each step as it begins
 * Units:  see the members
 * Errors: none; a score without notes gives empty lists
 * Source: see the single findings
 */
export function readMusic(
  score: Score,
  { instrument, bpm }: ReadMusicOptions,
  watch: (step: ReadingStep) => void = () => undefined,
): MusicReading {
  watch('counting');
  const line = soloLine(score);
  const found = inventory(score, line);
  const clusters = likeMeasures(score, line);
  const pace = paceOf(score, bpm);
  const profile = instrumentProfile(instrument ?? score.instrument);
  const pairs = awkwardPairs(score, line, profile.pairs);
  watch('demands');
  const asked = demands(score, line, { pace, profile, inventory: found, pairs });
  watch('repeats');
  const repeats = findRepeats(score, line);
  watch('traps');
  return {
    ...found,
    ...repeats,
    oddOnesOut: oddOnesOut(score, line, { hairpins: found.hairpins, clusters }),
    surprises: surprises(score, line),
    meterTraps: meterTraps(score, line),
    patterns: rhythmPatterns(score, line, clusters),
    runs: runs(score, line),
    dynamicsAdvice: dynamicsAdvice(score, line, found),
    shows: shows(score, line, { inventory: found, demands: asked }),
    beatToFeel: beatToFeel(score, pace),
    awkwardPairs: pairs.flat(),
    ...breathing(score, line, pace),
    demands: asked,
    deciding: decidingMeasure(asked),
    opening: openingTempo(asked, pace),
  };
}
