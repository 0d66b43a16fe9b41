import { capital, fail, ok, seededRandom, type Random, type Result } from '../base/index.js';
import {
  alterInKey,
  beatUnitOf,
  letterAt,
  meterFrom,
  midiOf,
  quarters,
  staffPlace,
  tonicOf,
  type Meter,
  type Pitch,
} from '../music/index.js';
import { scaleInstrument, type ScaleInstrument } from '../scale/index.js';
import { lineAsMusicXml, type MeasureToWrite, type NoteToWrite } from '../score/index.js';
import { SIGHT_CELLS, SIGHT_LEVELS, type SightLevel } from './sight-levels.data.js';

/** Why no study is written. */
export type SightCode = 'sight-level' | 'sight-instrument';

/** Which study is wished. Shape: the same wish gives the same study; level 1 to 8 */
export interface SightWish {
  readonly level: number;
  readonly instrument: string;
  readonly seed: number;
}

/** A study to be read at sight. Shape: `musicXml` a whole file; the rest is what it says */
export interface SightStudy {
  readonly musicXml: string;
  readonly title: string;
  readonly key: string;
  readonly meter: string;
  readonly bpm: number;
  readonly measures: number;
}

/** Lengths in the tables count these parts of a quarter. */
const PARTS = 24;
const PHRASE = 4;
const SNARE: ScaleInstrument = {
  ...{
    name: 'snare drum',
    low: { step: 'B', alter: 0, octave: 4 },
    high: { step: 'B', alter: 0, octave: 4 },
  },
  ...{ transposition: { diatonic: 0, chromatic: 0, octaveChange: 0 }, clef: 'G' },
};

/**
 * A study for sight-reading, written for a level and an instrument by rule: no two seeds alike.
 * Shape:  phrases of four measures that answer each other; the last closes on the tonic, the others do not
 * Errors: sight-level (not 1 to 8), sight-instrument (its range is not known)
 * Source: our own; tables in sight-levels.data.ts
 */
export function sightStudy({ level, instrument, seed }: SightWish): Result<SightStudy, SightCode> {
  const row = SIGHT_LEVELS.find((one) => one.level === level);
  if (!row) return fail('sight-level', 'level', `There are levels 1 to 8; "${level}" came.`);
  const isDrum = /snare|drum/iu.test(instrument);
  const known = isDrum ? ok(SNARE) : scaleInstrument(instrument);
  if (!known.ok)
    return fail(
      'sight-instrument',
      'instrument',
      `The range of "${instrument}" is not known; name an instrument such as clarinet.`,
    );
  // Levels and instruments share no run of numbers.
  const random = seededRandom(seed * 64 + level);
  const frame = frameOf(row, random);
  const rhythms = rhythmsOf(row, frame, random);
  const tune = isDrum ? null : new Tune({ row, instrument: known.value, frame, random });
  const measures = rhythms.map((cells, n): MeasureToWrite => ({
    ...{ number: String(n + 1), meter: frame.meter, fifths: isDrum ? 0 : frame.fifths, words: null },
    notes: tune ? tune.measure(cells, { n, count: rhythms.length }) : cells.map(strokeOf),
  }));
  const title = `Sight-reading, level ${level}, no. ${seed}`;
  const musicXml = lineAsMusicXml({
    ...{ title, instrument: capital(known.value.name), transposition: known.value.transposition, measures },
    clef: isDrum ? 'percussion' : CLEFS[known.value.clef],
    tempo: { bpm: frame.bpm, unit: beatUnitOf(frame.meter) },
  });
  const mode = frame.isMinor ? 'minor' : 'major';
  const key = isDrum ? 'none' : `${tonicOf(frame.fifths, mode)} ${mode}`;
  return ok({ musicXml, title, key, meter: frame.name, bpm: frame.bpm, measures: measures.length });
}

const CLEFS = { G: 'treble', F: 'bass', C: 'alto' } as const;

