import { array, boolean, number, object, string, type InferType } from 'yup';
import type { Bpm, BeatUnit } from '@vivid-cue/core/music';
import type { Span } from '@vivid-cue/core/spans';
import type { LevelWord, Tendency, ToldTake } from '@vivid-cue/core/takes';
import { beatUnitField, bpmField, idField, instantField } from './fields.js';
import { repInputSchema } from './programs.js';
import { ORIGINAL_KINDS, TAKE_LIMITS, type OriginalKind, type TakeForm } from './take-limits.js';
import { toldTakeSchema } from './told-take.js';

const LEVEL_WORDS: readonly LevelWord[] = ['silent', 'too soft', 'good', 'too loud'];

const formFields = {
  bytes: number()
    .integer()
    .min(1)
    .max(TAKE_LIMITS.formBytes, 'This take is too large to be kept; a take lasts at most 12 minutes.')
    .required(),
  sha256: string()
    .matches(/^[0-9a-f]{64}$/u)
    .required(),
};

const tempoFields = object({ bpm: bpmField.required(), beatUnit: beatUnitField.required() }).exact();

const secondsField = number()
  .min(0)
  .max(TAKE_LIMITS.seconds, 'A take lasts at most 12 minutes; record it in parts.')
  .required();

const takeFields = {
  programPartId: idField.required(),
  /** Takes that were recorded one after the other, as a program is played. */
  sittingId: idField.nullable().defined(),
  at: instantField,
  seconds: secondsField,
  level: string<LevelWord>().oneOf(LEVEL_WORDS).required(),
  withRepeats: boolean().strict().required(),
  /** The tempo that was counted in, or null. */
  asked: tempoFields.nullable().defined(),
};

/** A take to keep: what it is of and what will be sent. */
export const takeInputSchema = object({
  id: idField.required(),
  ...takeFields,
  sound: object(formFields).exact().required(),
  original: object({
    ...formFields,
    kind: string<OriginalKind>()
      .oneOf(ORIGINAL_KINDS, 'Bring a sound file such as WAV, FLAC or MP3.')
      .required(),
  })
    .exact()
    .nullable()
    .defined(),
}).exact();

/** Which piece of which form comes. */
export const takeChunkSchema = object({
  form: string<TakeForm>().oneOf(['sound', 'original']).required(),
  n: number()
    .integer()
    .min(0)
    .max(Math.ceil(TAKE_LIMITS.formBytes / TAKE_LIMITS.chunkBytes))
    .required(),
}).exact();

/** Which form is listened to. */
export const takeSoundSchema = object({
  form: string<TakeForm>().oneOf(['sound', 'original']).default('sound'),
}).exact();

/** What was heard in a take. */
export const takeReadingSchema = object({ told: toldTakeSchema.required() }).exact();

const tapSchema = object({
  /** The measure's place in the score; null where nobody knows it. */
  index: number().integer().min(0).max(20_000).nullable().defined(),
  number: string().max(8).defined(),
  seconds: secondsField,
}).exact();

const takeMarksFields = {
  /** Measures that slipped, tapped or confirmed. */
  taps: array(tapSchema.required()).max(500, 'So many slips are better played again than tapped.').required(),
  /** Possible slips that were listened to and are fine. Units: seconds at which they stand */
  fine: array(number().min(0).max(4000).required()).max(500).required(),
  /** Downbeats tapped while listening. Units: seconds */
  downbeats: array(number().min(0).max(4000).required()).max(2000).required(),
  /** Beats of each tapped measure. */
  beats: number().integer().min(1).max(24).required(),
};

/** What somebody marked while listening. */
export const takeMarksSchema = object(takeMarksFields).exact();

/** A run that a take was: a rep of each passage. */
export const takeRunSchema = object({
  reps: array(
    repInputSchema
      .concat(object({ passageId: idField.required() }))
      .exact()
      .required(),
  )
    .min(1, 'There is no passage in this part yet; cut one first.')
    .max(500)
    .required(),
}).exact();

