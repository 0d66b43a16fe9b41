import { countBy, roundTo } from '../../base/index.js';
import {
  alterInKey,
  letterAt,
  letterName,
  midiOf,
  pitchName,
  staffPlace,
  type Pitch,
  type QuarterCount,
} from '../../music/index.js';
import type { Score } from '../../score/index.js';
import { hairpinRanges } from '../line/hairpins.js';
import { articulationOf } from '../line/articulation.js';
import type { LineNote, SoloLine } from '../line/solo-line.js';

/** Articulations of one measure by kind; several signs at one note are joined by "+". */
export interface ArticulationCount {
  readonly kind: string;
  readonly measure: string;
  readonly count: number;
}

/** A hairpin. Shape: `startNote` is the ordinal of the note it begins on, from 1; `endMeasure` printed. */
export interface HairpinSpan {
  readonly kind: 'crescendo' | 'diminuendo';
  readonly measure: string;
  readonly startNote: number;
  readonly endMeasure: string;
}

/** What stands in a score, measure by measure. Shape: measures by printed number. Units: quarters. */
export interface Inventory {
  readonly articulations: readonly ArticulationCount[];
  readonly dynamics: readonly { readonly measure: string; readonly mark: string }[];
  readonly hairpins: readonly HairpinSpan[];
  readonly accidentals: readonly {
    readonly measure: string;
    readonly name: string;
    readonly count: number;
  }[];
  readonly names: readonly {
    readonly name: string;
    readonly count: number;
    readonly measures: readonly string[];
  }[];
  readonly range: {
    readonly written: { readonly low: string; readonly high: string } | null;
    readonly sounding: { readonly low: string; readonly high: string } | null;
  };
  readonly ties: readonly {
    readonly measure: string;
    readonly note: string;
    readonly quarters: QuarterCount;
    readonly subdivisions: number;
    readonly subdivision: string;
  }[];
  readonly ornaments: readonly {
    readonly measure: string;
    readonly kind: string;
    readonly note: string;
    readonly neighbour: string | null;
    /** The neighbour on the other side, which a turn has too; null for other ornaments. */
    readonly other: string | null;
    /** What makes the neighbour what it is; null without one. */
    readonly by: 'sign' | 'measure' | 'key' | null;
  }[];
}

/**
 * Counts what stands in a score.
 * Shape:  in the order of the music
 * Units:  see Inventory
 * Source: MusicXML 4.0 for the signs; the neighbour of a trill or turn is the next letter above in the key
 */
export function inventory(score: Score, line: SoloLine): Inventory {
  const numberOf = (index: number): string => score.measures[index]?.number ?? '';
  return {
    articulations: articulations(score, line),
    dynamics: score.marks.dynamics.map(({ measureIndex, mark }) => ({
      measure: numberOf(measureIndex),
      mark,
    })),
    hairpins: hairpins(score, line),
    accidentals: accidentals(score, line),
    names: names(score, line),
    range: { written: rangeOf(line, 'written'), sounding: rangeOf(line, 'sounding') },
    ties: ties(score, line),
    ornaments: ornaments(score, line),
  };
}

function articulations({ measures }: Score, { played }: SoloLine): ArticulationCount[] {
  return played.flatMap((notes, index) =>
    [...countBy(notes.map((note) => articulationOf(note)))].map(([kind, count]) => ({
      kind,
      measure: measures[index]?.number ?? '',
      count,
    })),
  );
}

function hairpins(score: Score, line: SoloLine): HairpinSpan[] {
  const numberOf = (index: number): string => score.measures[index]?.number ?? '';
  return hairpinRanges(score, line).map(({ kind, fromIndex, startNote, lastIndex }) => ({
    kind,
    measure: numberOf(fromIndex),
    startNote,
    endMeasure: numberOf(lastIndex),
  }));
}

const SIGN_TEXT: Readonly<Record<string, string>> = {
  sharp: '#',
  flat: 'b',
  natural: '♮',
  'double-sharp': '##',
  'sharp-sharp': '##',
  'flat-flat': 'bb',
};

function accidentals({ measures }: Score, { byMeasure }: SoloLine): Inventory['accidentals'] {
  return byMeasure.flatMap((notes, index) => {
    const printed = notes.flatMap(({ written, signs: { accidental } }) =>
      written && accidental !== null ? [`${written.step}${SIGN_TEXT[accidental] ?? `(${accidental})`}`] : [],
    );
    return [...countBy(printed)].map(([name, count]) => ({
      measure: measures[index]?.number ?? '',
      name,
      count,
    }));
  });
}