/** What holds for a whole study. */
interface Frame {
  readonly meter: Meter;
  readonly name: string;
  readonly fifths: number;
  readonly isMinor: boolean;
  readonly bpm: number;
}

function frameOf({ meters, fifths, minor, bpm }: SightLevel, random: Random): Frame {
  const name = pick(meters, random);
  const meter = meterFrom(name) ?? { groups: [4], beatType: 4 };
  const [slow, fast] = bpm;
  return {
    ...{ meter, name, isMinor: minor && random() < 0.4 },
    fifths: Math.floor(random() * (2 * fifths + 1)) - fifths,
    bpm: Math.round(slow + random() * (fast - slow)),
  };
}

function pick<T>(values: readonly T[], random: Random): T {
  const found = values[Math.min(values.length - 1, Math.floor(random() * values.length))];
  if (found === undefined) throw new RangeError('There is nothing to choose from.');
  return found;
}

/** The rhythm of each measure. Shape: lengths in parts of a quarter, rests negative; a later phrase often takes up an earlier one */
function rhythmsOf(row: SightLevel, frame: Frame, random: Random): number[][] {
  const groups = groupsOf(frame.meter);
  const measures: number[][] = [];
  for (let n = 0; n < row.measures; n += 1) {
    const isEnd = n % PHRASE === PHRASE - 1;
    const model = measures[n - PHRASE] ?? measures[n - 2];
    if (isEnd) measures.push(closing(groups, n === row.measures - 1));
    else if (model && n % PHRASE !== 1 && random() < 0.5) measures.push(model);
    else measures.push(fill(groups, row.cells, random));
  }
  return measures;
}

/** The groups of a measure. Units: parts of a quarter */
function groupsOf({ groups, beatType }: Meter): number[] {
  const beats = groups.reduce((sum, one) => sum + one, 0);
  if (beatType === 4) return Array.from({ length: beats }, () => PARTS);
  if (beats % 3 === 0) return Array.from({ length: beats / 3 }, () => 36);
  return [24, 24, 36];
}

function fill(groups: readonly number[], level: number, random: Random): number[] {
  const notes: number[] = [];
  for (let n = 0; n < groups.length;) {
    const here = groups[n] ?? PARTS;
    const table = here === 36 ? 'compound' : groups.includes(36) ? 'pair' : 'simple';
    // A longer cell stands only where another group of its kind follows, and not across the middle of a measure of four.
    const room = groups[n + 1] === here && table === 'simple' && n % 2 === 0 ? 2 * here : here;
    // A rest is an event: it does not come wherever it could.
    const mayRest = random() < 0.3;
    const cells = SIGHT_CELLS[table].filter(
      ([from, cell]) =>
        (mayRest || cell.every((one) => one > 0)) &&
        from <= level &&
        sumOf(cell) <= room &&
        (n > 0 || (cell[0] ?? 0) > 0),
    );
    // What the level brings anew comes more often.
    const [, cell] = pick([...cells, ...cells.filter(([from]) => from >= level - 1)], random);
    notes.push(...cell);
    n += Math.round(sumOf(cell) / here);
  }
  return notes;
}

function sumOf(cell: readonly number[]): number {
  return cell.reduce((sum, one) => sum + Math.abs(one), 0);
}

/** The end of a phrase: a long note, and time to breathe before the next. */
function closing(groups: readonly number[], isLast: boolean): number[] {
  const whole = sumOf(groups);
  const last = groups.at(-1) ?? PARTS;
  return isLast || groups.length < 2 ? [whole] : [whole - last, -last];
}

function strokeOf(length: number): NoteToWrite {
  return { ...PLAIN, pitches: [], isRest: length < 0, length: quarters(Math.abs(length), PARTS) };
}

const PLAIN = { isTied: false, slurStarts: 0, slurStops: 0, articulations: [] } as const;

/** Degrees of the scale that are at home in each measure of a phrase. */
const HARMONIES = [
  [0, 2, 4],
  [3, 5, 0],
  [4, 6, 1],
  [0, 2, 4],
] as const;

