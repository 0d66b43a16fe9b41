import { alterInKey, letterName, midiOf, toNumber, type Semitones } from '../../music/index.js';
import type { Score, ScoreNote } from '../../score/index.js';
import { articulationOf } from '../line/articulation.js';
import type { LineNote, SoloLine } from '../line/solo-line.js';

/**
 * One note as it stands on paper, with what layers over the music need of it.
 * Shape:  `note` is the ordinal in the solo line, 0 where ties, chords, other voices or other players take it out of it;
 *         `name` is the letter with its alteration, null for unpitched notes and for notes that are not played
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
 */
export function engravedNotes(score: Score, line: SoloLine): EngravedNote[][] {
  const inLine = new Map<string, LineNote>();
  for (const note of line.notes) inLine.set(placeOf(note, note.midi), note);
  const byMeasure = score.measures.map((): Drawn[] => []);
  for (const drawn of inFileOrder(score))
    if (!drawn.note.isRest) byMeasure[drawn.note.measureIndex]?.push(drawn);
  return byMeasure.map((notes, index) => {
    const fifths = score.measures[index]?.fifths ?? 0;
    const voices = [...new Set(notes.map(({ note: { staff, voice } }) => `${staff} ${voice}`))].sort();
    const rank = ({ note: { staff, voice } }: Drawn): number => voices.indexOf(`${staff} ${voice}`);
    return notes
      .map((drawn, n) => ({ drawn, n }))
      .sort((a, b) => rank(a.drawn) - rank(b.drawn) || a.n - b.n)
      .map(({ drawn: { note, isPlayed } }) =>
        isPlayed
          ? engraved(note, inLine.get(placeOf(note, note.written && midiOf(note.written))), fifths)
          : { note: 0, name: null, articulation: null, isGrace: note.isGrace, isOffKey: false },
      );
  });
}

interface Drawn {
  readonly note: ScoreNote;
  readonly isPlayed: boolean;
}

/** Cue notes and hidden ones are drawn too, in between. */
function inFileOrder({ notes, unplayed }: Score): Drawn[] {
  const drawn: Drawn[] = [];
  let from = 0;
  const takePlayed = (end: number): void => {
    for (const note of notes.slice(from, end)) drawn.push({ note, isPlayed: true });
    from = end;
  };
  for (const { note, before } of unplayed) {
    takePlayed(before);
    drawn.push({ note, isPlayed: false });
  }
  takePlayed(notes.length);
  return drawn;
}

function placeOf(
  { measureIndex, onset, isGrace }: Pick<ScoreNote, 'measureIndex' | 'onset' | 'isGrace'>,
  midi: Semitones | null,
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
