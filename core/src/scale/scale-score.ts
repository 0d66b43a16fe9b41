import { ok, type Result } from '../base/index.js';
import type { BeatUnit, Bpm, Pitch, Step } from '../music/index.js';
import { tempoXml, transposeXml, xmlText } from '../score/index.js';
import type { ScaleNoteValue } from './note-values.data.js';
import {
  scaleNotes,
  writtenKey,
  type ScaleCode,
  type ScaleInstrument,
  type ScaleKey,
} from './scale-notes.js';

/** What a scale's score is made of. Units: octaves; beats of the unit per minute. */
export interface ScaleOrder {
  readonly title: string;
  readonly key: ScaleKey;
  readonly octaves: number;
  readonly noteValue: ScaleNoteValue;
  readonly tempo: { readonly bpm: Bpm; readonly beatUnit: BeatUnit } | null;
  /** The sheet's words: "slurred", "slur up, tongue down", "slur two, tongue two", "staccato". */
  readonly articulation: string | null;
  readonly instrument: ScaleInstrument;
}

/** 12 divisions a quarter hold triplets and sixteenths. */
const DIVISIONS = 12;
const VALUES: Readonly<
  Record<ScaleNoteValue, { readonly duration: number; readonly type: string; readonly isTriplet: boolean }>
> = {
  whole: { duration: 48, type: 'whole', isTriplet: false },
  half: { duration: 24, type: 'half', isTriplet: false },
  quarter: { duration: 12, type: 'quarter', isTriplet: false },
  eighth: { duration: 6, type: 'eighth', isTriplet: false },
  'eighth-triplet': { duration: 4, type: 'eighth', isTriplet: true },
  sixteenth: { duration: 3, type: '16th', isTriplet: false },
};
const MEASURE = 4 * DIVISIONS;
const SHARP_TONICS: readonly Step[] = ['F', 'C', 'G', 'D', 'A', 'E', 'B'];

/**
 * A scale as a score that engraves, sounds and counts, written for the instrument.
 * Shape:  a MusicXML 4.0 document in common time; the last note is held to the end of its measure
 * Units:  12 divisions a quarter
 * Errors: scale-range
 * Source: MusicXML 4.0
 */
export function scaleScore(order: ScaleOrder): Result<string, ScaleCode> {
  const key = writtenKey(order.key, order.instrument);
  const notes = scaleNotes(key, order.octaves, order.instrument);
  if (!notes.ok) return notes;
  return ok(document(order, key, measuresOf(order, notes.value)));
}

interface WrittenNote {
  readonly pitch: Pitch;
  readonly duration: number;
  readonly marks: string;
  readonly isRest: boolean;
}

function measuresOf(order: ScaleOrder, pitches: readonly Pitch[]): WrittenNote[][] {
  const { duration } = VALUES[order.noteValue];
  const top = (pitches.length - 1) / 2;
  const measures: WrittenNote[][] = [[]];
  let filled = 0;
  pitches.forEach((pitch, n) => {
    if (filled === MEASURE) {
      measures.push([]);
      filled = 0;
    }
    measures.at(-1)?.push({
      pitch,
      duration,
      marks: marksOf(order.articulation, n, { count: pitches.length, top }),
      isRest: false,
    });
    filled += duration;
  });
  const [last] = pitches.slice(-1);
  if (last)
    for (let rest = filled; rest < MEASURE; rest += duration)
      measures.at(-1)?.push({ pitch: last, duration, marks: '', isRest: true });
  return measures;
}

function marksOf(
  words: string | null,
  n: number,
  { count, top }: { readonly count: number; readonly top: number },
): string {
  const text = (words ?? '').toLowerCase();
  const isUp = n <= top;
  const slurs = slurGroup(text, n, { count, top });
  const sign = /staccato/u.test(text) ? '<staccato/>' : /legato tongu|tenuto/u.test(text) ? '<tenuto/>' : '';
  const isSlurred = slurs !== '';
  const articulations =
    sign === '' || isSlurred || (/tongued? (?:up|ascending)/u.test(text) && !isUp)
      ? ''
      : `<articulations>${sign}</articulations>`;
  return `${slurs}${articulations}`;
}