function names({ measures }: Score, line: SoloLine): Inventory['names'] {
  const found = new Map<string, { count: number; measures: string[] }>();
  for (const { written, measureIndex } of line.notes) {
    if (!written) continue;
    const name = letterName(written);
    const entry = found.get(name) ?? { count: 0, measures: [] };
    const measure = measures[measureIndex]?.number ?? '';
    entry.count += 1;
    if (entry.measures.at(-1) !== measure) entry.measures.push(measure);
    found.set(name, entry);
  }
  return [...found]
    .map(([name, entry]) => ({ name, ...entry }))
    .sort((a, b) => b.count - a.count || a.name.localeCompare(b.name));
}

function rangeOf(line: SoloLine, which: 'written' | 'sounding'): { low: string; high: string } | null {
  let low: Pitch | null = null;
  let high: Pitch | null = null;
  for (const note of line.notes) {
    const pitch = note[which];
    if (!pitch) continue;
    if (!low || midiOf(pitch) < midiOf(low)) low = pitch;
    if (!high || midiOf(pitch) > midiOf(high)) high = pitch;
  }
  return low && high ? { low: pitchName(low), high: pitchName(high) } : null;
}

const SUBDIVISIONS = [
  ['thirty-second', 0.125],
  ['sixteenth', 0.25],
  ['eighth-triplet', 1 / 3],
  ['eighth', 0.5],
  ['quarter', 1],
  ['half', 2],
] as const;

/** The note value that runs in a measure: that of its shortest note, a quarter at most. */
export function runningValue(notes: readonly LineNote[]): (typeof SUBDIVISIONS)[number] {
  const shortest = Math.min(...notes.flatMap(({ printed }) => printed), 1);
  return SUBDIVISIONS.findLast(([, length]) => length <= shortest + 1e-6) ?? SUBDIVISIONS[0];
}

function ties({ measures }: Score, line: SoloLine): Inventory['ties'] {
  return line.notes
    .filter(({ printed }) => printed.length > 1)
    .map((note) => {
      const [subdivision, unit] = runningValue(line.played[note.measureIndex] ?? []);
      return {
        measure: measures[note.measureIndex]?.number ?? '',
        note: note.written ? pitchName(note.written) : 'unpitched',
        quarters: roundTo(note.length, 6),
        subdivisions: roundTo(note.length / unit, 3),
        subdivision,
      };
    });
}

const BELOW: ReadonlySet<string> = new Set(['mordent', 'inverted-turn']);

const SIGN_ALTER: Readonly<Record<string, number>> = {
  sharp: 1,
  flat: -1,
  natural: 0,
  'double-sharp': 2,
  'flat-flat': -2,
};

/**
 * The neighbour that an ornament brings in: the next letter above, or below for mordents.
 * Shape:  altered by the accidental at the ornament, else as the letter last stood in the measure, else by the key
 * Source: MusicXML 4.0, element accidental-mark; an accidental holds to the bar line (common practice)
 */
function neighbourOf(
  pitch: Pitch,
  {
    fifths,
    isBelow,
    sign,
    earlier,
  }: { fifths: number; isBelow: boolean; sign: string | null; earlier: readonly LineNote[] },
): Pick<Inventory['ornaments'][number], 'neighbour' | 'by'> {
  const letter = letterAt(staffPlace(pitch) + (isBelow ? -1 : 1));
  const held = earlier.findLast(
    ({ written }) => written?.step === letter.step && written.octave === letter.octave,
  )?.written;
  const inKey = alterInKey(letter.step, fifths);
  const signed = sign === null ? undefined : SIGN_ALTER[sign];
  const neighbour = letterName({ ...letter, alter: signed ?? held?.alter ?? inKey });
  return { neighbour, by: signed !== undefined ? 'sign' : held && held.alter !== inKey ? 'measure' : 'key' };
}

function ornaments({ measures }: Score, line: SoloLine): Inventory['ornaments'] {
  return line.notes.flatMap((note) => {
    const { written, measureIndex, signs, isGrace } = note;
    const measure = measures[measureIndex];
    const name = written ? pitchName(written) : 'unpitched';
    const kinds = [...signs.ornaments, ...(isGrace ? [signs.graceSlash ? 'grace-slashed' : 'grace'] : [])];
    const own = line.byMeasure[measureIndex] ?? [];
    return kinds.map((kind) => {
      const base = { measure: measure?.number ?? '', kind, note: name };
      if (!written || !measure || !/^(?:trill|turn|mordent|inverted|delayed|shake)/u.test(kind))
        return { ...base, neighbour: null, other: null, by: null };
      const around = { fifths: measure.fifths, earlier: own.slice(0, own.indexOf(note)) };
      const isBelow = BELOW.has(kind);
      const beyond = neighbourOf(written, { ...around, isBelow: !isBelow, sign: null }).neighbour;
      return {
        ...base,
        ...neighbourOf(written, { ...around, isBelow, sign: signs.ornamentAccidental }),
        other: kind.includes('turn') ? beyond : null,
      };
    });
  });
}
