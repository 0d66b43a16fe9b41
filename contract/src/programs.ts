import { array, boolean, number, object, string, type InferType } from 'yup';
import type {
  ClimbSchool,
  LadderPlace,
  LadderState,
  LadderStep,
  Rung,
  RungRule,
  SlipRule,
} from '@vivid-cue/core/climb';
import type { BeatUnit, Bpm } from '@vivid-cue/core/music';
import type {
  PassageReadiness,
  PassageRecord,
  ReadinessState,
  RepContext,
  Witness,
} from '@vivid-cue/core/readiness';
import { SCALE_NOTE_VALUES } from '@vivid-cue/core/scale';
import type { TempoPolicy, Verdict } from '@vivid-cue/core/program';
import type { NamedRun, NumberRestart, ScoreDigest, Span } from '@vivid-cue/core/score';
import {
  beatUnitField,
  bpmField,
  idField,
  instantField,
  isLine,
  measureNumberField,
  textField,
} from './fields.js';
import type { BookView } from './books.js';
import type { StudentAir } from './schools.js';
import type { CueView, FindingMarkView } from './score-marks.js';
import { MOST_REPS } from './rep-limits.js';
import { climbSchoolField, rungRuleField, slipRuleField } from './schools.js';
import type { SheetPartInput } from './sheets.js';
import type { StudentView } from './students.js';

/** A new program: one student's answer to one sheet. */
export const programInputSchema = object({
  id: idField.required(),
  studentId: idField.required(),
  sheetId: idField.required(),
  /** The sheet's division that the student plays in, where it has several. */
  division: string().trim().max(120).nullable(),
}).exact();

/** One sheet for several students; those who have it already are passed over. */
export const programListSchema = object({
  programs: array(object({ id: idField.required(), studentId: idField.required() }).exact().required())
    .min(1, 'Choose at least one student.')
    .max(100, 'At most 100 students get a sheet at once.')
    .required(),
}).exact();

/** The division of the sheet that a student plays in. */
export const programChangeSchema = object({
  division: string().trim().max(120).nullable().defined(),
}).exact();

/** The tempo the student aims at in a part. */
export const targetSchema = object({
  bpm: bpmField.required('The target tempo is missing.'),
  beatUnit: beatUnitField.required(),
}).exact();

/** What a student plays for one part of a sheet. */
export const partChoiceSchema = object({
  isTaken: boolean().strict().required(),
  workTitle: string().trim().max(160).defined(),
  edition: string().trim().max(80).defined(),
  page: string().trim().max(20).defined(),
  repeats: string<'take' | 'omit'>().oneOf(['take', 'omit']).nullable().defined(),
  policy: string<TempoPolicy>().oneOf(['keep', 'own', 'range']).required(),
  /** Whether the sheet counts the score's pickup as measure 1. */
  pickupCounts: boolean().strict().required(),
  /** A score of the studio to play from; null leaves what is there. */
  scoreId: idField.nullable().defined(),
}).exact();

/** The scale that is to be written out for a part. */
export const scaleChoiceSchema = object({
  scoreId: idField.required(),
  key: string().trim().min(3, 'Choose a key.').max(40).required('Choose a key.'),
  isArpeggio: boolean().strict().required(),
  octaves: number().oneOf([1, 1.5, 2, 2.5, 3, 3.5, 4], 'Choose how many octaves.').required(),
  noteValue: string().oneOf(SCALE_NOTE_VALUES).required(),
  articulation: string().trim().max(160).defined(),
}).exact();

/** What an upload says beside the file's bytes, in its query. */
export const uploadSchema = object({
  id: idField.required(),
  fileName: textField('The file’s name', 200).required(),
  partId: string().max(80),
}).exact();

/** The chosen part of a score with several. */
export const scorePartSchema = object({ partId: string().min(1).max(80).required() }).exact();

const stepSchema = object({
  kind: string<LadderStep['kind']>().oneOf(['usual', 'percent', 'bpm', 'dial']).required(),
  size: number().min(0.5, 'A step is at least 0.5.').max(100, 'A step is at most 100.').nullable().defined(),
}).exact();

