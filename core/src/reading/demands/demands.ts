import { countBy, roundTo } from '../../base/index.js';
import { alterInKey, asQuarterBpm, toNumber, type Bpm, type QuarterBpm } from '../../music/index.js';
import type { Score, ScoreMeasure } from '../../score/index.js';
import type { AwkwardPair } from './awkward-pairs.js';
import { articulationOf } from '../line/articulation.js';
import type { Inventory } from '../inventory/inventory.js';
import { beatOf, quarterBpmOf, type Pace } from '../line/pace.js';
import { COMFORTABLE_RATE, DEMAND_KNEES, FAMILY_WEIGHTS } from './profiles.data.js';
import type { InstrumentProfile } from './profiles.js';
import type { LineNote, SoloLine } from '../line/solo-line.js';

/** The single demands that are weighed. */
export type DemandName = keyof typeof DEMAND_KNEES;

/**
 * What one measure asks at the target tempo.
 * Shape:  `facts` in the units of DEMAND_KNEES, `score` 0–1, `because` its two weightiest demands
 * Units:  notes per second are 0 where no tempo is known: notes per beat at 60 are taken instead
 * Source: weights and knees are our own, see profiles.data.ts
 */
export interface MeasureDemand {
  readonly measure: string;
  readonly index: number;
  readonly score: number;
  readonly because: string;
  readonly notesPerSecond: number;
  readonly notesPerSecondOverTwoBeats: number;
  readonly facts: Readonly<Record<DemandName, number>>;
}

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

/** Without any tempo, one beat a second stands in, so that measures can still be compared. */
const STAND_IN_BPM = 60;

/** What demands are counted from, beside the score and its line. */
interface DemandContext {
  readonly pace: Pace;
  readonly profile: InstrumentProfile;
  readonly inventory: Inventory;
  readonly pairs: readonly (readonly AwkwardPair[])[];
}

/** One measure's notes with what is known around them. Units: quarter notes per minute; quarter notes */
interface MeasureAt {
  readonly notes: readonly LineNote[];
  readonly index: number;
  readonly measure: ScoreMeasure;
  readonly quarterBpm: QuarterBpm;
  readonly beat: number;
}

/**
 * What each measure asks.
 * Shape:  one entry a measure with notes, in the order of the music
 * Units:  see MeasureDemand
 */
export function demands(score: Score, line: SoloLine, context: DemandContext): MeasureDemand[] {
  const { pace, profile, inventory } = context;
  const dynamics = countBy([...inventory.dynamics, ...inventory.hairpins].map(({ measure }) => measure));
  const nextOf = nextNotes(line);
  return score.measures.flatMap((measure, index) => {
    const notes = line.played[index] ?? [];
    if (notes.length === 0 && measure.toldNotes === null) return [];
    const quarterBpm =
      quarterBpmOf(pace, toNumber(measure.start)) ?? asQuarterBpm(STAND_IN_BPM * pace.beatQuarters);
    if (notes.length === 0) return [toldDemand(measure, index, { quarterBpm, profile })];
    const at: MeasureAt = { notes, index, measure, quarterBpm, beat: beatOf(measure.meter) };
    return [
      demandOf(at, factsOf(at, context, { nextOf, dynamics: dynamics.get(measure.number) ?? 0 }), profile),
    ];
  });
}

function factsOf(
  { notes, index, measure, quarterBpm, beat }: MeasureAt,
  { profile, pairs }: DemandContext,
  { nextOf, dynamics }: { readonly nextOf: ReturnType<typeof nextNotes>; readonly dynamics: number },
): Record<DemandName, number> {
  const secondsOfBeat = (beat * 60) / quarterBpm;
  const tongued = notes.filter((note) => isTongued(note));
  return {
    rate: peak(notes, beat) / secondsOfBeat,
    tongued: profile.family === 'drums' ? 0 : peak(tongued, beat) / secondsOfBeat,
    leaps: largestLeapRate(notes, nextOf, quarterBpm),
    breaks: crossings(notes, nextOf, profile.breaks),
    accidentals: notes.filter(
      ({ written }) => written !== null && written.alter !== alterInKey(written.step, measure.fifths),
    ).length,
    rhythm: rhythmChanges(notes),
    articulation:
      changes(notes.map((note) => articulationOf(note))) / Math.max(1, toNumber(measure.length) / beat),
    dynamics,
    awkward: pairs[index]?.length ?? 0,
    range: outside(notes, profile.range),
  };
}

