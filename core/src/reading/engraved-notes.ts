import { alterInKey, letterName, midiOf, toNumber } from '../music/index.js';
import type { Score, ScoreNote } from '../score/index.js';
import { articulationOf } from './inventory.js';
import type { LineNote, SoloLine } from './solo-line.js';

/**
 * One note as it stands on paper, with what layers over the music need of it.
 * Shape:  `note` is the ordinal in the solo line, 0 where ties, chords or other voices take it out of it; `name` is the
 *         letter with its alteration, null for unpitched notes
 * Units:  none
 * Errors: none
 * Source: none
 */
export interface EngravedNote {
  readonly note: number;
  readonly name: string | null;
  readonly articulation: string | null;
  readonly isGrace: boolean;
  readonly isOffKey: boolean;
}

/**
 * The notes of every measure in the order in which engraving draws them: voice by voice, rests left out.
 * Shape:  one list a measure
 * Units:  none
 * Errors: none
 * Source: none
 */
export function engravedNotes(score: Score, line: SoloLine): EngravedNote[][] {
  const inLine = new Map<string, LineNote>();
  for (const note of line.notes) inLine.set(placeOf(note, note.midi), note);
  const byMeasure = score.measures.map((): ScoreNote[] => []);
  for (const note of score.notes) if (!note.isRest) byMeasure[note.measureIndex]?.push(note);
  return byMeasure.map((notes, index) => {
    const fifths = score.measures[index]?.fifths ?? 0;
    const voices = [...new Set(notes.map(({ staff, voice }) => `${staff} ${voice}`))].sort();
    const rank = ({ staff, voice }: ScoreNote): number => voices.indexOf(`${staff} ${voice}`);
    return notes
      .map((note, n) => ({ note, n }))
      .sort((a, b) => rank(a.note) - rank(b.note) || a.n - b.n)
      .map(({ note }) =>
        engraved(note, inLine.get(placeOf(note, note.written && midiOf(note.written))), fifths),
      );
  });
}

function placeOf(
  { measureIndex, onset, isGrace }: Pick<ScoreNote, 'measureIndex' | 'onset' | 'isGrace'>,
  midi: number | null,
): string {
  return [measureIndex, toNumber(onset).toFixed(4), isGrace ? 'g' : 'n', midi ?? 'x'].join(' ');
}

function engraved(note: ScoreNote, known: LineNote | undefined, fifths: number): EngravedNote {
  const { written, isGrace } = note;
  return {
    note: known?.ordinal ?? 0,
    name: written && letterName(written),
    articulation: known && !isGrace ? articulationOf(known) : null,
    isGrace,
    isOffKey: written !== null && written.alter !== alterInKey(written.step, fifths),
  };
}