const passageFields = {
  name: string()
    .trim()
    .max(80, 'A name has at most 80 characters.')
    .defined()
    .test('line', 'A name is one line; take line breaks out.', (name) => isLine(name)),
  from: measureNumberField.required('The first measure is missing.'),
  to: measureNumberField.required('The last measure is missing.'),
  target: targetSchema.nullable().defined(),
};

/** A new passage; target null takes the part's target tempo, a seam joins two passages. */
export const passageInputSchema = object({
  id: idField.required(),
  ...passageFields,
  isSeam: boolean().strict().optional(),
}).exact();
/** Several passages at once, all or none. */
export const passageListSchema = object({
  passages: array(passageInputSchema.required())
    .min(1, 'There is no passage to make.')
    .max(100, 'At most 100 passages are made at once.')
    .required(),
}).exact();

/** How a passage climbs. */
export const passageLadderFields = {
  step: stepSchema.required(),
  rule: rungRuleField.required(),
  /** What was written before there were these has none. */
  slipRule: slipRuleField.optional(),
  /** Its own school; null is what the student's or the studio's says. */
  school: climbSchoolField.nullable().optional(),
};

/** A changed passage with its ladder's settings. */
export const passageChangeSchema = object({ ...passageFields, ...passageLadderFields }).exact();

const CONTEXTS: readonly RepContext[] = ['alone', 'joined', 'run', 'mock'];

/** One rep: a fact, sent once or many times with the same identifier. */
export const repInputSchema = object({
  id: idField.required(),
  at: instantField,
  bpm: bpmField.required('The tempo is missing.'),
  beatUnit: beatUnitField.required(),
  context: string<RepContext>().oneOf(CONTEXTS).required(),
  isClean: boolean().strict().required(),
}).exact();

/** Reps of one passage in the order in which they were played. */
export const repListSchema = object({
  reps: array(repInputSchema.required())
    .min(1, 'No rep came.')
    .max(MOST_REPS, `At most ${MOST_REPS} reps go in one request.`)
    .required(),
}).exact();

/** A new program, as a type. */
export type ProgramInput = InferType<typeof programInputSchema>;
/** One sheet for several students, as a type. */
export type ProgramList = InferType<typeof programListSchema>;
/** Who has a sheet. */
export interface SheetProgramLine {
  readonly programId: string;
  readonly studentId: string;
}
/** What a student plays for one part, as a type. */
export type PartChoice = InferType<typeof partChoiceSchema>;
/** A scale to write out, as a type. */
export type ScaleChoice = InferType<typeof scaleChoiceSchema>;
/** A target tempo, as a type. */
export type Target = InferType<typeof targetSchema>;
/** A new passage, as a type. */
export type PassageInput = InferType<typeof passageInputSchema>;
/** Several passages, as a type. */
export type PassageList = InferType<typeof passageListSchema>;
/** A changed passage, as a type. */
export type PassageChange = InferType<typeof passageChangeSchema>;
/** A rep to log, as a type. */
export type RepInput = InferType<typeof repInputSchema>;

/** A rep on the wire. */
export interface RepView extends RepInput {
  readonly day: number;
  /** Who says how it went. */
  readonly witness: Witness;
}

/** A passage with all that its panel shows. Units: see the members. */
export interface PassageView {
  readonly id: string;
  readonly name: string;
  readonly from: string;
  readonly to: string;
  readonly fromIndex: number;
  readonly endIndex: number;
  readonly target: { readonly bpm: Bpm; readonly beatUnit: BeatUnit };
  readonly hasOwnTarget: boolean;
  /** Whether it is the join of two passages. */
  readonly isSeam: boolean;
  readonly step: LadderStep;
  readonly rule: RungRule;
  readonly slipRule: SlipRule;
  /** Its own school, null where it follows the student's or the studio's. */
  readonly school: ClimbSchool | null;
  readonly rungs: readonly Rung[];
  readonly ladder: LadderState;
  readonly place: LadderPlace;
  readonly record: PassageRecord;
  readonly readiness: PassageReadiness;
  /** The middle 80 % of what the chance may be; null without a rep. */
  readonly interval: { readonly low: number; readonly high: number } | null;
  /** The fastest tempo at which the rung's rule was met, and the one that is reliable today; in the target's unit. */
  readonly playedCleanBpm: Bpm | null;
  readonly reliableBpm: Bpm | null;
  /** Whether the target is the sheet's own number. */
  readonly isAsked: boolean;
  readonly sentence: string;
  readonly version: number;
  /** How often its record was written: of two views with one version the one with more writes is the newer. */
  readonly writes: number;
}