function demandOf(
  { notes, index, measure, quarterBpm, beat }: MeasureAt,
  facts: Readonly<Record<DemandName, number>>,
  profile: InstrumentProfile,
): MeasureDemand {
  const parts = weighed(facts, profile);
  const sum = parts.reduce((all, { worth }) => all + worth, 0);
  return {
    measure: measure.number,
    index,
    score: roundTo(sum, 4),
    because: parts
      .slice(0, 2)
      .filter(({ worth }) => worth > 0)
      .map(({ name }) => factText(name, facts[name]))
      .join(', '),
    notesPerSecond: roundTo(facts.rate, 4),
    notesPerSecondOverTwoBeats: roundTo((peak(notes, 2 * beat) * quarterBpm) / (2 * beat * 60), 4),
    facts,
  };
}

const NOTHING_ASKED = Object.freeze(
  Object.fromEntries(Object.keys(DEMAND_KNEES).map((name) => [name, 0])),
) as Readonly<Record<DemandName, number>>;

/** Of a measure whose notes are unknown, what was told of their value: so many notes a second. */
function toldDemand(
  { number, toldNotes }: ScoreMeasure,
  index: number,
  { quarterBpm, profile }: { readonly quarterBpm: QuarterBpm; readonly profile: InstrumentProfile },
): MeasureDemand {
  const rate = ((toldNotes ?? 0) * quarterBpm) / 60;
  const facts = { ...NOTHING_ASKED, rate };
  return {
    measure: number,
    index,
    score: roundTo(
      weighed(facts, profile).reduce((sum, { worth }) => sum + worth, 0),
      4,
    ),
    because: `${rate.toFixed(1)} notes a second, as told`,
    notesPerSecond: roundTo(rate, 4),
    notesPerSecondOverTwoBeats: roundTo(rate, 4),
    facts,
  };
}

/**
 * The measure with the highest demand; the first of equals.
 * Shape:  null for a score without notes
 * Units:  notes per second
 */
