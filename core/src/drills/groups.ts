import { beatUnitOf, toNumber, unitLength, type Meter } from '../music/index.js';
import type { DrillMeasure, DrillNote } from './drill.js';

/**
 * Equal notes that fill a beat or a part of it: the groups whose evenness is practised.
 * Shape:  `from` is the place of the first note in its measure; 2, 3, 4, 6 or 8 notes
 */
export interface NoteGroup {
  readonly from: number;
  readonly count: number;
}

/** Sizes of groups that rhythms are made for. */
const SIZES: readonly number[] = [2, 3, 4, 6, 8];

/**
 * The groups of equal notes of a measure, beat by beat.
 * Shape:  notes that are tied, rests and single notes belong to none; in order, none overlaps another
 * Units:  places of notes
 * Source: common practice, no source
 */
export function groupsOf({ notes, meter }: DrillMeasure): NoteGroup[] {
  const groups: NoteGroup[] = [];
  const beat = beatQuarters(meter);
  let from = 0;
  while (from < notes.length) {
    const count = equalIn(notes, from, beat);
    if (SIZES.includes(count)) groups.push({ from, count });
    from += Math.max(1, count);
  }
  return groups;
}

/** The length of a beat. Units: quarters. */
export function beatQuarters(meter: Meter): number {
  return toNumber(unitLength(beatUnitOf(meter)));
}

/** How many equal notes stand from a place to the end of its beat; 0 where they do not end with it. */
function equalIn(notes: readonly DrillNote[], from: number, beat: number): number {
  const first = notes[from];
  if (!first || first.isRest || first.isTied || notes[from - 1]?.isTied) return 0;
  const length = toNumber(first.length);
  const start = startOf(notes, from);
  const end = (Math.floor(start / beat + 1e-6) + 1) * beat;
  const count = Math.round((end - start) / length);
  if (count < 2 || Math.abs(start + count * length - end) > 1e-6) return 0;
  for (let n = from; n < from + count; n += 1) {
    const note = notes[n];
    if (!note || note.isRest || note.isTied || Math.abs(toNumber(note.length) - length) > 1e-6) return 0;
  }
  return count;
}

/** Where a note begins in its measure. Units: quarters. */
export function startOf(notes: readonly DrillNote[], place: number): number {
  return notes.slice(0, place).reduce((sum, { length }) => sum + toNumber(length), 0);
}