interface MeasurePlace {
  readonly n: number;
  readonly count: number;
}

/** Places on the staff from one to another, both included. */
function placesOf(from: number, to: number): number[] {
  return Array.from({ length: to - from + 1 }, (_, n) => from + n);
}

function nearestTo(place: number, places: readonly number[]): number | undefined {
  return [...places].sort((one, two) => Math.abs(one - place) - Math.abs(two - place))[0];
}

interface TuneWish {
  readonly row: SightLevel;
  readonly instrument: ScaleInstrument;
  readonly frame: Frame;
  readonly random: Random;
}

/** A tune that goes on from measure to measure: steps, now and then a leap that is taken back, chords on the beats. */
class Tune {
  private readonly tonic: number;
  private readonly low: number;
  private readonly high: number;
  private place: number;
  private wayBack = 0;
  private altered = 0;

  private readonly row: SightLevel;
  private readonly frame: Frame;
  private readonly random: Random;

  constructor({ row, instrument, frame, random }: TuneWish) {
    [this.row, this.frame, this.random] = [row, frame, random];
    const [bottom, top] = [staffPlace(instrument.low) + 1, staffPlace(instrument.high) - 1];
    const compass = Math.min(row.compass, top - bottom);
    const name = tonicOf(frame.fifths, frame.isMinor ? 'minor' : 'major').charAt(0);
    const tonics = (from: number, to: number): number[] =>
      placesOf(from, to).filter((place) => letterAt(place).step === name);
    // The middle third of an instrument is where it is read first; the tonic is within reach, or it is the lowest note.
    const wished = Math.round(bottom + (top - bottom - compass) * (0.3 + 0.25 * random()));
    const isWithin = tonics(wished, wished + compass).length > 0;
    this.low = isWithin ? wished : (nearestTo(wished, tonics(bottom, top - compass)) ?? bottom);
    this.high = this.low + compass;
    this.tonic = nearestTo((this.low + this.high) / 2, tonics(this.low, this.high)) ?? this.low;
    this.place = this.tonic;
  }

  measure(cells: readonly number[], where: MeasurePlace): NoteToWrite[] {
    const count = cells.filter((one) => one > 0).length;
    let [heard, at] = [0, 0];
    const notes = cells.map((length): NoteToWrite => {
      const isRest = length < 0;
      const isOnBeat = at % PARTS === 0;
      at += Math.abs(length);
      if (isRest) return { ...PLAIN, pitches: [], isRest, length: quarters(-length, PARTS) };
      heard += 1;
      this.move(where, { isOnBeat, isFirst: heard === 1, isLast: heard === count });
      return { ...PLAIN, pitches: [this.pitch()], isRest, length: quarters(length, PARTS) };
    });
    return this.slurred(this.coloured(this.led(notes)));
  }

  /** To the next note. */
  private move(
    { n, count }: MeasurePlace,
    {
      isOnBeat,
      isFirst,
      isLast,
    }: { readonly isOnBeat: boolean; readonly isFirst: boolean; readonly isLast: boolean },
  ): void {
    if (n === 0 && isFirst) return;
    const isClose = n % PHRASE === PHRASE - 1 && isLast;
    if (isClose) {
      // Questions end on the fifth or the second degree, the answer on the first.
      this.place = n === count - 1 ? this.nearest([0]) : this.nearest([1, 4]);
      return;
    }
    const last = this.place;
    if (isOnBeat) this.place = this.nearest(HARMONIES[n % PHRASE] ?? [0], true);
    if (this.place === last) this.place = this.step(last);
    if (n === count - 2 || n === count - 3) this.place = this.homeward(last);
    this.wayBack = Math.abs(this.place - last) > 2 ? Math.sign(last - this.place) : 0;
  }

  /** In the two measures before the last the tune keeps its end within reach. */
  private homeward(from: number): number {
    const far = (place: number): number => Math.abs(place - this.tonic);
    if (far(this.place) <= this.row.leap) return this.place;
    return far(this.place) < far(from)
      ? this.place
      : from + Math.sign(this.tonic - from) * Math.min(this.row.leap, far(from));
  }

