import { alterInKey, toNumber, type QuarterBpm, type Semitones } from '../../music/index.js';
import type { ScoreMeasure } from '../../score/index.js';
import { articulationOf } from '../line/articulation.js';
import { isJoined, isWritten, type LineNote, type SoloLine } from '../line/solo-line.js';
import type { DEMAND_KNEES } from './profiles.data.js';
import type { InstrumentProfile } from './profiles.js';
import { densest, peak } from './rates.js';
import { slidePositions } from './slide.js';

/** The single demands that are weighed. */
export type DemandName = keyof typeof DEMAND_KNEES;

/** One measure's notes with what is known around them. Units: quarter notes a minute; quarter notes. */
export interface MeasureAt {
  readonly notes: readonly LineNote[];
  readonly index: number;
  readonly measure: ScoreMeasure;
  readonly quarterBpm: QuarterBpm;
  readonly beat: number;
}

/** What is counted, each a second unless it is a place or a width. Shape: `counts` for sentences, whole. */
export interface CountedDemands {
  readonly facts: Readonly<Record<DemandName, number>>;
  readonly counts: {
    readonly leap: Semitones;
    readonly crossings: number;
    readonly partials: number;
    readonly breaks: number;
    readonly accidentals: number;
    readonly rhythms: number;
    readonly awkward: number;
    readonly strokes: number;
    readonly dynamics: number;
  };
}

/** The note that follows each without a rest, and the slide positions of a trombone. */
export class LineContext {
  private readonly next = new Map<LineNote, LineNote>();
  private readonly positions = new Map<LineNote, number>();

  constructor(line: SoloLine, profile: InstrumentProfile) {
    const notes = line.played.flat();
    notes.forEach((note, n) => {
      const after = notes[n + 1];
      if (after && isJoined(note, after)) this.next.set(note, after);
    });
    if (!profile.hasSlide) return;
    const places = slidePositions(notes.map(({ midi }) => midi));
    notes.forEach((note, n) => {
      const position = places[n] ?? null;
      if (position !== null) this.positions.set(note, position);
    });
  }

  after(note: LineNote | undefined): LineNote | null {
    return (note && this.next.get(note)) ?? null;
  }

  /** How far the slide goes to the next note. Units: positions. */
  travel(note: LineNote): number {
    const next = this.after(note);
    const [from, to] = [this.positions.get(note), next ? this.positions.get(next) : undefined];
    return from === undefined || to === undefined ? 0 : Math.abs(from - to);
  }
}

/** An awkward pair in less than this counts whole. Units: seconds (our own knee). */
const AWKWARD_SECONDS = 0.25;

/**
 * What a measure asks, counted by time: a slow break or leap is none beside real sixteenths.
 * Units:  see DEMAND_KNEES
 * Source: arithmetic
 */
export function countDemands(at: MeasureAt, context: LineContext, around: Around): CountedDemands {
  const { notes, measure, quarterBpm, beat } = at;
  const { profile, dynamics, awkward } = around;
  const seconds = Math.max(1e-6, (toNumber(measure.length) * 60) / quarterBpm);
  const secondsOf = (quarters: number): number => (quarters * 60) / quarterBpm;
  const pace = { after: context.after(notes.at(-1)), beat, quarterBpm };
  const leap = widestLeap(notes, context, secondsOf);
  const counts = countsOf(at, context, { ...around, leap: leap.semitones });
  return {
    counts,
    facts: {
      rate: densest(notes, pace),
      sustained: (peak(notes, 2 * beat) * quarterBpm) / (2 * beat * 60),
      tongued: isTonguing(profile) ? densest(tonguedOf(notes, profile), pace) : 0,
      slide: Math.max(0, ...notes.map((note) => context.travel(note) / secondsOf(note.length))),
      leaps: leap.rate,
      crossings: counts.crossings / seconds,
      partials: counts.partials / seconds,
      breaks: counts.breaks / seconds,
      accidentals: counts.accidentals / seconds,
      rhythm: counts.rhythms / seconds,
      articulation: changes(notes.map((note) => articulationOf(note))) / seconds,
      dynamics: dynamics / seconds,
      awkward: notes
        .filter(({ ordinal }) => awkward.includes(ordinal))
        .reduce((sum, { length }) => sum + Math.min(1, AWKWARD_SECONDS / secondsOf(length)), 0),
      range: outside(notes, profile),
      strokes: counts.strokes / seconds,
    },
  };
}

/** What is known of a measure beside its notes. Shape: `awkward` the ordinals of the first notes of awkward pairs. */
interface Around {
  readonly profile: InstrumentProfile;
  readonly dynamics: number;
  readonly awkward: readonly number[];
  readonly graces: number;
}

