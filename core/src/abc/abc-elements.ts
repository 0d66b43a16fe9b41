import Parse from 'abcjs/src/parse/abc_parse.js';
import type { Bpm } from '../music/index.js';

/** What of the parsed notation is read. Units: durations in whole notes; pitches as letters above middle C. */
export interface AbcElement {
  readonly el_type: string;
  readonly type?: string;
  readonly title?: string;
  readonly duration?: number | readonly number[];
  readonly bpm?: Bpm;
  readonly preString?: string;
  readonly pitches?: readonly AbcPitch[];
  readonly rest?: { readonly type: string; readonly text?: number };
  readonly gracenotes?: readonly (AbcPitch & { readonly acciaccatura?: boolean })[];
  readonly decoration?: readonly string[];
  /** Chord symbols and words at the note. */
  readonly chord?: readonly { readonly name: string; readonly position: string }[];
  readonly startTriplet?: number;
  readonly tripletMultiplier?: number;
  readonly endTriplet?: boolean;
  readonly startBeam?: boolean;
  readonly endBeam?: boolean;
  readonly startEnding?: string;
  readonly endEnding?: boolean;
  readonly accidentals?: readonly { readonly acc: string; readonly note: string }[];
  readonly value?: readonly { readonly num: string; readonly den?: string }[];
}

/** One note of a chord. */
export interface AbcPitch {
  readonly pitch: number;
  readonly accidental?: string;
  readonly startTie?: object;
  readonly endTie?: boolean;
  readonly startSlur?: readonly object[];
  readonly endSlur?: readonly number[];
}

/** The first elements of a staff. */
export interface AbcStaff {
  readonly voices: readonly (readonly AbcElement[])[];
  readonly clef?: { readonly type: string };
  readonly key?: AbcElement;
  readonly meter?: AbcElement;
  readonly title?: readonly string[];
}

/** A tune as parsed. */
export interface AbcTune {
  readonly lines: readonly { readonly staff?: readonly AbcStaff[] }[];
  readonly metaText: {
    readonly title?: string;
    readonly tempo?: {
      readonly duration?: readonly number[];
      readonly bpm?: Bpm;
      readonly preString?: string;
    };
  };
}

/**
 * Parses the first tune of a text.
 * Shape:  see AbcTune
 * Units:  see the members
 * Errors: those of the parser
 * Source: the ABC notation standard 2.1, by the library abcjs
 */
export function parseAbc(text: string): AbcTune {
  const parser = new Parse();
  parser.parse(text);
  return parser.getTune();
}
