import { groupBy } from '../../base/index.js';
import { midiOf, toNumber, transposePitch } from '../../music/index.js';
import { secondsTo, soloLine, type LineNote, type Pace } from '../../reading/index.js';
import { inRuns, playedOrder, type Score, type ScoreNote, type Span } from '../../score/index.js';

/**
 * A note that the program asks, at its place in the order of playing.
 * Shape:  `ordinal` counts the notes of its measure from 1 (ties joined, grace notes left out); `midis` what may sound, the
 *         leading note first, empty for a stroke without pitch
 * Units:  `at` and `length` in quarters, `clock` and `lasts` in seconds at the written pace, from the beginning of what is
 *         played; sounding MIDI numbers
 */
export interface AskedNote {
  readonly measureIndex: number;
  readonly ordinal: number;
  /** Which of the played measures it stands in, from 0: a repeat is played twice. */
  readonly pass: number;
  readonly at: number;
  readonly length: number;
  readonly clock: number;
  readonly lasts: number;
  readonly midis: readonly number[];
  /** Whether it begins without a new tongue, bow or stroke. */
  readonly isSlurred: boolean;
  /** Whether other notes sound within it: an ornament, a roll, grace notes before it. */
  readonly isOrnamented: boolean;
  readonly isStaccato: boolean;
  readonly hasFermata: boolean;
}

/** A measure as it is played. Units: as AskedNote; `quarters` its length */
export interface AskedMeasure {
  readonly measureIndex: number;
  readonly number: string;
  readonly at: number;
  readonly quarters: number;
  readonly clock: number;
  readonly lasts: number;
}

/** What a take is held against. Shape: in the order of playing */
export interface AskedMusic {
  readonly notes: readonly AskedNote[];
  readonly measures: readonly AskedMeasure[];
  readonly quarters: number;
  /** How long it lasts at the written pace. Units: seconds */
  readonly seconds: number;
}

/** What of a score is played, and how fast it is written. Shape: no spans for all of it; a pace that is known throughout */
export interface AskedWish {
  readonly spans?: readonly Span[];
  readonly withRepeats: boolean;
  readonly pace: Pace;
}

/**
 * The notes that the program asks, in the order in which they are played.
 * Shape:  no notes where a span has none
 * Units:  as AskedMusic
 */
export function askedMusic(score: Score, { spans = [], withRepeats, pace }: AskedWish): AskedMusic {
  const line = soloLine(score);
  const order = playedOrder(score.order, withRepeats).filter((index) => inRuns(spans, index));
  const chords = chordsOf(score);
  const notes: AskedNote[] = [];
  const measures: AskedMeasure[] = [];
  let [at, clock] = [0, 0];
  for (const [pass, measureIndex] of order.entries()) {
    const measure = score.measures[measureIndex];
    if (!measure) continue;
    const [start, quarters] = [toNumber(measure.start), toNumber(measure.length)];
    const timeOf = (place: number): number => secondsTo(pace, place) - secondsTo(pace, start);
    const lasts = timeOf(start + quarters);
    measures.push({ measureIndex, number: measure.number, at, quarters, clock, lasts });
    const place = { pass, at, clock, timeOf };
    let hasGrace = false;
    for (const note of line.byMeasure[measureIndex] ?? []) {
      if (!note.isGrace)
        notes.push(askedNote(note, { ...place, hasGrace, chord: chordOf(chords.get(placeOf(note))) }));
      hasGrace = note.isGrace;
    }
    at += quarters;
    clock += lasts;
  }
  return { notes, measures, quarters: at, seconds: clock };
}

interface Place {
  readonly pass: number;
  readonly at: number;
  readonly clock: number;
  readonly timeOf: (place: number) => number;
  readonly hasGrace: boolean;
  readonly chord: readonly number[];
}

function askedNote(note: LineNote, { pass, at, clock, timeOf, hasGrace, chord }: Place): AskedNote {
  const { signs, sounding } = note;
  const lead = sounding ? [midiOf(sounding)] : [];
  return {
    measureIndex: note.measureIndex,
    ordinal: note.ordinal,
    pass,
    at: at + toNumber(note.onset),
    length: note.length,
    clock: clock + timeOf(note.start),
    lasts: timeOf(note.start + note.length) - timeOf(note.start),
    midis: [...new Set([...lead, ...chord])],
    isSlurred: note.isSlurredInto,
    isOrnamented: signs.ornaments.length > 0 || signs.tremolo > 0 || hasGrace,
    isStaccato: signs.articulations.some((one) => one.startsWith('staccat')),
    hasFermata: signs.hasFermata,
  };
}

function placeOf({ measureIndex, onset }: Pick<LineNote, 'measureIndex' | 'onset'>): string {
  return `${measureIndex}/${toNumber(onset)}`;
}

/** The notes that begin at each place of a score. */
function chordsOf({ notes }: Score): ReadonlyMap<string, readonly ScoreNote[]> {
  const begun = notes.filter(({ written, isGrace, tieStop }) => written !== null && !isGrace && !tieStop);
  return groupBy(begun, placeOf);
}

/** Units: sounding MIDI numbers */
function chordOf(notes: readonly ScoreNote[] = []): number[] {
  return notes.flatMap(({ written, transposition }) =>
    written ? [midiOf(transposePitch(written, transposition))] : [],
  );
}
