import {
  addQuarters,
  compareQuarters,
  midiOf,
  toNumber,
  transposePitch,
  type Pitch,
  type Quarters,
  type Semitones,
} from '../../music/index.js';
import type { NoteSigns, Score, ScoreNote } from '../../score/index.js';

/**
 * One note of the solo line: ties joined, the top note of a chord, grace notes kept with length 0.
 * Shape:  `ordinal` counts the notes of its measure from 1, grace notes and continuations of ties left out
 * Units:  `start` and `length` in quarters from the beginning, repeats not taken; MIDI numbers of the written pitch
 */
export interface LineNote {
  readonly measureIndex: number;
  readonly ordinal: number;
  readonly onset: Quarters;
  readonly start: number;
  readonly length: number;
  readonly written: Pitch | null;
  readonly sounding: Pitch | null;
  readonly midi: Semitones | null;
  readonly signs: NoteSigns;
  readonly isGrace: boolean;
  /** Whether it begins under a slur that began before: it is not tongued, not bowed anew. */
  readonly isSlurredInto: boolean;
  /** Whether a slur ends on it. */
  readonly endsSlur: boolean;
  /** How many notes sound at once: 2 for a double stop. */
  readonly chordSize: number;
  /** Lengths of the printed notes that ties join. */
  readonly printed: readonly number[];
}

/** A note with a pitch. */
export type WrittenNote = LineNote & { readonly written: Pitch; readonly midi: Semitones };

/** Whether a note has a pitch. */
export function isWritten(note: LineNote): note is WrittenNote {
  return note.written !== null;
}

/** Whether a note begins as another ends, with no rest between. */
export function isJoined(note: Pick<LineNote, 'start' | 'length'>, next: Pick<LineNote, 'start'>): boolean {
  return Math.abs(note.start + note.length - next.start) < 1e-6;
}

/** A rest of the solo line. Units: quarters from the beginning. */
export interface LineRest {
  readonly measureIndex: number;
  readonly start: number;
  readonly length: number;
}

/** The music a solo player reads, one note at a time. */
export interface SoloLine {
  readonly notes: readonly LineNote[];
  readonly rests: readonly LineRest[];
  /** Notes of each measure, grace notes included. */
  readonly byMeasure: readonly (readonly LineNote[])[];
  /** The same without grace notes. */
  readonly played: readonly (readonly LineNote[])[];
  readonly restsByMeasure: readonly (readonly LineRest[])[];
}

/**
 * The leading voice of a score as a line of notes.
 * Shape:  notes in time order; of several voices the one with the highest note of each measure leads
 * Units:  quarters
 */
export function soloLine(score: Pick<Score, 'measures' | 'notes'>): SoloLine {
  const lead = leadingNotes(score);
  const notes: LineNote[] = [];
  const rests: LineRest[] = [];
  let openSlurs = 0;
  let held: { midi: Semitones | null; end: Quarters } | null = null;
  for (const note of lead) {
    const measureStart = score.measures[note.measureIndex]?.start ?? note.onset;
    const start = addQuarters(measureStart, note.onset);
    if (note.isRest) {
      rests.push({ measureIndex: note.measureIndex, start: toNumber(start), length: toNumber(note.length) });
      held = null;
      continue;
    }
    const midi = note.written && midiOf(note.written);
    const last = notes.at(-1);
    const joins =
      held !== null && last && note.tieStop && held.midi === midi && compareQuarters(held.end, start) === 0;
    if (joins) notes[notes.length - 1] = joined(last, note);
    else {
      notes.push(
        lineNote(note, { start: toNumber(start), isSlurredInto: openSlurs > 0 && !note.isGrace, ordinal: 0 }),
      );
    }
    openSlurs = Math.max(0, openSlurs + note.signs.slurStarts - note.signs.slurStops);
    if (!note.isGrace) held = note.tieStart ? { midi, end: addQuarters(start, note.length) } : null;
  }
  const numbered = withOrdinals(notes);
  const byMeasure = inMeasures(numbered, score.measures.length);
  return {
    notes: numbered,
    rests,
    byMeasure,
    played: byMeasure.map((own) => own.filter(({ isGrace }) => !isGrace)),
    restsByMeasure: inMeasures(rests, score.measures.length),
  };
}

