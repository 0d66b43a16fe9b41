import type { Pitch, Quarters } from '../music/index.js';
import type { MeasureToWrite, Span } from '../score/index.js';

/** The kinds of drills, in the order in which they are usually taken. */
export const DRILL_KINDS = [
  'rhythm-told',
  'rhythm-alone',
  'half-speed-click',
  'scale',
  'strong-notes',
  'awkward-pair',
  'beat-and-landing',
  'longer-segments',
  'add-from-start',
  'add-from-end',
  'dotted',
  'reverse-dotted',
  'rhythm-variant',
  'tongued',
  'long-tones',
  'widening',
  'start-anywhere',
] as const;

/** A kind of drill. */
export type DrillKind = (typeof DRILL_KINDS)[number];

/**
 * A note of a drill.
 * Shape:  `pitches` empty for a rest or an unpitched stroke; `measure` is the printed number of where it comes from, ""
 *         where it is made
 * Units:  `length` in quarters
 */
export interface DrillNote {
  readonly measure: string;
  readonly pitches: readonly Pitch[];
  readonly isRest: boolean;
  readonly length: Quarters;
  readonly isTied: boolean;
  readonly slurStarts: number;
  readonly slurStops: number;
  readonly articulations: readonly string[];
}

/** A measure of a drill. */
export interface DrillMeasure extends MeasureToWrite {
  readonly notes: readonly DrillNote[];
}

/**
 * Something to practise, made from a passage's own notes.
 * Shape:  `measures` empty where nothing is to be engraved: the passage itself is played; `spans` say which of its
 *         measures, one run a turn
 * Units:  `minutes` of one session
 */
export interface Drill {
  readonly kind: DrillKind;
  readonly title: string;
  /** Why it is offered, with the places. */
  readonly why: string;
  /** What to do. */
  readonly how: string;
  readonly measures: readonly DrillMeasure[];
  /** Whether it lasts exactly as long as the passage, measure by measure. */
  readonly keepsLengths: boolean;
  readonly spans: readonly Span[];
  readonly minutes: number;
}
