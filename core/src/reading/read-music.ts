import type { BeatUnit, Bpm } from '../music/index.js';
import type { Score, Span } from '../score/index.js';
import { awkwardPairs, type AwkwardPair } from './demands/awkward-pairs.js';
import { breathing, type Breathing } from './inventory/breathing-places.js';
import { demands, type MeasureDemand } from './demands/demands.js';
import { decidingMeasure, openingTempo, type Deciding, type Opening } from './demands/opening.js';
import { dynamicsAdvice, type DynamicsAdvice } from './inventory/dynamics-advice.js';
import { beatToFeel, type BeatToFeel } from './inventory/feel.js';
import { inventory, type Inventory } from './inventory/inventory.js';
import { meterTraps, type MeterTrap } from './traps/meter-traps.js';
import { oddOnesOut, type OddOneOut } from './likeness/odd-ones-out.js';
import { clipScore, withHeldLevels } from './line/clip.js';
import { paceOf, type Pace } from './line/pace.js';
import { instrumentProfile, type InstrumentProfile } from './demands/profiles.js';
import { findRepeats, type Repeats } from './likeness/repeats.js';
import { likeMeasures, rhythmPatterns, type RhythmPattern } from './inventory/rhythm-patterns.js';
import { runs, type Run } from './inventory/runs.js';
import { shows, type Shows } from './demands/shows.js';
import { soloLine } from './line/solo-line.js';
import { surprises, type Surprise } from './traps/surprises.js';

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
  /** What it was read with. */
  readonly pace: Pace;
  readonly profile: InstrumentProfile;
}

/**
 * How to read.
 * Shape:  `instrument` instead of the part's own name; `bpm` in beats of the first full measure; `unit` what the sheet's
 *         tempo counts, for sentences; `asked` the measures that are asked, none for all
 */
export interface ReadMusicOptions {
  readonly instrument: string | null;
  readonly bpm: Bpm | null;
  readonly unit?: BeatUnit | null;
  readonly asked?: readonly Span[];
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
  whole: Score,
  { instrument, bpm, unit = null, asked = [] }: ReadMusicOptions,
  watch: (step: ReadingStep) => void = () => undefined,
): MusicReading {
  watch('counting');
  const score = clipScore(whole, asked);
  const line = soloLine(score);
  const found = inventory(score, line);
  const clusters = likeMeasures(score, line);
  const pace = paceOf(score, bpm);
  const profile = instrumentProfile(instrument ?? score.instrument);
  const pairs = awkwardPairs(score, line, profile.pairs);
  watch('demands');
  const weighed = demands(score, line, { pace, profile, inventory: found, pairs });
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
    dynamicsAdvice: dynamicsAdvice(withHeldLevels(score, whole, asked), line, found),
    shows: shows(score, line, { inventory: found, demands: weighed }),
    beatToFeel: beatToFeel(score, pace),
    awkwardPairs: pairs.flat(),
    ...breathing(score, line, pace),
    demands: weighed,
    deciding: decidingMeasure(weighed, profile),
    opening: openingTempo(weighed, { pace, profile, unit: unit ?? score.tempos[0]?.unit ?? null }),
    pace,
    profile,
  };
}

/**
 * What each measure asks beside the others, without the rest of the reading.
 * Shape:  0 to 1 by measure index, at the file's own tempo
 * Source: as demands
 */
export function measureDemands(score: Score): readonly number[] {
  const line = soloLine(score);
  const profile = instrumentProfile(score.instrument);
  const pairs = awkwardPairs(score, line, profile.pairs);
  const asked = demands(score, line, {
    pace: paceOf(score, null),
    profile,
    inventory: inventory(score, line),
    pairs,
  });
  const byIndex = new Map(asked.map(({ index, score: demand }) => [index, demand]));
  return score.measures.map(({ index }) => byIndex.get(index) ?? 0);
}
