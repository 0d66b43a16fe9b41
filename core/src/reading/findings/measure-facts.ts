import { countBy, groupBy } from '../../base/index.js';
import {
  letterName,
  meterText,
  midiOf,
  pitchName,
  toNumber,
  type Bpm,
  type Pitch,
  type QuarterCount,
  type Semitones,
} from '../../music/index.js';
import type { Score, Span } from '../../score/index.js';
import type { MeasureDemand } from '../demands/demands.js';
import { articulationOf } from '../line/articulation.js';
import { paceOf, secondsBetween } from '../line/pace.js';
import type { MusicReading } from '../read-music.js';
import type { SoloLine } from '../line/solo-line.js';
import { techniquesAtNotes } from '../statements/techniques.js';
import { wordSwells } from '../inventory/swells.js';

/** How often something stands. */
export type Counted = readonly [what: string, count: number];

/**
 * What stands in one measure, ready to be added up over a selection.
 * Shape:  `low` and `high` null without pitches; `rhythm` is the pattern's letter, if it is in one
 * Units:  quarters; seconds at the pace of the reading, null without one; MIDI numbers of written pitches
 */
export interface MeasureFacts {
  readonly index: number;
  readonly key: number;
  readonly meter: string;
  readonly quarters: QuarterCount;
  readonly seconds: number | null;
  readonly notes: number;
  readonly low: { readonly midi: Semitones; readonly name: string } | null;
  readonly high: { readonly midi: Semitones; readonly name: string } | null;
  readonly articulations: readonly Counted[];
  readonly names: readonly Counted[];
  readonly accidentals: readonly Counted[];
  readonly dynamics: readonly string[];
  readonly ornaments: readonly string[];
  /** Double stops, stopped notes, rolls, flams … */
  readonly techniques: readonly Counted[];
  /** Runs that begin here: "D4 to G5 of D major". */
  readonly runs: readonly string[];
  readonly ties: number;
  readonly rhythm: string | null;
  readonly demand: MeasureDemand | null;
}

/**
 * The facts of every measure.
 * Shape:  one entry a measure, by index
 * Units:  see MeasureFacts
 */
export function measureFacts(
  score: Score,
  line: SoloLine,
  { reading, bpm }: { readonly reading: MusicReading; readonly bpm: Bpm | null },
): MeasureFacts[] {
  const pace = paceOf(score, bpm);
  const printedAt = groupBy(reading.accidentals, ({ measure }) => measure);
  const demandAt = new Map(reading.demands.map((one) => [one.index, one]));
  const rhythmAt = new Map(
    reading.patterns.flatMap(({ id, measures }) => measures.map((number) => [number, id] as const)),
  );
  const marks = dynamicsOf(score);
  const playing = playingOf(line, reading);
  return score.measures.map(({ index, number, fifths, meter, start, length }) => {
    const own = line.byMeasure[index] ?? [];
    const played = line.played[index] ?? [];
    const pitches = own.flatMap(({ written }) => (written ? [written] : []));
    const from = toNumber(start);
    return {
      index,
      key: fifths,
      meter: meterText(meter),
      quarters: toNumber(length),
      seconds: secondsBetween(pace, from, from + toNumber(length)),
      notes: played.length,
      low: extreme(pitches, -1),
      high: extreme(pitches, 1),
      articulations: [...countBy(played.map((note) => articulationOf(note)))],
      names: [...countBy(own.flatMap(({ written }) => (written ? [letterName(written)] : [])))],
      accidentals: (printedAt.get(number) ?? []).map(({ name, count }) => [name, count] as const),
      dynamics: marks[index] ?? [],
      ornaments: own.flatMap(({ signs }) => signs.ornaments.filter((name) => name !== 'tremolo')),
      ...playing(index, number),
      ties: own.filter(({ printed }) => printed.length > 1).length,
      rhythm: rhythmAt.get(number) ?? null,
      demand: demandAt.get(index) ?? null,
    };
  });
}

