import { asSeconds, midiOf, toNumber, type Semitones, type Seconds } from '../music/index.js';
import { beatOf, isJoined, secondsOver, soloLine, type LineNote, type Pace } from '../reading/index.js';
import { inSpan, type Score, type Span } from '../score/index.js';

/**
 * One note as hands see it.
 * Shape:  `ordinal` counts the notes of its measure from 1; `midi` null for a stroke without pitch
 * Units:  `written` and `sounding` MIDI numbers; `gap` seconds from the note before to this one, null for the first;
 *         `seconds` it lasts
 */
export interface HandNote {
  readonly measureIndex: number;
  readonly measure: string;
  readonly ordinal: number;
  readonly start: number;
  readonly written: Semitones | null;
  readonly sounding: Semitones | null;
  readonly gap: Seconds | null;
  readonly seconds: Seconds;
  /** Whether it is tied to the note before by a slur, without a new tongue, bow or stroke. */
  readonly isSlurred: boolean;
  /** Whether nothing is silent between the note before and this one. */
  readonly isJoined: boolean;
  readonly isOnBeat: boolean;
  readonly isOnDownbeat: boolean;
  readonly line: LineNote;
}

/**
 * The notes of a span as hands see them, grace notes left out.
 * Shape:  in the order of the music; ties joined, of a chord the top note
 * Units:  see HandNote
 */
export function handNotes(score: Score, span: Span, pace: Pace): HandNote[] {
  const notes = soloLine(score)
    .played.flat()
    .filter(({ measureIndex }) => inSpan(span, measureIndex));
  return notes.map((line, n): HandNote => {
    const before = notes[n - 1];
    const measure = score.measures[line.measureIndex];
    const place = toNumber(line.onset);
    const beats = measure ? place / beatOf(measure.meter) : 0;
    return {
      measureIndex: line.measureIndex,
      measure: measure?.number ?? '',
      ordinal: line.ordinal,
      start: line.start,
      written: line.midi,
      sounding: line.midi === null ? null : line.midi + heard(line),
      gap: before ? secondsOver(pace, before.start, line.start) : null,
      seconds: asSeconds(secondsOver(pace, line.start, line.start + line.length)),
      isSlurred: line.isSlurredInto,
      isJoined: before !== undefined && isJoined(before, line),
      isOnBeat: Math.abs(beats - Math.round(beats)) < 1e-6,
      isOnDownbeat: place === 0,
      line,
    };
  });
}

/** What is added to the written pitch for the sounding one. */
function heard({ written, sounding, midi }: LineNote): Semitones {
  if (!written || !sounding || midi === null) return 0;
  return midiOf(sounding) - midi;
}
