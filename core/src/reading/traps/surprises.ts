import { groupBy } from '../../base/index.js';
import { alterInKey, letterName, pitchName, staffPlace, toNumber, type Pitch } from '../../music/index.js';
import type { Score } from '../../score/index.js';
import { isWritten, type LineNote, type SoloLine, type WrittenNote } from '../line/solo-line.js';

/** An accidental that is easy to miss. Shape: `note` as written, with octave; `ordinal` in the measure, from 1. */
export interface Surprise {
  readonly measure: string;
  readonly note: string;
  readonly ordinal: number;
  readonly why: string;
}

/** An alteration off the key that comes at most so often in the piece is rare (our own knee). */
const RARE = 3;
const SMALLEST_PIECE = 24;
/** A sign further back than so many notes is easily forgotten within its measure (our own knee). */
const FORGOTTEN_AFTER = 3;

/**
 * Finds notes whose alteration surprises: back in the key with no sign after an altered one, altered in one octave and
 * not in the other, still altered by a sign far back, off the key and rare, or out of a sequence.
 * Shape:  in the order of the music; one entry a note, the weightiest reason
 * Units:  printed measure numbers
 * Source: MusicXML 4.0 for the signs; an accidental holds to the bar line and in its own octave (common practice)
 */
export function surprises(score: Score, line: SoloLine): Surprise[] {
  const rare = rareNames(score, line);
  const broken = brokenSequences(score, line);
  return line.byMeasure.flatMap((notes, index) =>
    notes.filter(isWritten).flatMap((note, place, own): Surprise[] => {
      // Another key makes other notes plain.
      const isSameKey = fifthsAt(score, index - 1) === fifthsAt(score, index);
      const before = isSameKey ? (line.byMeasure[index - 1] ?? []).filter(isWritten) : [];
      const why =
        reverted(note, own.slice(0, place), { before, fifths: fifthsAt(score, index) }) ??
        forgotten(note, own.slice(0, place), fifthsAt(score, index)) ??
        (rare.has(note) ? rareText(note, rare.get(note) ?? 1) : null) ??
        broken.get(note) ??
        null;
      const measure = score.measures[index]?.number ?? '';
      return why === null ? [] : [{ measure, note: pitchName(note.written), ordinal: note.ordinal, why }];
    }),
  );
}

function fifthsAt({ measures }: Score, index: number): number {
  return measures[index]?.fifths ?? 0;
}

function isOffKey({ step, alter }: Pitch, fifths: number): boolean {
  return alter !== alterInKey(step, fifths);
}

/** In the key again and without a sign, while the same letter was altered just before. */
function reverted(
  note: WrittenNote,
  earlier: readonly WrittenNote[],
  { before, fifths }: { readonly before: readonly WrittenNote[]; readonly fifths: number },
): string | null {
  if (note.signs.accidental !== null || isOffKey(note.written, fifths)) return null;
  const { step, octave } = note.written;
  const same = earlier.filter(({ written }) => written.step === step);
  const other = same.findLast(({ written }) => written.octave !== octave && isOffKey(written, fifths));
  if (other && !same.some(({ written }) => written.octave === octave))
    return `${letterName(note.written)} here, though ${pitchName(other.written)} stands in the same measure an octave away, and no courtesy sign`;
  if (same.length > 0) return null;
  const last = before.findLast(({ written }) => written.step === step);
  return last && isOffKey(last.written, fifths)
    ? `${spoken(note.written)} again after ${letterName(last.written)} in the measure before, and no courtesy sign`
    : null;
}

function spoken(pitch: Pitch): string {
  return pitch.alter === 0 ? `${pitch.step}♮` : letterName(pitch);
}

/** Altered by a sign that stands further back in the measure. */
function forgotten(note: WrittenNote, earlier: readonly WrittenNote[], fifths: number): string | null {
  if (note.signs.accidental !== null || !isOffKey(note.written, fifths)) return null;
  const last = earlier.findLastIndex(({ written }) => pitchName(written) === pitchName(note.written));
  const between = earlier.length - last - 1;
  return last >= 0 && between >= FORGOTTEN_AFTER
    ? `still ${letterName(note.written)} from the sign ${between + 1} notes earlier`
    : null;
}

/** First notes of a measure with an alteration that hardly ever comes, and how often it comes. */
function rareNames(score: Score, { notes }: SoloLine): Map<LineNote, number> {
  const rare = new Map<LineNote, number>();
  if (notes.length < SMALLEST_PIECE) return rare;
  const offKey = notes
    .filter(isWritten)
    .filter(({ written, measureIndex }) => isOffKey(written, fifthsAt(score, measureIndex)));
  for (const own of groupBy(offKey, ({ written }) => letterName(written)).values())
    if (own.length <= RARE)
      own.forEach((note, n) => {
        if (own[n - 1]?.measureIndex !== note.measureIndex) rare.set(note, own.length);
      });
  return rare;
}

function rareText({ written }: LineNote, count: number): string {
  const name = written ? spoken(written) : '';
  return count === 1
    ? `the only ${name} of the piece, against the key`
    : `one of ${count} ${name} in the piece, against the key`;
}

/** Measures that move one shape by step: the note that leaves the shape. */
function brokenSequences(score: Score, { played }: SoloLine): Map<LineNote, string> {
  const shapes = played.map((notes) => shapeOf(notes));
  const found = new Map<LineNote, string>();
  shapes.forEach((shape, index) => {
    const [first, second] = [shapes[index - 2], shapes[index - 1]];
    if (!shape || !first || !second || shape.steps.length < 4) return;
    const isSequence =
      first.rhythm === second.rhythm &&
      second.rhythm === shape.rhythm &&
      first.steps.join() === second.steps.join() &&
      first.place !== second.place &&
      shape.place - second.place === second.place - first.place;
    const off = shape.steps.flatMap((step, n) => (step === second.steps[n] ? [] : [n]));
    const note = isSequence && off.length === 1 ? shape.notes[off[0] ?? 0] : undefined;
    const model = score.measures[index - 1]?.number ?? '';
    if (note)
      found.set(
        note,
        `leaves the sequence that measures ${score.measures[index - 2]?.number ?? ''} and ${model} set up`,
      );
  });
  return found;
}

interface Shape {
  readonly notes: readonly LineNote[];
  readonly rhythm: string;
  readonly place: number;
  /** Letters above the first note. */
  readonly steps: readonly number[];
}

function shapeOf(notes: readonly LineNote[]): Shape | null {
  if (!notes.every(isWritten)) return null;
  const places = notes.map(({ written }) => staffPlace(written));
  const place = places[0];
  if (place === undefined) return null;
  return {
    notes,
    place,
    rhythm: notes.map((note) => `${toNumber(note.onset)}:${note.length}`).join(' '),
    steps: places.map((own) => own - place),
  };
}
