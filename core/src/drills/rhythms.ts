import { midiOf, scaleQuarters, toNumber, type Pitch } from '../music/index.js';
import type { DrillMeasure, DrillNote } from './drill.js';
import { beatQuarters, groupsOf, type NoteGroup } from './groups.js';
import { lengthOf } from './passage-music.js';

/**
 * The measures with the time of each group shared anew; all else as it is.
 * Shape:  groups for which there is no row stay; as long as before, measure by measure
 * Units:  rows in lengths of the group's own notes
 */
export function sharedAnew(
  measures: readonly DrillMeasure[],
  rows: Readonly<Record<number, readonly number[]>>,
): DrillMeasure[] {
  return measures.map((measure) => {
    const shares = new Map<number, number>();
    for (const { from, count } of groupsOf(measure))
      (rows[count] ?? []).forEach((share, n) => shares.set(from + n, share));
    const notes = measure.notes.map((note, n) => {
      const share = shares.get(n) ?? 1;
      return share === 1 ? note : { ...note, length: scaleQuarters(note.length, share * 2, 2) };
    });
    return { ...measure, notes };
  });
}

/**
 * The measures with every other note of even groups left out, the others twice as long: sixteenths become eighths.
 * Shape:  groups of three keep their first note; as long as before
 * Source: common practice, no source
 */
export function strongNotes(measures: readonly DrillMeasure[]): DrillMeasure[] {
  return measures.map((measure) => {
    const kept = new Map<number, number>();
    const dropped = new Set<number>();
    for (const group of groupsOf(measure)) {
      const step = stepOf(group);
      for (let n = 0; n < group.count; n += 1)
        if (n % step === 0) kept.set(group.from + n, step);
        else dropped.add(group.from + n);
    }
    const notes = measure.notes.flatMap((note, n) => {
      if (dropped.has(n)) return [];
      return [{ ...note, length: scaleQuarters(note.length, kept.get(n) ?? 1), slurStarts: 0, slurStops: 0 }];
    });
    return { ...measure, notes };
  });
}

function stepOf({ count }: NoteGroup): number {
  return count === 3 ? 3 : count === 6 ? 3 : count === 2 ? 1 : 2;
}

/**
 * Long and tied notes as tongued notes of the running value, so that their length is felt.
 * Shape:  as long as before; a note is taken where it holds two or more of `value` and lasts a beat, or is tied
 * Units:  `value` in quarters
 * Source: common practice, no source
 */
export function tongued(measures: readonly DrillMeasure[], value: number): DrillMeasure[] {
  return measures.map((measure, n) => {
    const isTiedInto = measures[n - 1]?.notes.at(-1)?.isTied ?? false;
    const notes = measure.notes.flatMap((note, place) => {
      const isJoined = place === 0 ? isTiedInto : (measure.notes[place - 1]?.isTied ?? false);
      const count = toNumber(note.length) / value;
      const isLong = toNumber(note.length) >= beatQuarters(measure.meter) - 1e-6 || note.isTied || isJoined;
      if (note.isRest || !isLong || count < 2 || Math.abs(count - Math.round(count)) > 1e-6)
        return [{ ...note, isTied: false, slurStarts: 0, slurStops: 0 }];
      const length = scaleQuarters(note.length, 1, Math.round(count));
      return Array.from({ length: Math.round(count) }, (_, part) => ({
        ...note,
        length,
        isTied: false,
        slurStarts: 0,
        slurStops: 0,
        articulations: part === 0 ? note.articulations : [],
      }));
    });
    return { ...measure, notes };
  });
}

/** Whether `tongued` would change a passage: a tie, or a note of a beat and more beside shorter ones. */
export function hasLongNotes(measures: readonly DrillMeasure[], value: number): boolean {
  return measures.some((measure) =>
    measure.notes.some(
      ({ isRest, isTied, length }) =>
        !isRest && (isTied || toNumber(length) >= 2 * Math.max(value, beatQuarters(measure.meter)) - 1e-6),
    ),
  );
}

/**
 * The rhythm of the measures on one pitch.
 * Shape:  the pitch that the passage has most, the lowest of equals; slurs and ties stay out, signs stay
 */
export function onOnePitch(measures: readonly DrillMeasure[]): DrillMeasure[] {
  const pitch = usualPitch(measures.flatMap(({ notes }) => notes));
  return measures.map((measure) => ({
    ...measure,
    fifths: measure.fifths,
    notes: measure.notes.map((note) => ({
      ...note,
      pitches: note.isRest || pitch === null ? [] : [pitch],
      slurStarts: 0,
      slurStops: 0,
    })),
  }));
}

function usualPitch(notes: readonly DrillNote[]): Pitch | null {
  const counts = new Map<number, { readonly pitch: Pitch; count: number }>();
  for (const { pitches } of notes)
    for (const pitch of pitches) {
      const known = counts.get(midiOf(pitch));
      if (known) known.count += 1;
      else counts.set(midiOf(pitch), { pitch, count: 1 });
    }
  const [first] = [...counts.values()].sort((a, b) => b.count - a.count || midiOf(a.pitch) - midiOf(b.pitch));
  return first?.pitch ?? null;
}

/**
 * The value that runs through a passage: the shortest that stands in at least a quarter of its notes.
 * Shape:  null without notes
 * Units:  quarters
 */
export function runningValue(measures: readonly DrillMeasure[]): number | null {
  const lengths = measures.flatMap(({ notes }) =>
    notes.filter(({ isRest }) => !isRest).map(({ length }) => toNumber(length)),
  );
  const values = [...new Set(lengths.map((length) => Math.round(length * 1e6)))].sort((a, b) => a - b);
  const running = values.find(
    (value) => lengths.filter((length) => Math.round(length * 1e6) === value).length * 4 >= lengths.length,
  );
  const chosen = running ?? values[0];
  return chosen === undefined ? null : chosen / 1e6;
}

/** The length of all measures together. Units: quarters. */
export function totalQuarters(measures: readonly DrillMeasure[]): number {
  return toNumber(lengthOf(measures.flatMap(({ notes }) => notes)));
}