function countsOf(
  { notes, measure }: MeasureAt,
  context: LineContext,
  { profile, dynamics, awkward, graces, leap }: Around & { readonly leap: Semitones },
): CountedDemands['counts'] {
  const isStroke = ({ signs, chordSize }: LineNote): boolean =>
    signs.tremolo > 2 || (chordSize > 1 && profile.family !== 'keys');
  return {
    leap,
    crossings: stringsCrossed(notes, context, profile.strings),
    partials: profile.family === 'brass' ? partialsCrossed(notes, context) : 0,
    breaks: crossings(notes, context, profile.breaks),
    accidentals: notes.filter((note) => isOffKey(note, measure.fifths)).length,
    rhythms: rhythmChanges(notes),
    awkward: awkward.length,
    strokes: graces + notes.filter(isStroke).length,
    dynamics,
  };
}

/** A slur on a slide is a soft tongue. */
function tonguedOf(notes: readonly LineNote[], { hasSlide }: InstrumentProfile): LineNote[] {
  return notes.filter((note) => hasSlide || !note.isSlurredInto);
}

/** Who begins notes with the tongue; bows and sticks have no such limit of their own. */
function isTonguing({ family }: InstrumentProfile): boolean {
  return family === 'woodwind' || family === 'brass' || family === 'voice';
}

function isOffKey({ written }: LineNote, fifths: number): boolean {
  return written !== null && written.alter !== alterInKey(written.step, fifths);
}

/** A step is no leap: only a third and more counts. */
const SMALLEST_LEAP = 3;

function widestLeap(
  notes: readonly LineNote[],
  context: LineContext,
  secondsOf: (quarters: number) => number,
): { readonly semitones: Semitones; readonly rate: number } {
  let widest = { semitones: 0, rate: 0 };
  for (const note of notes) {
    const next = context.after(note);
    if (!next || note.midi === null || next.midi === null) continue;
    const semitones = Math.abs(next.midi - note.midi);
    const rate = semitones / secondsOf(note.length);
    if (semitones >= SMALLEST_LEAP && rate > widest.rate) widest = { semitones, rate };
  }
  return widest;
}

function crossings(notes: readonly LineNote[], context: LineContext, breaks: readonly number[]): number {
  let count = 0;
  for (const note of notes) {
    const next = context.after(note);
    if (!next || note.midi === null || next.midi === null) continue;
    const [low, high] = [Math.min(note.midi, next.midi), Math.max(note.midi, next.midi)];
    count += breaks.filter((below) => low <= below && high > below).length;
  }
  return count;
}

/** How many strings lie between notes in first position, all together; on the open string the bow is where it is. */
function stringsCrossed(
  notes: readonly LineNote[],
  context: LineContext,
  strings: readonly Semitones[],
): number {
  if (strings.length === 0) return 0;
  const stringOf = (midi: Semitones): number =>
    Math.max(
      0,
      strings.findLastIndex((open) => open <= midi),
    );
  return notes.reduce((sum, note) => {
    const next = context.after(note);
    const isPitched = note.midi !== null && next !== null && next.midi !== null;
    return isPitched ? sum + Math.abs(stringOf(note.midi) - stringOf(next.midi)) : sum;
  }, 0);
}

/** A fourth and more under a slur goes from one partial to another without the tongue. Units: semitones. */
const PARTIAL_LEAP = 5;

function partialsCrossed(notes: readonly LineNote[], context: LineContext): number {
  return notes.filter((note) => {
    const next = context.after(note);
    const isPitched = note.midi !== null && next !== null && next.midi !== null;
    return isPitched && next.isSlurredInto && Math.abs(next.midi - note.midi) >= PARTIAL_LEAP;
  }).length;
}

function rhythmChanges(notes: readonly LineNote[]): number {
  const durations = new Set(notes.map(({ length }) => length.toFixed(4)));
  const tuplets = changes(notes.map(({ signs }) => (signs.tuplet ?? [1, 1]).join(':')));
  return durations.size - 1 + tuplets;
}

function changes(values: readonly string[]): number {
  return values.filter((value, n) => n > 0 && value !== values[n - 1]).length;
}

/** How far into the outer fifth of the compass; open strings are no edge, and bars of a keyboard have none. */
function outside(notes: readonly LineNote[], { range, family }: InstrumentProfile): number {
  if (!range || family === 'mallets' || family === 'keys') return 0;
  const margin = (range.high - range.low) / 5;
  return Math.max(
    0,
    ...notes
      .filter(isWritten)
      .map(({ midi }) =>
        Math.max(midi - (range.high - margin), family === 'strings' ? 0 : range.low + margin - midi),
      ),
  );
}
