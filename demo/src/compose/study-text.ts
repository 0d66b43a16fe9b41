import { InvariantError } from '@vivid-cue/core/base';
import type { Bpm } from '@vivid-cue/core/music';

/** A study in the project's own shorthand; `studies.data.ts` explains the signs. */
export interface StudyText {
  readonly file: string;
  readonly title: string;
  readonly instrument: string;
  readonly abbreviation: string;
  readonly midiProgram: number;
  readonly transpose: { readonly diatonic: number; readonly chromatic: number } | null;
  readonly clef: { readonly sign: string; readonly line: number };
  readonly fifths: number;
  readonly mode: 'major' | 'minor';
  readonly beats: number;
  readonly beatType: number;
  readonly tempo: {
    readonly words: string;
    readonly unit: string;
    readonly dots: number;
    readonly bpm: Bpm;
  };
  readonly music: string;
}

/** Twelve divisions a quarter hold sixteenths and triplet eighths alike. */
export const DIVISIONS = 12;

/** One note or rest of the shorthand. Units: `duration` in divisions. */
export interface StudyNote {
  readonly step: string | null;
  readonly alter: number;
  readonly octave: number;
  readonly type: string;
  readonly dots: number;
  readonly isTriplet: boolean;
  readonly duration: number;
  readonly marks: string;
  /** Bracketed signs that stand before the note. */
  readonly before: readonly string[];
}

/** One measure of the shorthand with its bar lines. */
export interface StudyMeasure {
  readonly notes: readonly StudyNote[];
  readonly after: readonly string[];
  readonly repeatForward: boolean;
  readonly repeatBackward: boolean;
  readonly ending: string | null;
}

const VALUES: Readonly<Record<string, { readonly type: string; readonly duration: number }>> = {
  w: { type: 'whole', duration: 48 },
  h: { type: 'half', duration: 24 },
  q: { type: 'quarter', duration: 12 },
  e: { type: 'eighth', duration: 6 },
  s: { type: '16th', duration: 3 },
  t: { type: 'eighth', duration: 4 },
};

/**
 * Reads the shorthand into measures.
 * Shape:  in order, bar lines attached to the measure they open or close
 * Units:  divisions
 * Errors: InvariantError for a sign that is none (a slip in our own text)
 */
export function readStudy(study: StudyText): StudyMeasure[] {
  const pieces = study.music.trim().split(/(\|:|:\|(?:\[\d\])?|\|(?:\[\d\])?)/u);
  const measures: StudyMeasure[] = [];
  for (let n = 0; n < pieces.length; n += 2) {
    const opening = pieces[n - 1] ?? '';
    const closing = pieces[n + 1] ?? '';
    const { notes, after } = readNotes(pieces[n] ?? '');
    measures.push({
      notes,
      after,
      repeatForward: opening === '|:',
      repeatBackward: closing.startsWith(':|'),
      ending: /\[(\d)\]/u.exec(opening)?.[1] ?? null,
    });
  }
  return measures;
}

function readNotes(text: string): { notes: StudyNote[]; after: string[] } {
  const notes: StudyNote[] = [];
  let before: string[] = [];
  for (const token of text.match(/\[[^\]]+\]|[^\s[\]]+/gu) ?? []) {
    if (token.startsWith('[')) {
      before.push(token.slice(1, -1));
      continue;
    }
    notes.push(readNote(token, before));
    before = [];
  }
  return { notes, after: before };
}

function readNote(token: string, before: readonly string[]): StudyNote {
  const match = /^(?:r|([a-g])(b|#)?(\d))([whqest])(\.*)([()~!>-]*)$/u.exec(token);
  const value = VALUES[match?.[4] ?? ''];
  if (!match || !value) throw new InvariantError(`The study holds "${token}", which is no note.`);
  const dots = (match[5] ?? '').length;
  return {
    step: match[1]?.toUpperCase() ?? null,
    alter: match[2] === 'b' ? -1 : match[2] === '#' ? 1 : 0,
    octave: Number(match[3] ?? 0),
    type: value.type,
    dots,
    isTriplet: match[4] === 't',
    duration: dots === 1 ? value.duration * 1.5 : value.duration,
    marks: match[6] ?? '',
    before,
  };
}