  private step(from: number): number {
    const { row, random } = this;
    const way = this.wayBack === 0 ? (random() < this.upward(from) ? 1 : -1) : this.wayBack;
    const isLeap = this.wayBack === 0 && random() < row.leaps;
    const far = isLeap ? 2 + Math.floor(random() * (row.leap - 1)) : 1;
    const to = from + way * Math.min(far, row.leap);
    return to < this.low || to > this.high ? from - way : to;
  }

  /** How likely it goes up: from below, towards the middle. */
  private upward(from: number): number {
    return 1 - (from - this.low + 1) / (this.high - this.low + 2);
  }

  /** The nearest place of some degrees within the compass and a leap. */
  private nearest(degrees: readonly number[], isVaried = false): number {
    const { low, high, row, place, random } = this;
    const all = placesOf(low, high).filter(
      (one) => degrees.includes(this.degree(one)) && Math.abs(one - place) <= row.leap,
    );
    const near = all.sort((a, b) => Math.abs(a - place) - Math.abs(b - place));
    const second = near[1];
    return isVaried && second !== undefined && random() < row.leaps ? second : (near[0] ?? place);
  }

  /** The degree of the scale at a place, the tonic 0. */
  private degree(place: number): number {
    return (((place - this.tonic) % 7) + 7) % 7;
  }

  private pitch(): Pitch {
    const { step, octave } = letterAt(this.place);
    return { step, octave, alter: alterInKey(step, this.frame.fifths) };
  }

  /** In minor the seventh degree leads where it goes up to the tonic. */
  private led(notes: readonly NoteToWrite[]): NoteToWrite[] {
    return notes.map((note, n) => {
      const [own, after] = [note.pitches[0], notes[n + 1]?.pitches[0]];
      if (!this.frame.isMinor || !own || !after || staffPlace(after) !== staffPlace(own) + 1) return note;
      const isSeventh = this.degree(staffPlace(own)) === 6;
      return isSeventh ? { ...note, pitches: [{ ...own, alter: own.alter + 1 }] } : note;
    });
  }

  /** A neighbour below, between two notes of one pitch, is drawn nearer: the only notes outside of the key. */
  private coloured(notes: readonly NoteToWrite[]): NoteToWrite[] {
    const most = Math.floor((this.row.chromatic * this.row.measures) / 8);
    return notes.map((note, n) => {
      const [before, after] = [notes[n - 1]?.pitches[0], notes[n + 1]?.pitches[0]];
      const [own] = note.pitches;
      if (!before || !after || !own || this.altered >= most) return note;
      const isNeighbour =
        staffPlace(before) === staffPlace(after) && staffPlace(own) === staffPlace(before) - 1;
      const gap = midiOf(before) - midiOf(own);
      if (!isNeighbour || gap !== 2 || this.random() < 0.3) return note;
      this.altered += 1;
      return { ...note, pitches: [{ ...own, alter: own.alter + 1 }] };
    });
  }

  /** From the third level on short notes are slurred in twos, or marked staccato. */
  private slurred(notes: readonly NoteToWrite[]): NoteToWrite[] {
    if (this.row.level < 3 || this.random() < 0.35) return [...notes];
    const isStaccato = this.row.level >= 4 && this.random() < 0.3;
    const out = [...notes];
    for (let n = 0; n + 1 < out.length; n += 2) {
      const [a, b] = [out[n], out[n + 1]];
      if (!a || !b || a.isRest || b.isRest || a.length.num / a.length.den > 1) continue;
      if (isStaccato) [out[n], out[n + 1]] = [short(a), short(b)];
      else
        [out[n], out[n + 1]] = [
          { ...a, slurStarts: 1 },
          { ...b, slurStops: 1 },
        ];
    }
    return out;
  }
}

function short(note: NoteToWrite): NoteToWrite {
  return { ...note, articulations: ['staccato'] };
}