/** A passage with its latest reps, newest first. */
export interface PassagePageView {
  readonly passage: PassageView;
  readonly reps: readonly RepView[];
}

/** The score room of one part of one program. */
export interface ScoreRoomView {
  readonly programPartId: string;
  readonly student: StudentView;
  readonly sheetId: string;
  readonly sheetTitle: string;
  readonly partLabel: string;
  readonly workTitle: string;
  /** Number, page, book, edition and composer as the sheet states them; "" for none. */
  readonly sourceText: string;
  /** What the sheet asks, in words; "" for the whole piece. */
  readonly askedText: string;
  /** The measures that the sheet asks for, as it names them; empty for the whole piece. */
  readonly asked: readonly NamedRun[];
  readonly spanIssue: string | null;
  readonly tempoText: string;
  readonly target: { readonly bpm: Bpm; readonly beatUnit: BeatUnit } | null;
  readonly daysLeft: number | null;
  readonly score: { readonly id: string; readonly fileName: string; readonly digest: ScoreDigest } | null;
  /** The part's runs of measures in the order played, half-open; empty without a score or where the score does not hold them. */
  readonly runs: readonly Span[];
  readonly passages: readonly PassageView[];
  readonly cues: readonly CueView[];
  /** How long the student's long tones last. */
  readonly air: StudentAir;
  readonly book: BookView;
  readonly findingMarks: readonly FindingMarkView[];
  /** Where the instructor counts otherwise than printed. */
  readonly numbering: readonly NumberRestart[];
  /** What the sheet says about ornaments, sentence by sentence. */
  readonly ornamentRules: readonly string[];
  /** All parts of the program with a score, to start anywhere. */
  readonly program: {
    readonly id: string;
    readonly parts: readonly {
      readonly id: string;
      readonly label: string;
      readonly runs: readonly Span[];
    }[];
  };
  readonly part: {
    readonly state: ReadinessState;
    readonly chance: number | null;
    readonly expectedSlips: number | null;
    readonly sentence: string;
  };
}

/** A part of a program beside what the sheet asks for it. */
export interface ProgramPartDetail {
  readonly id: string;
  readonly part: SheetPartInput;
  /** The part's name, with what it holds for where the sheet has several of that name. */
  readonly name: string;
  readonly askedText: string;
  /** The asked measures in the score's own numbers, where the sheet names them otherwise. */
  readonly resolvedText: string | null;
  readonly hasPickup: boolean;
  readonly choice: Omit<PartChoice, 'scoreId'>;
  readonly target: Target | null;
  readonly score: {
    readonly id: string;
    readonly title: string | null;
    readonly fileName: string;
    readonly from: string;
    readonly to: string;
  } | null;
  readonly verdict: Verdict;
  /** Other programs of the same student that practise the same score. */
  readonly alsoIn: readonly string[];
}

/** The program page: every part with its choice and its verdict. */
export interface ProgramPageView {
  readonly id: string;
  readonly student: StudentView;
  readonly sheetId: string;
  readonly sheetTitle: string;
  readonly revisionNumber: number;
  readonly currentRevision: number;
  /** The division of the sheet that the student plays in; what there is to choose from. */
  readonly division: string | null;
  readonly divisions: readonly string[];
  readonly notes: readonly { readonly kind: string; readonly text: string }[];
  readonly openQuestions: readonly string[];
  readonly parts: readonly ProgramPartDetail[];
  readonly choices: readonly { readonly text: string; readonly verdict: Verdict }[];
  readonly verdict: Verdict;
  readonly instrumentKnown: boolean;
  /** Scores the studio has already, to choose from. */
  readonly scores: readonly { readonly id: string; readonly title: string }[];
}
