import { addQuarters, compareQuarters, midiOf, transposePitch, type Quarters } from '../music/index.js';
import type { Score, ScoreNote, SoundedNote } from './model.js';

/**
 * The notes as they sound: pitch transposed, tied notes joined, rests and unpitched strokes left out.
 * Shape:  in the order of the file's printed notes; grace notes included with length 0
 * Units:  as SoundedNote
 * Source: MusicXML 4.0, elements tie and transpose
 */
export function soundedNotes(score: Pick<Score, 'measures' | 'notes'>): SoundedNote[] {
  const sounded: SoundedNote[] = [];
  const open = new Map<string, { place: number; end: Quarters }>();
  for (const note of score.notes) {
    if (note.written === null || note.isRest) continue;
    const start = addQuarters(score.measures[note.measureIndex]?.start ?? note.onset, note.onset);
    const key = `${note.staff}/${midiOf(note.written)}`;
    const held = note.tieStop ? open.get(key) : undefined;
    const end = addQuarters(start, note.length);
    const joins =
      held !== undefined && compareQuarters(held.end, start) === 0 ? sounded[held.place] : undefined;
    const place = joins && held ? held.place : sounded.length;
    sounded[place] = joins ? join(joins, note) : sound(note, note.written);
    if (note.tieStart) open.set(key, { place, end });
    else open.delete(key);
  }
  return sounded;
}

function join(held: SoundedNote, next: ScoreNote): SoundedNote {
  return {
    ...held,
    length: addQuarters(held.length, next.length),
    tieStart: next.tieStart,
    printed: held.printed + 1,
  };
}

function sound(note: ScoreNote, written: SoundedNote['written']): SoundedNote {
  return { ...note, written, sounding: transposePitch(written, note.transposition), printed: 1 };
}