/** A take as a record holds it: its sound in base64. */
export const recordTakeSchema = object({
  id: idField.required(),
  ...takeFields,
  number: number().integer().min(1).required(),
  byStudent: boolean().strict().required(),
  isRemoved: boolean().strict().required(),
  told: toldTakeSchema.nullable().defined(),
  marks: takeMarksSchema.required(),
  sound: string()
    .matches(/^[\w+/]*={0,2}$/u, 'A sound is written in base64.')
    .required(),
  original: object({
    kind: string<OriginalKind>().oneOf(ORIGINAL_KINDS).required(),
    file: string()
      .matches(/^[\w+/]*={0,2}$/u)
      .required(),
  })
    .exact()
    .nullable()
    .defined(),
}).exact();

/** A take to keep, as a type. */
export type TakeInput = InferType<typeof takeInputSchema>;
/** What somebody marked, as a type. */
export type TakeMarks = InferType<typeof takeMarksSchema>;
/** A tapped measure. */
export type TakeTap = InferType<typeof tapSchema>;
/** A run to log, as a type. */
export type TakeRun = InferType<typeof takeRunSchema>;
/** A take of a record, as a type. */
export type RecordTake = InferType<typeof recordTakeSchema>;

/** A take in a list. Units: seconds, bytes as stored; days of the calendar */
export interface TakeLine {
  readonly id: string;
  readonly programPartId: string;
  /** What it is of: the work's title, or else the part's label. */
  readonly workTitle: string;
  readonly number: number;
  readonly at: string;
  readonly seconds: number;
  readonly level: LevelWord;
  readonly byStudent: boolean;
  /** Whether all of it has arrived. */
  readonly isWhole: boolean;
  readonly bytes: number;
  /** The first thing it says, or null where nobody has read it yet. */
  readonly sentence: string | null;
  readonly opening: number | null;
  readonly decidingBpm: number | null;
  /** Possible slips that nobody has listened to yet. */
  readonly open: number;
  /** How many measures slipped in the run that it was, null where it is none yet. */
  readonly runSlips: number | null;
  /** The last day on which it is kept; null where no date says so. */
  readonly keptUntil: string | null;
}

/** The tempo that a sheet binds. Shape: null at an open end */
export interface TakeBounds {
  readonly min: number | null;
  readonly max: number | null;
  readonly beatUnit: BeatUnit;
}

/** A part that may be recorded. */
export interface TakePart {
  readonly id: string;
  readonly programId: string;
  readonly workTitle: string;
  readonly sheetTitle: string;
  readonly scoreId: string | null;
  readonly tempoText: string;
  /** What the sheet says of the tempo. Units: beats of its unit a minute; null where it binds nothing */
  readonly bounds: TakeBounds | null;
  readonly target: { readonly bpm: Bpm; readonly beatUnit: BeatUnit } | null;
  readonly withRepeats: boolean;
  /** Beats a minute that are counted in, and quarters of a measure. */
  readonly measureQuarters: number;
}

/** The takes of a student. */
export interface TakesView {
  readonly student: { readonly id: string; readonly name: string; readonly instrument: string };
  readonly parts: readonly TakePart[];
  /** Newest first. */
  readonly takes: readonly TakeLine[];
  readonly tendencies: readonly Tendency[];
  /** What the studio's takes fill, and may fill. Units: bytes */
  readonly room: { readonly used: number; readonly most: number };
}

/** One take with all that is known of it. */
export interface TakeView extends TakeLine {
  readonly student: { readonly id: string; readonly name: string; readonly instrument: string };
  readonly part: TakePart;
  readonly runs: readonly Span[];
  readonly asked: { readonly bpm: Bpm; readonly beatUnit: BeatUnit } | null;
  readonly withRepeats: boolean;
  readonly told: ToldTake | null;
  readonly marks: TakeMarks;
  readonly marksVersion: number;
  readonly original: OriginalKind | null;
  /** Pieces that have arrived, while it is not whole. */
  readonly arrived: { readonly sound: readonly number[]; readonly original: readonly number[] };
}
