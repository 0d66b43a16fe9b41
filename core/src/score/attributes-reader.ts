import {
  AS_WRITTEN,
  quarters,
  toNumber,
  type Meter,
  type Quarters,
  type Transposition,
} from '../music/index.js';
import { SCORE_LIMITS } from './limits.js';
import { badTiming, exactDecimal, wholeNumber } from './number-text.js';
import { child, childrenNamed, childText, type XmlNode } from './xml.js';

/** What attributes elements have set so far in one part. */
export interface PartAttributes {
  divisions: Quarters | null;
  meter: Meter | null;
  fifths: number;
  transposition: Transposition;
  /** The clef of the first staff. */
  clef: string | null;
}

/**
 * Attributes before the first attributes element.
 * Source: MusicXML 4.0, element attributes
 */
export function freshAttributes(): PartAttributes {
  return { divisions: null, meter: null, fifths: 0, transposition: AS_WRITTEN, clef: null };
}

/**
 * Applies one attributes element; what it does not say stays as it was.
 * Shape:  changes `state`
 * Units:  divisions per quarter note, semitones
 * Errors: ScoreStop with score-timing for divisions of 0 or less
 * Source: MusicXML 4.0, element attributes
 */
export function applyAttributes(node: XmlNode, state: PartAttributes, measureNumber: string): void {
  const divisionsText = childText(node, 'divisions');
  if (divisionsText !== null) {
    const divisions = exactDecimal(divisionsText);
    if (!divisions || divisions.num <= 0 || toNumber(divisions) > SCORE_LIMITS.divisions) {
      badTiming(measureNumber, `the file divides a quarter note in "${divisionsText.slice(0, 20)}"`);
    }
    state.divisions = divisions;
  }
  const fifths = wholeNumber(childText(child(node, 'key'), 'fifths'), -11, 11);
  if (fifths !== null) state.fifths = fifths;
  const time = child(node, 'time');
  if (time) state.meter = readMeter(time) ?? state.meter;
  const transpose = child(node, 'transpose');
  if (transpose) state.transposition = readTransposition(transpose);
  const clef = childrenNamed(node, 'clef').find(({ attributes }) => (attributes['number'] ?? '1') === '1');
  if (clef) state.clef = clefName(clef) ?? state.clef;
}

const CLEFS: Readonly<Record<string, string>> = {
  G2: 'treble',
  F4: 'bass',
  C3: 'alto',
  C4: 'tenor',
  C1: 'soprano',
};

function clefName(node: XmlNode): string | null {
  const sign = childText(node, 'sign')?.trim() ?? '';
  if (sign === 'percussion') return 'percussion';
  const usual: Readonly<Record<string, string>> = { G: '2', F: '4', C: '3' };
  const name = CLEFS[`${sign}${childText(node, 'line')?.trim() ?? usual[sign] ?? ''}`] ?? null;
  const octave = wholeNumber(childText(node, 'clef-octave-change'), -2, 2) ?? 0;
  return name === null || octave === 0 ? name : `${name} clef an octave ${octave > 0 ? 'up' : 'down'}`;
}

function readTransposition(node: XmlNode): Transposition {
  const chromatic = wholeNumber(childText(node, 'chromatic'), -48, 48) ?? 0;
  const stated = wholeNumber(childText(node, 'diatonic'), -28, 28);
  return {
    chromatic,
    // Without a diatonic count the usual letter for that many semitones is taken: seven letters to twelve semitones.
    diatonic: stated ?? Math.round((chromatic * 7) / 12),
    octaveChange: wholeNumber(childText(node, 'octave-change'), -4, 4) ?? 0,
  };
}

function readMeter(time: XmlNode): Meter | null {
  const beats = childrenNamed(time, 'beats').map((node) =>
    node.text.split('+').map((part) => wholeNumber(part, 1, 99)),
  );
  const types = childrenNamed(time, 'beat-type').map((node) => wholeNumber(node.text, 1, 128));
  const pairs = beats.map((groups, n) => ({ groups, beatType: types[n] ?? null }));
  const beatType = Math.max(0, ...types.map((type) => type ?? 0));
  const groups: number[] = [];
  for (const pair of pairs) {
    if (pair.beatType === null || (pair.beatType & (pair.beatType - 1)) !== 0) return null;
    for (const group of pair.groups) {
      if (group === null) return null;
      groups.push((group * beatType) / pair.beatType);
    }
  }
  return groups.length === 0 ? null : { groups, beatType };
}

/**
 * A duration in the file's divisions as exact quarters.
 * Shape:  0 or more
 * Units:  quarter notes
 * Errors: ScoreStop with score-timing for a missing or negative duration, or one before any divisions
 * Source: MusicXML 4.0, elements duration and divisions
 */
export function readDuration(node: XmlNode, state: PartAttributes, measureNumber: string): Quarters {
  const text = childText(node, 'duration');
  const duration = exactDecimal(text);
  if (!duration || duration.num < 0) {
    badTiming(
      measureNumber,
      text === null ? `a ${node.name} has no duration` : `a ${node.name} lasts "${text.slice(0, 20)}"`,
    );
  }
  if (!state.divisions)
    badTiming(measureNumber, 'a note stands before the file says how it divides a quarter note');
  return quarters(duration.num * state.divisions.den, duration.den * state.divisions.num);
}
