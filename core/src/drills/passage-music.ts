import {
  addQuarters,
  quarters,
  toNumber,
  ZERO,
  type Meter,
  type Pitch,
  type Quarters,
} from '../music/index.js';
import { soloLine, type LineNote } from '../reading/index.js';
import type { Score, ScoreMeasure, Span } from '../score/index.js';
import type { DrillMeasure, DrillNote } from './drill.js';

/** Lengths of notes are shares of a quarter that this number holds: tuplets of 3, 5, 7 and 9 down to 128ths. */
const SHARES = 10_080;

/**
 * A passage as drills take it: its notes and rests measure by measure, without gaps.
 * Shape:  notes that reach over a bar line are cut there and tied; grace notes are left out
 * Units:  quarters
 */
export interface PassageMusic {
  readonly title: string;
  readonly instrument: string;
  readonly clef: string | null;
  readonly fifths: number;
  readonly measures: readonly DrillMeasure[];
  /** The measures as the score has them, with their index. */
  readonly places: readonly ScoreMeasure[];
}

/**
 * The music of a passage for its drills.
 * Shape:  one measure for each of the span
 * Units:  quarters
 */
export function passageMusic(score: Score, { fromIndex, endIndex }: Span): PassageMusic {
  const places = score.measures.slice(fromIndex, endIndex);
  const line = soloLine(score);
  const measures = places.map((place) => ({
    number: place.number,
    meter: place.meter,
    fifths: place.fifths,
    words: null,
    notes: notesIn(place, line.notes, chordsOf(score, place.index)),
  }));
  return {
    title: score.title ?? '',
    instrument: score.instrument,
    clef: places[0]?.clef ?? null,
    fifths: places[0]?.fifths ?? 0,
    measures,
    places,
  };
}

/** The pitches that begin at each place of a measure. */
function chordsOf({ notes, measures }: Score, index: number): ReadonlyMap<string, readonly Pitch[]> {
  const chords = new Map<string, Pitch[]>();
  const start = measures[index]?.start;
  if (!start) return chords;
  for (const { measureIndex, onset, length, isGrace, written } of notes) {
    if (measureIndex !== index || isGrace || written === null) continue;
    const key = `${toNumber(onset).toFixed(6)} ${toNumber(length).toFixed(6)}`;
    chords.set(key, [...(chords.get(key) ?? []), written]);
  }
  return chords;
}

/** The notes and rests of one measure in order, its gaps filled. */
function notesIn(
  place: ScoreMeasure,
  line: readonly LineNote[],
  chords: ReadonlyMap<string, readonly Pitch[]>,
): DrillNote[] {
  const from = toNumber(place.start);
  const end = from + toNumber(place.length);
  const notes: DrillNote[] = [];
  let at = from;
  for (const note of line) {
    const stop = note.start + note.length;
    if (note.isGrace || stop <= from + 1e-6 || note.start >= end - 1e-6) continue;
    const begin = Math.max(from, note.start);
    if (begin > at + 1e-6) notes.push(restOf(exact(begin - at), place.number));
    notes.push(
      sounded(note, {
        place,
        length: exact(Math.min(end, stop) - begin),
        isTied: stop > end + 1e-6,
        isBegun: note.start < from - 1e-6,
        chords,
      }),
    );
    at = Math.min(end, stop);
  }
  if (end > at + 1e-6) notes.push(restOf(exact(end - at), place.number));
  return notes;
}

interface SoundedIn {
  readonly place: ScoreMeasure;
  readonly length: Quarters;
  readonly isTied: boolean;
  readonly isBegun: boolean;
  readonly chords: ReadonlyMap<string, readonly Pitch[]>;
}

function sounded(note: LineNote, { place, length, isTied, isBegun, chords }: SoundedIn): DrillNote {
  const key = `${toNumber(note.onset).toFixed(6)} ${(note.printed[0] ?? 0).toFixed(6)}`;
  const chord = note.chordSize > 1 && !isBegun ? chords.get(key) : undefined;
  return {
    measure: place.number,
    pitches: chord ?? (note.written === null ? [] : [note.written]),
    isRest: false,
    length,
    isTied,
    slurStarts: isBegun ? 0 : note.signs.slurStarts,
    slurStops: isTied ? 0 : note.endsSlur ? Math.max(1, note.signs.slurStops) : 0,
    articulations: isBegun ? [] : note.signs.articulations,
  };
}

/** A rest. Units: quarters. */
export function restOf(length: Quarters, measure: string): DrillNote {
  return {
    measure,
    pitches: [],
    isRest: true,
    length,
    isTied: false,
    slurStarts: 0,
    slurStops: 0,
    articulations: [],
  };
}

/** A length as an exact share of a quarter. */
export function exact(length: number): Quarters {
  return quarters(Math.round(length * SHARES), SHARES);
}

/** The length of the notes of a measure. Units: quarters. */
export function lengthOf(notes: readonly DrillNote[]): Quarters {
  return notes.reduce((sum, { length }) => addQuarters(sum, length), ZERO);
}

/** The meter that a measure of this length gets. Shape: null where no meter has it */
export function meterOf(length: Quarters): Meter | null {
  const beatType = Math.max(4, length.den * 4);
  if (beatType > 64 || (beatType & (beatType - 1)) !== 0) return null;
  const beats = (length.num * beatType) / (length.den * 4);
  return Number.isInteger(beats) && beats >= 1 ? { groups: [beats], beatType } : null;
}

/** The measures with slurs that begin and end within them only. */
export function balanced(measures: readonly DrillMeasure[]): DrillMeasure[] {
  const open: { readonly measure: number; readonly note: number }[] = [];
  const kept = new Map<string, { starts: number; stops: number }>();
  const at = (measure: number, note: number): { starts: number; stops: number } => {
    const key = `${measure} ${note}`;
    const found = kept.get(key) ?? { starts: 0, stops: 0 };
    kept.set(key, found);
    return found;
  };
  measures.forEach(({ notes }, measure) => {
    notes.forEach(({ slurStarts, slurStops }, note) => {
      for (let n = 0; n < slurStops; n += 1) {
        const begun = open.pop();
        if (!begun) break;
        at(begun.measure, begun.note).starts += 1;
        at(measure, note).stops += 1;
      }
      for (let n = 0; n < slurStarts; n += 1) open.push({ measure, note });
    });
  });
  return measures.map((measure, m) => ({
    ...measure,
    notes: measure.notes.map((note, n) => {
      const { starts, stops } = kept.get(`${m} ${n}`) ?? { starts: 0, stops: 0 };
      return { ...note, slurStarts: starts, slurStops: stops };
    }),
  }));
}