function inMeasures<T extends { readonly measureIndex: number }>(items: readonly T[], count: number): T[][] {
  const byMeasure = Array.from({ length: count }, (): T[] => []);
  for (const item of items) byMeasure[item.measureIndex]?.push(item);
  return byMeasure;
}

function withOrdinals(notes: readonly LineNote[]): LineNote[] {
  let measure = -1;
  let ordinal = 0;
  return notes.map((note) => {
    if (note.measureIndex !== measure) [measure, ordinal] = [note.measureIndex, 0];
    if (!note.isGrace) ordinal += 1;
    return { ...note, ordinal: Math.max(1, ordinal) };
  });
}

type LeadNote = ScoreNote & Pick<LineNote, 'chordSize'>;

/** The voice that leads in each measure, the top note of its chords. */
function leadingNotes({ measures, notes }: Pick<Score, 'measures' | 'notes'>): LeadNote[] {
  return inMeasures(notes, measures.length).flatMap((own) => {
    const voices = new Set(own.map(({ voice }) => voice));
    const voice = voices.size <= 1 ? null : leadingVoice(own);
    const lead = voice === null ? own : own.filter((note) => note.voice === voice);
    return topOfChords(lead);
  });
}

function leadingVoice(notes: readonly ScoreNote[]): string {
  const top = new Map<string, number>();
  for (const { voice, written } of notes)
    if (written) top.set(voice, Math.max(top.get(voice) ?? -Infinity, midiOf(written)));
  const [first] = [...top].sort((a, b) => b[1] - a[1]);
  return first?.[0] ?? notes[0]?.voice ?? '1';
}

function topOfChords(notes: readonly ScoreNote[]): LeadNote[] {
  const lead: LeadNote[] = [];
  for (const note of notes) {
    const last = lead.at(-1);
    if (!note.isChordMember || !last) {
      lead.push({ ...note, chordSize: 1 });
      continue;
    }
    const isTop = note.written && last.written && midiOf(note.written) > midiOf(last.written);
    // The chord's signs stand at its first note.
    const top = isTop ? { ...note, isChordMember: false, signs: last.signs } : last;
    lead[lead.length - 1] = { ...top, chordSize: last.chordSize + 1 };
  }
  return lead;
}

function lineNote(
  note: LeadNote,
  {
    start,
    isSlurredInto,
    ordinal,
  }: { readonly start: number; readonly isSlurredInto: boolean; readonly ordinal: number },
): LineNote {
  const { written } = note;
  return {
    measureIndex: note.measureIndex,
    ordinal,
    onset: note.onset,
    start,
    length: toNumber(note.length),
    written,
    sounding: written && transposePitch(written, note.transposition),
    midi: written && midiOf(written),
    signs: note.signs,
    isGrace: note.isGrace,
    isSlurredInto,
    endsSlur: note.signs.slurStops > 0,
    chordSize: note.chordSize,
    printed: [toNumber(note.length)],
  };
}

function joined(held: LineNote, next: ScoreNote): LineNote {
  const length = toNumber(next.length);
  return {
    ...held,
    length: held.length + length,
    endsSlur: held.endsSlur || next.signs.slurStops > 0,
    printed: [...held.printed, length],
  };
}

/** The ordinal of the note that sounds or comes next at a place of a measure; the last one's behind them all. */
export function noteFrom({ played }: SoloLine, measureIndex: number, onset: Quarters): number {
  const notes = played[measureIndex] ?? [];
  const place = toNumber(onset);
  const at = notes.findIndex((note) => toNumber(note.onset) + note.length > place + 1e-9);
  return at < 0 ? Math.max(1, notes.length) : at + 1;
}
