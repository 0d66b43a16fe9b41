import { ZERO, type Pitch, type Quarters, type Step, type Transposition } from '../music/index.js';
import type { ScoreNote } from './model.js';
import { readSigns } from './note-signs.js';
import { badTiming, wholeNumber } from './number-text.js';
import { child, childrenNamed, childText, type XmlNode } from './xml.js';

/** Where the reader stands when a note comes. */
export interface NotePlace {
  readonly measureIndex: number;
  readonly measureNumber: string;
  readonly onset: Quarters;
  readonly length: Quarters;
  readonly transposition: Transposition;
}

/**
 * One note element as a record.
 * Shape:  pitch null for rests and unpitched notes
 * Units:  as ScoreNote
 * Errors: ScoreStop with score-timing for a pitch that is none
 * Source: MusicXML 4.0, element note
 */
export function readNote(node: XmlNode, place: NotePlace): ScoreNote {
  const ties = [...childrenNamed(node, 'tie'), ...childrenNamed(child(node, 'notations'), 'tied')].map(
    (tie) => tie.attributes['type'],
  );
  const isGrace = child(node, 'grace') !== undefined;
  return {
    measureIndex: place.measureIndex,
    onset: place.onset,
    length: isGrace ? ZERO : place.length,
    voice: childText(node, 'voice') ?? '1',
    staff: wholeNumber(childText(node, 'staff'), 1, 64) ?? 1,
    written: readPitch(node, place.measureNumber),
    transposition: place.transposition,
    isRest: child(node, 'rest') !== undefined,
    isGrace,
    isChordMember: child(node, 'chord') !== undefined,
    tieStart: ties.includes('start'),
    tieStop: ties.includes('stop'),
    signs: readSigns(node),
  };
}

function readPitch(node: XmlNode, measureNumber: string): Pitch | null {
  const pitch = child(node, 'pitch');
  if (!pitch) return null;
  const step = childText(pitch, 'step') ?? '';
  const octave = wholeNumber(childText(pitch, 'octave'), 0, 9);
  const alter = Number(childText(pitch, 'alter') ?? '0');
  if (!/^[A-G]$/u.test(step) || octave === null || !(Math.abs(alter) <= 3)) {
    badTiming(measureNumber, `a pitch reads "${step}${childText(pitch, 'octave') ?? ''}", which is none`);
  }
  return { step: step as Step, alter, octave };
}
