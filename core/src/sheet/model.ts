import type { TempoMark } from '../music/index.js';
import type { ScaleNoteValue } from '../scale/index.js';
import { WHOLE_SCOPE, type PartScope } from './scope.js';

/** What a date on a sheet is for. */
export const DEADLINE_KINDS = [
  'registration',
  'late registration',
  'recording',
  'audition',
  'results',
  'other',
] as const;
/** What a part of a sheet is. */
export const PART_KINDS = [
  'etude',
  'scale',
  'chromatic',
  'excerpt',
  'solo',
  'sight-reading',
  'aural',
  'improvisation',
  'rudiments',
  'other',
] as const;
/** How several parts may be chosen from. */
export const CHOICE_RULES = ['all', 'oneOf', 'nOf', 'oneFromEach'] as const;
/** What a note on a sheet speaks of. */
export const NOTE_KINDS = ['erratum', 'ornament', 'edition', 'insertedMeasure', 'other'] as const;
/** Whether printed repeats are played. */
export const REPEATS = ['take', 'omit', 'unstated'] as const;
/** Whether a part is played with accompaniment. */
export const ACCOMPANIMENTS = ['required', 'none', 'optional', 'where-applicable'] as const;

/** One of DEADLINE_KINDS. */
export type DeadlineKind = (typeof DEADLINE_KINDS)[number];
/** One of PART_KINDS. */
export type PartKind = (typeof PART_KINDS)[number];
/** One of CHOICE_RULES. */
export type ChoiceRule = (typeof CHOICE_RULES)[number];
/** One of NOTE_KINDS. */
export type NoteKind = (typeof NOTE_KINDS)[number];
/** One of REPEATS. */
export type Repeats = (typeof REPEATS)[number];
/** One of ACCOMPANIMENTS. */
export type Accompaniment = (typeof ACCOMPANIMENTS)[number];

/**
 * Who a sheet is for.
 * Shape:  bounds included; null where not printed; an exam grade is a name, not a school grade
 * Units:  school grades; years of age as of `asOf`, an ISO day
 * Source: docs/formats.md
 */
export interface Division {
  readonly name: string | null;
  readonly gradeMin: number | null;
  readonly gradeMax: number | null;
  readonly ageMin: number | null;
  readonly ageMax: number | null;
  readonly asOf: string | null;
  readonly text: string;
}

/**
 * A date of a sheet.
 * Shape:  `date` ISO, `--MM-DD` without a year, `a/b` for an interval, null where it is no calendar date;
 *         `time` HH:MM or null; `zone` as printed
 * Source: ISO 8601 for dates and intervals
 */
export interface Deadline {
  readonly what: DeadlineKind;
  readonly date: string | null;
  readonly time: string | null;
  readonly zone: string | null;
  readonly text: string;
}

/** Where a work is printed. */
export interface WorkSource {
  readonly composer: string | null;
  readonly book: string | null;
  readonly number: string | null;
  readonly page: string | null;
  readonly edition: string | null;
}

/**
 * One end of a run of measures: a printed number, or an anchor.
 * Shape:  12; "22A"; "start"; "end"; "K"; "K-6" (6 before K); "E+4"; "figure 7"; "double bar"
 * Units:  measures
 * Source: docs/formats.md
 */
export type SpanPoint = number | string;

/** A run of measures as a sheet names it, both ends included; `anchorText` is as printed where an end is no number. */
export interface SheetSpan {
  readonly from: SpanPoint;
  readonly to: SpanPoint;
  readonly anchorText: string | null;
}

/** Lowest and highest note as printed. */
export interface PrintedRange {
  readonly low: string;
  /** Null where only the lowest note is named. */
  readonly high: string | null;
}

/** One item of a sheet. Shape: known by its `id`; the label is only what is printed. Units: seconds, octaves, points. */
export interface SheetPart {
  readonly id: string;
  readonly label: string;
  readonly scope: PartScope;
  readonly kind: PartKind;
  readonly title: string | null;
  readonly source: WorkSource;
  readonly measures: readonly SheetSpan[];
  readonly tempo: TempoMark;
  readonly key: string | null;
  readonly octaves: number | null;
  readonly noteValue: ScaleNoteValue | null;
  readonly range: PrintedRange | null;
  readonly articulation: string | null;
  readonly memory: boolean | null;
  readonly repeats: Repeats;
  readonly accompaniment: Accompaniment | null;
  readonly maxSeconds: number | null;
  readonly minSeconds: number | null;
  readonly points: number | null;
}

/** A rule of choice over parts by their identifiers; a nested list is a bundle taken together, or one group of oneFromEach. */
export interface Choice {
  readonly rule: ChoiceRule;
  readonly n: number | null;
  readonly of: readonly (string | readonly string[])[];
}

/** A sentence of the sheet that is not a field. */
export interface SheetNote {
  readonly kind: NoteKind;
  readonly text: string;
}

/**
 * What only a person can say.
 * Shape:  `about` is a path such as "Etude 2/tempo" or "deadlines[recording]/date"; `partId` where it is about a part
 */
export interface SheetQuestion {
  readonly partId: string | null;
  readonly about: string;
  readonly ask: string;
  readonly candidates: readonly unknown[];
}

/** Limits on a whole performance or recording. Units: seconds */
export interface ProgramLimits {
  readonly minSeconds: number | null;
  readonly maxSeconds: number | null;
}

/** What an errata notice changes: `part` as printed, `partId` where the sheet has it; null stands for "not stated before". */
export interface SheetChangeNotice {
  readonly partId: string | null;
  readonly part: string;
  readonly field: string;
  readonly old: unknown;
  readonly new: unknown;
  /** The sentence of the notice that says so. */
  readonly text?: string;
}

/**
 * A sheet as it is exchanged.
 * Shape:  what the text does not state is null or empty; nothing is filled in because it is likely
 * Units:  see the members
 * Source: docs/formats.md
 */
export interface StructuredSheet {
  readonly body: string | null;
  readonly year: string | null;
  readonly instruments: readonly string[];
  readonly division: readonly Division[];
  readonly deadlines: readonly Deadline[];
  readonly parts: readonly SheetPart[];
  readonly choices: readonly Choice[];
  readonly notes: readonly SheetNote[];
  readonly questions: readonly SheetQuestion[];
  /** How long everything together may or must last; null or left out where the sheet does not say. Units: seconds */
  readonly program?: ProgramLimits | null;
  readonly amends: string | null;
  readonly changes: readonly SheetChangeNotice[];
}

/** A tempo that is not stated. */
export const NO_TEMPO: TempoMark = Object.freeze({
  beatUnit: null,
  bpmMin: null,
  bpmMax: null,
  bound: 'none',
  words: null,
});

/** A source of which nothing is stated. */
export const NO_SOURCE: WorkSource = Object.freeze({
  composer: null,
  book: null,
  number: null,
  page: null,
  edition: null,
});

/**
 * A part of which only the label and the kind are stated.
 * Shape:  every other field null, empty or unstated
 */
export function blankPart(label: string, kind: PartKind, id = ''): SheetPart {
  return {
    id,
    label,
    scope: WHOLE_SCOPE,
    kind,
    title: null,
    source: NO_SOURCE,
    measures: [],
    tempo: NO_TEMPO,
    key: null,
    octaves: null,
    noteValue: null,
    range: null,
    articulation: null,
    memory: null,
    repeats: 'unstated',
    accompaniment: null,
    maxSeconds: null,
    minSeconds: null,
    points: null,
  };
}