/** Techniques and runs of each measure. */
function playingOf(
  line: SoloLine,
  { profile, runs }: MusicReading,
): (index: number, number: string) => Pick<MeasureFacts, 'techniques' | 'runs'> {
  const techniquesAt = groupBy(techniquesAtNotes(line, profile), ({ index }) => index);
  const runsAt = groupBy(runs, ({ measure }) => measure);
  return (index, number) => ({
    techniques: [...countBy((techniquesAt.get(index) ?? []).map(({ name }) => name.toLowerCase()))],
    runs: (runsAt.get(number) ?? []).map(({ from, to, scale }) => `${from} to ${to} of ${scale}`),
  });
}

/** Dynamics and swells by measure: marks, hairpins, words. */
function dynamicsOf(score: Score): readonly (readonly string[])[] {
  const marks = score.measures.map((): string[] => []);
  for (const { measureIndex, mark } of score.marks.dynamics) marks[measureIndex]?.push(mark);
  for (const { measureIndex, type } of score.marks.hairpins)
    if (type !== 'stop') marks[measureIndex]?.push(type);
  for (const { fromIndex, kind } of wordSwells(score)) marks[fromIndex]?.push(kind);
  return marks;
}

function extreme(pitches: readonly Pitch[], way: 1 | -1): { midi: Semitones; name: string } | null {
  let found: { midi: Semitones; name: string } | null = null;
  for (const pitch of pitches) {
    const midi = midiOf(pitch);
    if (!found || (midi - found.midi) * way > 0) found = { midi, name: pitchName(pitch) };
  }
  return found;
}

/** The facts of a run of measures. Shape: as MeasureFacts, added up; `top` is the measure that asks most. */
export interface SpanFacts extends Omit<MeasureFacts, 'index' | 'key' | 'meter' | 'rhythm' | 'demand'> {
  readonly keys: readonly number[];
  readonly meters: readonly string[];
  readonly rhythms: readonly string[];
  readonly top: MeasureDemand | null;
}

/**
 * Adds up the facts of some runs of measures.
 * Shape:  counts by what is most frequent; seconds null where a measure has none
 * Units:  see MeasureFacts
 */
export function spanFacts(facts: readonly MeasureFacts[], runs: readonly Span[]): SpanFacts {
  const own = runs.flatMap(({ fromIndex, endIndex }) => facts.slice(fromIndex, endIndex));
  const seconds = own.map((one) => one.seconds);
  const tops = own.flatMap(({ demand }) => (demand ? [demand] : []));
  return {
    keys: [...new Set(own.map(({ key }) => key))],
    meters: [...new Set(own.map(({ meter }) => meter))],
    quarters: own.reduce((sum, { quarters }) => sum + quarters, 0),
    seconds: seconds.includes(null) ? null : seconds.reduce<number>((sum, one) => sum + (one ?? 0), 0),
    notes: own.reduce((sum, { notes }) => sum + notes, 0),
    low: furthest(
      own.map(({ low }) => low),
      -1,
    ),
    high: furthest(
      own.map(({ high }) => high),
      1,
    ),
    articulations: added(own.map(({ articulations }) => articulations)),
    names: added(own.map(({ names }) => names)),
    accidentals: added(own.map(({ accidentals }) => accidentals)),
    dynamics: own.flatMap(({ dynamics }) => dynamics),
    ornaments: own.flatMap(({ ornaments }) => ornaments),
    techniques: added(own.map(({ techniques }) => techniques)),
    runs: own.flatMap(({ runs }) => runs),
    ties: own.reduce((sum, { ties }) => sum + ties, 0),
    rhythms: [...new Set(own.flatMap(({ rhythm }) => (rhythm === null ? [] : [rhythm])))],
    top: tops.reduce<MeasureDemand | null>((a, b) => (a && a.score >= b.score ? a : b), null),
  };
}

function added(lists: readonly (readonly Counted[])[]): Counted[] {
  const sums = new Map<string, number>();
  for (const [what, count] of lists.flat()) sums.set(what, (sums.get(what) ?? 0) + count);
  return [...sums].sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0]));
}

function furthest(places: readonly MeasureFacts['low'][], way: 1 | -1): MeasureFacts['low'] {
  return places.reduce<MeasureFacts['low']>(
    (found, one) => (one && (!found || (one.midi - found.midi) * way > 0) ? one : found),
    null,
  );
}
