import { seededRandom, type Random } from '../../base/index.js';
import { alterInKey, letterAt } from '../../music/index.js';
import { readScore, type Score } from '../../score/index.js';
import { bytesOf, measure, partwise } from '../../score/testing/music-xml.js';

/** A note of a study that specs write. Shape: `place` counts letters above C0; lengths in quarters. */
export interface StudyNote {
  place: number;
  /** Semitones off the key. */
  off: number;
  readonly quarters: number;
  articulation: string | null;
  readonly beam?: 'begin' | 'continue' | 'end';
}

/** A measure of a study. Shape: `hairpinFrom` is the ordinal of the note under which a crescendo begins, from 1. */
export interface StudyMeasure {
  notes: StudyNote[];
  hairpinFrom: number | null;
}

/** A study with nothing in it that a reader should find, before traps are planted. */
export interface Study {
  readonly fifths: number;
  readonly meter: readonly [beats: number, beatType: number];
  readonly measures: StudyMeasure[];
}

const DIVISIONS = 12;

const RHYTHMS: Readonly<Record<string, readonly (readonly number[])[]>> = {
  '4/4': [
    [1, 1, 0.5, 0.5, 1],
    [0.5, 0.5, 1, 1, 1],
    [1.5, 0.5, 1, 1],
    [1, 0.5, 0.5, 0.5, 0.5, 1],
    [0.5, 0.5, 0.5, 0.5, 1, 1],
  ],
  '3/4': [
    [1, 1, 1],
    [1, 0.5, 0.5, 1],
    [0.5, 0.5, 0.5, 0.5, 1],
    [1, 1, 0.5, 0.5],
  ],
  '6/8': [
    [0.5, 0.5, 0.5, 0.5, 0.5, 0.5],
    [1, 0.5, 1, 0.5],
    [1.5, 0.5, 0.5, 0.5],
    [0.5, 0.5, 0.5, 1, 0.5],
  ],
};

/**
 * A plain study: notes of the key in a random walk of steps and thirds that turns often, no signs, no measure like
 * another.
 * Shape:  the same study for the same seed
 * Units:  see Study
 * Source: composed by chance for these specs
 */
export function plainStudy(
  seed: number,
  { measures = 32, meter }: { measures?: number; meter?: string } = {},
): Study {
  const random = seededRandom(seed);
  const kinds = Object.keys(RHYTHMS);
  const kind = meter ?? kinds[whole(random, kinds.length)] ?? '4/4';
  const [beats = 4, beatType = 4] = kind.split('/').map(Number);
  const rhythms = RHYTHMS[kind] ?? [];
  let place = 35 + whole(random, 5);
  let way = 1;
  const study: Study = { fifths: whole(random, 9) - 4, meter: [beats, beatType], measures: [] };
  while (study.measures.length < measures) {
    const rhythm = rhythms[whole(random, rhythms.length)] ?? [];
    const notes = rhythm.map((quarters): StudyNote => {
      // Turning after at most three steps keeps runs and arpeggios out of a plain study.
      if (random() < 0.45 || place > 43 || place < 31) way = place > 40 ? -1 : place < 34 ? 1 : -way;
      place += way * (random() < 0.6 ? 1 : 2);
      return { place, off: 0, quarters, articulation: null };
    });
    study.measures.push({ notes, hairpinFrom: null });
  }
  return study;
}

function whole(random: Random, below: number): number {
  return Math.floor(random() * below);
}

/** Eighths beamed in groups of so many. */
export function beamed(places: readonly number[], size: number): StudyNote[] {
  return places.map((place, n) => ({
    place,
    off: 0,
    quarters: 0.5,
    articulation: null,
    beam: n % size === 0 ? 'begin' : n % size === size - 1 ? 'end' : 'continue',
  }));
}

/** A deep copy of a measure, to be planted elsewhere. */
export function copyOf({ notes, hairpinFrom }: StudyMeasure): StudyMeasure {
  return { notes: notes.map((note) => ({ ...note })), hairpinFrom };
}

/**
 * The study as a score that went through the MusicXML reader.
 * Shape:  `shift` moves it up by so many fifths' worth of key and letters: see transposed
 * Units:  ♩=96
 * Errors: throws where the reader refuses it
 * Source: MusicXML 4.0
 */
export function scoreOf(study: Study, instrument = 'Study'): Score {
  const xml = study.measures.map((one, n) => measure(String(n + 1), measureXml(study, one, n))).join('');
  const read = readScore(bytesOf(partwise({ P1: { name: instrument, measures: xml } })), { partId: null });
  if (!read.ok) throw new Error(read.issues.map(({ message }) => message).join(' '));
  return read.value;
}

function measureXml({ fifths, meter }: Study, { notes, hairpinFrom }: StudyMeasure, index: number): string {
  const [beats, beatType] = meter;
  const first =
    `<attributes><divisions>${DIVISIONS}</divisions><key><fifths>${fifths}</fifths></key><time><beats>${beats}</beats><beat-type>${beatType}</beat-type></time></attributes>` +
    '<direction><direction-type><metronome><beat-unit>quarter</beat-unit><per-minute>96</per-minute></metronome></direction-type></direction>' +
    '<direction><direction-type><dynamics><mf/></dynamics></direction-type></direction>';
  const altered = new Map<number, number>();
  const body = notes.map((note, n) => {
    const wedge =
      hairpinFrom === n + 1
        ? '<direction><direction-type><wedge type="crescendo"/></direction-type></direction>'
        : '';
    return wedge + noteXml(note, fifths, altered);
  });
  const stop =
    hairpinFrom === null
      ? ''
      : '<direction><direction-type><wedge type="stop"/></direction-type></direction>';
  return (index === 0 ? first : '') + body.join('') + stop;
}

/** An accidental is printed where the alteration changes within its measure, never as a courtesy. */
function noteXml(note: StudyNote, fifths: number, altered: Map<number, number>): string {
  const { step, octave } = letterAt(note.place);
  const inKey = alterInKey(step, fifths);
  const alter = inKey + note.off;
  const sign =
    alter === (altered.get(note.place) ?? inKey)
      ? ''
      : `<accidental>${['flat-flat', 'flat', 'natural', 'sharp', 'double-sharp'][alter + 2] ?? ''}</accidental>`;
  altered.set(note.place, alter);
  const beam = note.beam ? `<beam number="1">${note.beam}</beam>` : '';
  const notations =
    note.articulation === null
      ? ''
      : `<notations><articulations><${note.articulation}/></articulations></notations>`;
  return `<note><pitch><step>${step}</step><alter>${alter}</alter><octave>${octave}</octave></pitch><duration>${Math.round(note.quarters * DIVISIONS)}</duration>${sign}${beam}${notations}</note>`;
}
