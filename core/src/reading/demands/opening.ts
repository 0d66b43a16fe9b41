import {
  asQuarterBpm,
  BEAT_UNITS,
  beatBpm,
  tempoText,
  toNumber,
  unitLength,
  type BeatUnit,
  type Bpm,
  type QuarterBpm,
} from '../../music/index.js';
import type { Pace } from '../line/pace.js';
import type { MeasureDemand } from './demands.js';
import { COMFORTABLE } from './profiles.data.js';
import type { InstrumentProfile } from './profiles.js';

/** The measure that decides, and how fast the opening may be. */
export interface Deciding {
  readonly measure: string;
  readonly because: string;
  readonly notesPerSecond: number;
}

/** The tempo at which to open. Units: beats a minute, whole. */
export interface Opening {
  readonly bpm: Bpm | null;
  readonly because: string;
}

/** What limits a measure: the share of the target at which it is still comfortable, and why. */
interface Limit {
  readonly one: MeasureDemand;
  readonly share: number;
  readonly because: string;
}

/** Notes, tongued notes or the slide: what is tightest at the target. */
function limitOf(one: MeasureDemand, { family }: InstrumentProfile): Limit {
  const { rate, tongued, slide } = one.facts;
  const most = COMFORTABLE[family];
  const limits: readonly (readonly [number, string])[] = [
    [most.rate / Math.max(rate, 1e-9), `${rate.toFixed(1)} notes a second`],
    [most.tongued / Math.max(tongued, 1e-9), `${tongued.toFixed(1)} tongued notes a second`],
    [most.slide / Math.max(slide, 1e-9), `the slide travels ${Math.round(slide)} positions a second`],
  ];
  const [share, because] = limits.reduce((a, b) => (b[0] < a[0] - 1e-9 ? b : a));
  return { one, share, because };
}

/** The tightest measure; of equals the more demanding one. */
function tightest(all: readonly MeasureDemand[], profile: InstrumentProfile): Limit | null {
  return all
    .map((one) => limitOf(one, profile))
    .reduce<Limit | null>((a, b) => {
      if (!a) return b;
      const isEqual = Math.abs(b.share - a.share) <= 1e-9;
      return (isEqual ? b.one.score > a.one.score + 1e-9 : b.share < a.share) ? b : a;
    }, null);
}

/**
 * The measure that decides: the one that limits the tempo, or where none does the one that asks most.
 * Shape:  null for a score without notes; the first of equals
 * Units:  notes per second, see rates.ts
 */
export function decidingMeasure(all: readonly MeasureDemand[], profile: InstrumentProfile): Deciding | null {
  const limit = tightest(all, profile);
  let top = limit && limit.share < 1 ? limit.one : null;
  if (!top) for (const one of all) if (!top || one.score > top.score + 1e-9) top = one;
  return (
    top && {
      measure: top.measure,
      because: `Measure ${top.measure} asks most: ${top.because}.`,
      notesPerSecond: top.notesPerSecond,
    }
  );
}

/**
 * The tempo at which the densest place is still comfortable: open no faster than the deciding measure allows.
 * Shape:  never above the target; `bpm` null without a tempo; the sentence counts the sheet's unit
 * Units:  beats a minute of the first full measure, rounded down
 * Source: common practice, no source
 */
export function openingTempo(
  all: readonly MeasureDemand[],
  {
    pace,
    profile,
    unit,
  }: { readonly pace: Pace; readonly profile: InstrumentProfile; readonly unit: BeatUnit | null },
): Opening {
  const target = pace.segments[0];
  const limit = tightest(all, profile);
  if (!target || !limit)
    return { bpm: null, because: 'No tempo is known: give the target tempo to see how fast to open.' };
  const bpm = target.quarterBpm / pace.beatQuarters;
  const said = (quarterBpm: number): string =>
    textOf(asQuarterBpm(quarterBpm), unit ?? unitOf(pace.beatQuarters));
  const place = limit.because.startsWith('the slide')
    ? `${limit.because} in measure ${limit.one.measure}`
    : `measure ${limit.one.measure} has ${limit.because}`;
  if (limit.share >= 1)
    return {
      bpm: Math.floor(bpm + 1e-9),
      because: `Open at the target, ${said(target.quarterBpm)}: even the tightest place is within reach, ${place}.`,
    };
  return {
    bpm: Math.floor(bpm * limit.share + 1e-9),
    because: `At the target of ${said(target.quarterBpm)} ${place}: open no faster than ${said(target.quarterBpm * limit.share)}.`,
  };
}

function textOf(quarterBpm: QuarterBpm, unit: BeatUnit | null): string {
  if (unit === null) return `${Math.floor(quarterBpm + 1e-9)} quarters a minute`;
  return tempoText(Math.floor(beatBpm(quarterBpm, unit) + 1e-6), unit);
}

function unitOf(quarters: number): BeatUnit | null {
  return BEAT_UNITS.find((unit) => Math.abs(toNumber(unitLength(unit)) - quarters) < 1e-9) ?? null;
}