export function decidingMeasure(all: readonly MeasureDemand[]): Deciding | null {
  let top: MeasureDemand | null = null;
  for (const one of all) if (!top || one.score > top.score + 1e-9) top = one;
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
 * Shape:  never above the target; `bpm` null without a tempo
 * Units:  beats a minute, rounded down
 * Source: common practice, no source
 */
export function openingTempo(all: readonly MeasureDemand[], pace: Pace): Opening {
  const target = pace.segments[0];
  if (!target || all.length === 0)
    return { bpm: null, because: 'No tempo is known: give the target tempo to see how fast to open.' };
  const bpm = target.quarterBpm / pace.beatQuarters;
  const tightest = all
    .map((one) => ({
      one,
      share: Math.min(
        COMFORTABLE_RATE.slurred / Math.max(one.facts.rate, 1e-9),
        COMFORTABLE_RATE.tongued / Math.max(one.facts.tongued, 1e-9),
      ),
    }))
    // Of equally dense measures the more demanding one is named.
    .reduce((a, b) => {
      const isEqual = Math.abs(b.share - a.share) <= 1e-9;
      return (isEqual ? b.one.score > a.one.score : b.share < a.share) ? b : a;
    });
  const densest = `measure ${tightest.one.measure} has ${tightest.one.facts.rate.toFixed(1)} notes a second`;
  if (tightest.share >= 1)
    return {
      bpm: Math.floor(bpm + 1e-9),
      because: `Open at the target: even the densest place is within reach, ${densest}.`,
    };
  return {
    bpm: Math.floor(bpm * tightest.share + 1e-9),
    because: `At the target of ${Math.round(bpm)}, ${densest}: open no faster than that measure allows.`,
  };
}

function nextNotes({ played }: SoloLine): Map<LineNote, LineNote> {
  const next = new Map<LineNote, LineNote>();
  const sounding = played.flat();
  sounding.forEach((note, n) => {
    const after = sounding[n + 1];
    if (after && Math.abs(note.start + note.length - after.start) < 1e-6) next.set(note, after);
  });
  return next;
}

function isTongued({ isSlurredInto }: LineNote): boolean {
  return !isSlurredInto;
}

/** The most notes that begin within any window of this length. */
function peak(notes: readonly LineNote[], window: number): number {
  let most = 0;
  let first = 0;
  notes.forEach((note, n) => {
    while ((notes[first]?.start ?? 0) <= note.start - window + 1e-6) first += 1;
    most = Math.max(most, n - first + 1);
  });
  return most;
}

/** A step is no leap: only a third and more counts. */
const SMALLEST_LEAP = 3;

function largestLeapRate(
  notes: readonly LineNote[],
  nextOf: ReadonlyMap<LineNote, LineNote>,
  quarterBpm: QuarterBpm,
): number {
  let largest = 0;
  for (const note of notes) {
    const next = nextOf.get(note);
    if (!next || note.midi === null || next.midi === null) continue;
    const leap = Math.abs(next.midi - note.midi);
    if (leap >= SMALLEST_LEAP) largest = Math.max(largest, leap / ((note.length * 60) / quarterBpm));
  }
  return largest;
}

function crossings(
  notes: readonly LineNote[],
  nextOf: ReadonlyMap<LineNote, LineNote>,
  breaks: readonly number[],
): number {
  let count = 0;
  for (const note of notes) {
    const next = nextOf.get(note);
    if (!next || note.midi === null || next.midi === null) continue;
    const [low, high] = [Math.min(note.midi, next.midi), Math.max(note.midi, next.midi)];
    count += breaks.filter((below) => low <= below && high > below).length;
  }
  return count;
}

function rhythmChanges(notes: readonly LineNote[]): number {
  const durations = new Set(notes.map(({ length }) => length.toFixed(4)));
  const tuplets = changes(notes.map(({ signs }) => (signs.tuplet ?? [1, 1]).join(':')));
  return durations.size - 1 + tuplets;
}

function changes(values: readonly string[]): number {
  return values.filter((value, n) => n > 0 && value !== values[n - 1]).length;
}

function outside(notes: readonly LineNote[], range: InstrumentProfile['range']): number {
  if (!range) return 0;
  const margin = (range.high - range.low) / 5;
  return Math.max(
    0,
    ...notes.map(({ midi }) =>
      midi === null ? 0 : Math.max(midi - (range.high - margin), range.low + margin - midi),
    ),
  );
}

/** Demands by what they are worth, the weightiest first; a fact at its knee is worth half its weight. */
function weighed(
  facts: Readonly<Record<DemandName, number>>,
  { family }: InstrumentProfile,
): { name: DemandName; worth: number }[] {
  const weights: Readonly<Record<DemandName, number>> = FAMILY_WEIGHTS[family];
  return (Object.keys(DEMAND_KNEES) as DemandName[])
    .map((name) => ({ name, worth: weights[name] * scaled(facts[name], DEMAND_KNEES[name]) }))
    .sort((a, b) => b.worth - a.worth);
}

/** From 0 to 1, one half at the knee; the square keeps many small demands from outweighing one large one. */
function scaled(fact: number, knee: number): number {
  return fact ** 2 / (fact ** 2 + knee ** 2);
}

function factText(name: DemandName, fact: number): string {
  const plural = fact === 1 ? '' : 's';
  switch (name) {
    case 'rate':
      return `${fact.toFixed(1)} notes a second over one beat`;
    case 'tongued':
      return `${fact.toFixed(1)} tongued notes a second`;
    case 'leaps':
      return `a leap at ${Math.round(fact)} semitones a second`;
    case 'breaks':
      return `${fact} register break${plural} crossed`;
    case 'accidentals':
      return `${fact} note${plural} off the key`;
    case 'rhythm':
      return `${fact} change${plural} of rhythm`;
    case 'articulation':
      return `${fact.toFixed(1)} changes of articulation a beat`;
    case 'dynamics':
      return `${fact} dynamic${plural}`;
    case 'awkward':
      return `${fact} awkward pair${plural}`;
    case 'range':
      return 'the edge of the range';
  }
}
