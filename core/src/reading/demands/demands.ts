import { countBy, roundTo } from '../../base/index.js';
import { asQuarterBpm, toNumber, type QuarterBpm } from '../../music/index.js';
import type { Score, ScoreMeasure } from '../../score/index.js';
import type { AwkwardPair } from './awkward-pairs.js';
import type { Inventory } from '../inventory/inventory.js';
import { beatOf, quarterBpmOf, type Pace } from '../line/pace.js';
import {
  countDemands,
  LineContext,
  type CountedDemands,
  type DemandName,
  type MeasureAt,
} from './demand-facts.js';
import { DEMAND_KNEES, FAMILY_WEIGHTS } from './profiles.data.js';
import type { InstrumentProfile } from './profiles.js';
import type { SoloLine } from '../line/solo-line.js';

export type { DemandName } from './demand-facts.js';

/**
 * What one measure asks at the target tempo.
 * Shape:  `facts` in the units of DEMAND_KNEES, `score` 0–1, `because` its two weightiest demands
 * Units:  notes per second as in rates.ts; where no tempo is known, one beat a second stands in
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

/** Without any tempo, one beat a second stands in, so that measures can still be compared. */
const STAND_IN_BPM = 60;

/** What demands are counted from, beside the score and its line. */
interface DemandContext {
  readonly pace: Pace;
  readonly profile: InstrumentProfile;
  readonly inventory: Inventory;
  readonly pairs: readonly (readonly AwkwardPair[])[];
}

/**
 * What each measure asks.
 * Shape:  one entry a measure with notes, in the order of the music
 * Units:  see MeasureDemand
 */
export function demands(score: Score, line: SoloLine, context: DemandContext): MeasureDemand[] {
  const { pace, profile, inventory, pairs } = context;
  const dynamics = countBy([...inventory.dynamics, ...inventory.hairpins].map(({ measure }) => measure));
  const around = new LineContext(line, profile);
  return score.measures.flatMap((measure, index) => {
    const notes = line.played[index] ?? [];
    if (notes.length === 0 && measure.toldNotes === null) return [];
    const quarterBpm =
      quarterBpmOf(pace, toNumber(measure.start)) ?? asQuarterBpm(STAND_IN_BPM * pace.beatQuarters);
    if (notes.length === 0) return [toldDemand(measure, index, { quarterBpm, profile })];
    const at: MeasureAt = { notes, index, measure, quarterBpm, beat: beatOf(measure.meter) };
    const counted = countDemands(at, around, {
      profile,
      dynamics: dynamics.get(measure.number) ?? 0,
      awkward: (pairs[index] ?? []).map(({ note }) => note),
      graces: isStruck(profile) ? (line.byMeasure[index] ?? []).filter(({ isGrace }) => isGrace).length : 0,
    });
    return [demandOf(at, counted, profile)];
  });
}

function isStruck({ family }: InstrumentProfile): boolean {
  return family === 'drums' || family === 'mallets';
}

function demandOf(
  { index, measure }: MeasureAt,
  counted: CountedDemands,
  profile: InstrumentProfile,
): MeasureDemand {
  const { facts } = counted;
  const parts = weighed(facts, profile);
  const sum = parts.reduce((all, { worth }) => all + worth, 0);
  return {
    measure: measure.number,
    index,
    score: roundTo(sum, 4),
    because: parts
      // Over two beats it is the same speed.
      .filter(({ name, worth }) => worth > 0 && name !== 'sustained')
      .slice(0, 2)
      .map(({ name }) => factText(name, counted))
      .join(', '),
    notesPerSecond: roundTo(facts.rate, 4),
    notesPerSecondOverTwoBeats: roundTo(facts.sustained, 4),
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
  const facts = { ...NOTHING_ASKED, rate, sustained: rate };
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

function factText(name: DemandName, { facts, counts }: CountedDemands): string {
  const several = (count: number, word: string): string => `${count} ${word}${count === 1 ? '' : 's'}`;
  switch (name) {
    case 'rate':
      return `${facts.rate.toFixed(1)} notes a second`;
    case 'sustained':
      return `${facts.sustained.toFixed(1)} a second over two beats`;
    case 'tongued':
      return `${facts.tongued.toFixed(1)} tongued notes a second`;
    case 'slide':
      return `the slide travels ${Math.round(facts.slide)} positions a second`;
    case 'leaps':
      return `a leap of ${several(counts.leap, 'semitone')}`;
    case 'crossings':
      return `${several(counts.crossings, 'string')} crossed`;
    case 'partials':
      return `${several(counts.partials, 'partial')} crossed under slurs`;
    case 'breaks':
      return `${several(counts.breaks, 'register break')} crossed`;
    case 'accidentals':
      return `${several(counts.accidentals, 'note')} off the key`;
    case 'rhythm':
      return several(counts.rhythms, 'change') + ' of rhythm';
    case 'articulation':
      return `${facts.articulation.toFixed(1)} changes of articulation a second`;
    case 'dynamics':
      return several(counts.dynamics, 'dynamic');
    case 'awkward':
      return several(counts.awkward, 'awkward pair');
    case 'range':
      return 'the edge of the range';
    case 'strokes':
      return `rolls, flams or several notes at once, ${counts.strokes}`;
  }
}