/** Slurs over groups of two or four, over the way up or down, or over all of it, as the words say. */
function slurGroup(
  text: string,
  n: number,
  { count, top }: { readonly count: number; readonly top: number },
): string {
  const start = '<slur type="start" number="1"/>';
  const stop = '<slur type="stop" number="1"/>';
  const within = (first: number, last: number): string => (n === first ? start : n === last ? stop : '');
  const size = /(?:slur\w*)\s+(?:in\s+)?(?:two|twos|pairs|2)\b|two notes? (?:to a|per)/u.test(text)
    ? 2
    : /(?:slur\w*)\s+(?:in\s+)?(?:four|fours|4)\b|four (?:notes )?(?:to a|per)/u.test(text)
      ? 4
      : 0;
  if (size > 0) {
    const isMixed = size === 2 && /tongue\w*\s+(?:in\s+)?(?:two|2)\b/u.test(text);
    const period = isMixed ? 4 : size;
    const place = n % period;
    const group = n - place;
    return place < size && group + size <= count ? within(group, group + size - 1) : '';
  }
  if (/slur\w*\s+(?:up|ascending)/u.test(text)) return within(0, top);
  if (/slur\w*\s+(?:down|descending)/u.test(text)) return within(top, count - 1);
  return /slur|legato(?! tongu)/u.test(text) &&
    !/tongued (?:and|or) slurred|slurred (?:and|or) tongued|both/u.test(text)
    ? within(0, count - 1)
    : '';
}

/** Sharps above 0, flats below, for the written tonic and mode. Source: circle of fifths. */
export function fifthsOf({ step, alter, form }: ScaleKey): number {
  if (form === 'chromatic') return 0;
  const major = SHARP_TONICS.indexOf(step) - 1 + 7 * alter;
  return form.includes('minor') ? major - 3 : major;
}

function document(
  { title, instrument, tempo, noteValue }: ScaleOrder,
  key: ScaleKey,
  measures: readonly (readonly WrittenNote[])[],
): string {
  const transpose = transposeXml(instrument.transposition);
  const fifths = Math.max(-7, Math.min(7, fifthsOf(key)));
  const line = { G: 2, F: 4, C: 3 }[instrument.clef];
  const attributes = `<attributes><divisions>${DIVISIONS}</divisions><key><fifths>${fifths}</fifths><mode>${key.form.includes('minor') ? 'minor' : 'major'}</mode></key><time><beats>4</beats><beat-type>4</beat-type></time><clef><sign>${instrument.clef}</sign><line>${line}</line></clef>${transpose}</attributes>`;
  const body = measures.map((notes, n) => {
    const head = n === 0 ? `${attributes}${tempo === null ? '' : tempoXml(tempo.bpm, tempo.beatUnit)}` : '';
    const end =
      n === measures.length - 1
        ? '<barline location="right"><bar-style>light-heavy</bar-style></barline>'
        : '';
    return `<measure number="${n + 1}">${head}${notes.map((note) => writeNote(note, noteValue)).join('')}${end}</measure>`;
  });
  return `<?xml version="1.0" encoding="UTF-8"?>\n<score-partwise version="4.0"><work><work-title>${xmlText(title)}</work-title></work><part-list><score-part id="P1"><part-name>${xmlText(instrument.name)}</part-name></score-part></part-list><part id="P1">\n${body.join('\n')}\n</part></score-partwise>\n`;
}

function writeNote({ pitch, duration, marks, isRest }: WrittenNote, value: ScaleNoteValue): string {
  const { type, isTriplet } = VALUES[value];
  const alter = pitch.alter === 0 ? '' : `<alter>${pitch.alter}</alter>`;
  const sound = isRest
    ? '<rest/>'
    : `<pitch><step>${pitch.step}</step>${alter}<octave>${pitch.octave}</octave></pitch>`;
  const tuplet = isTriplet
    ? '<time-modification><actual-notes>3</actual-notes><normal-notes>2</normal-notes></time-modification>'
    : '';
  const notations = marks === '' ? '' : `<notations>${marks}</notations>`;
  return `<note>${sound}<duration>${duration}</duration><voice>1</voice><type>${type}</type>${tuplet}${notations}</note>`;
}
