import type { BeatUnit, Meter, Pitch, Quarters, Transposition, QuarterBpm } from '../music/index.js';
import type { DirectionMarks } from './direction-marks.js';
import type { ScoreWarning } from './issues.js';
import type { NoteSigns } from './note-signs.js';

/**
 * One printed note or rest of the chosen part.
 * Shape:  `written` null for rests and unpitched notes; grace notes have length 0; the notes of a chord share an onset
 * Units:  `onset` in quarters from the start of its measure, `length` in quarters
 * Source: MusicXML 4.0, element note
 */
export interface ScoreNote {
  readonly measureIndex: number;
  readonly onset: Quarters;
  readonly length: Quarters;
  readonly voice: string;
  readonly staff: number;
  readonly written: Pitch | null;
  /** What turns the written pitch into the sounding one here: a player may change instruments. */
  readonly transposition: Transposition;
  readonly isRest: boolean;
  readonly isGrace: boolean;
  readonly isChordMember: boolean;
  readonly tieStart: boolean;
  readonly tieStop: boolean;
  /** What is printed at it. */
  readonly signs: NoteSigns;
}

/** A note that is not for the player. Shape: `before` counts the played notes and rests that the file has before it. */
export interface UnplayedNote {
  readonly note: ScoreNote;
  readonly before: number;
}

/**
 * A note as it sounds: printed notes joined by ties are one.
 * Shape:  `printed` counts the notes on paper
 * Units:  as ScoreNote
 * Source: MusicXML 4.0, element tie
 */
export interface SoundedNote extends ScoreNote {
  readonly written: Pitch;
  readonly sounding: Pitch;
  readonly printed: number;
}

/** Repeat signs, endings and jumps that stand in one measure, from whichever part prints them. */
export interface Navigation {
  repeatForward: boolean;
  /** How often the section is played in all, or null where no backward repeat stands. */
  repeatTimes: number | null;
  repeatAfterJump: boolean;
  /** Passes on which this measure is played, or null outside endings. */
  endings: readonly number[] | null;
  segno: string | null;
  coda: string | null;
  toCoda: string | null;
  daCapo: boolean;
  dalSegno: string | null;
  fine: boolean;
}

/** Where a measure is known from: a digital score, a page, what was told, or notes typed in. */
export type MeasureSource = 'score' | 'page' | 'told' | 'typed';

/**
 * One measure of the chosen part.
 * Shape:  `number` is the printed number ("22A" for an inserted one); `index` counts from 0
 * Units:  `start` and `length` in quarters; `start` from the beginning, repeats not taken
 * Source: MusicXML 4.0, element measure
 */
export interface ScoreMeasure {
  readonly index: number;
  readonly number: string;
  readonly implicit: boolean;
  readonly meter: Meter;
  readonly fifths: number;
  readonly start: Quarters;
  readonly length: Quarters;
  readonly rehearsal: string | null;
  /** Whether a thin double bar line stands at its end. */
  readonly endsInDoubleBar: boolean;
  /** The clef of the first staff at its end: treble, bass, alto, tenor …; null where none is known. */
  readonly clef: string | null;
  readonly navigation: Navigation | null;
  readonly source: MeasureSource;
  /** How many notes a quarter has where it was told, and the notes themselves are unknown; else null. */
  readonly toldNotes: number | null;
}

/** Whether the notes of a measure are known, and not only that it is there. */
export function hasKnownNotes({ source }: Pick<ScoreMeasure, 'source'>): boolean {
  return source !== 'told' && source !== 'page';
}

/**
 * A stretch of one tempo, to the next segment or the end.
 * Shape:  ascending `at`
 * Units:  `at` in quarters from the beginning, repeats not taken; quarter notes per minute
 * Source: MusicXML 4.0, elements metronome and sound
 */
export interface TempoSegment {
  readonly at: Quarters;
  readonly quarterBpm: QuarterBpm;
  /** The note value that the mark counts; null where only a playing tempo is known. */
  readonly unit: BeatUnit | null;
}

/** A part as the file's list names it. */
export interface PartInfo {
  readonly id: string;
  readonly name: string;
  readonly noteCount: number;
}

/**
 * Music as read from a file, with one part chosen; never changed after reading.
 * Shape:  at least one measure; `order` holds measure indexes as played, repeats and jumps taken
 * Units:  see the members
 * Source: MusicXML 4.0
 */
export interface Score {
  readonly title: string | null;
  readonly parts: readonly PartInfo[];
  readonly partId: string;
  readonly instrument: string;
  readonly transposition: Transposition;
  readonly measures: readonly ScoreMeasure[];
  readonly notes: readonly ScoreNote[];
  /** Cue notes and hidden ones: they stand in the file, but the player does not play them. */
  readonly unplayed: readonly UnplayedNote[];
  readonly tempos: readonly TempoSegment[];
  /** Dynamics, hairpins and words of the chosen part. */
  readonly marks: DirectionMarks;
  readonly order: readonly number[];
  readonly warnings: readonly ScoreWarning[];
}
