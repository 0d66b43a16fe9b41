import { array, boolean, number, object, string, type InferType } from 'yup';
import type { CallKind, MockItem } from '@vivid-cue/core/mock';
import { dateField, idField, textField } from './fields.js';

const CALLS: readonly CallKind[] = ['as-asked', 'drawn', 'from-a-start', 'sight', 'aural'];
const MOST_ITEMS = 40;

const pointsField = number().min(0, 'Points are 0 or more.').max(1000, 'A thing has at most 1,000 points.');
const secondsField = number().integer().min(0).max(1800, 'Half an hour is the longest wait.');

const criterionSchema = object({
  name: textField('What is listened for', 60).required('Say what is listened for.'),
  points: pointsField.required('Say how many points it has.'),
}).exact();

const itemSchema = object({
  id: idField.required(),
  call: string<CallKind>().oneOf(CALLS).required(),
  /** Parts of the player's program; the first where nothing is drawn. */
  partIds: array(idField.required()).max(MOST_ITEMS).required(),
  title: textField('A title', 160).required('The title is missing.'),
  words: string().trim().max(400, 'What is said has at most 400 characters.').defined(),
  level: number().integer().min(1).max(8).required(),
  studySeconds: secondsField.required(),
  pauseSeconds: secondsField.required(),
  criteria: array(criterionSchema.required())
    .min(1, 'Every thing that is called up is scored for something.')
    .max(12, 'Nobody listens for more than twelve things at once.')
    .required(),
}).exact();

const mockFields = {
  date: dateField().required('Say on which day it is.'),
  /** Whether listeners see no names, and players in an order of their own. */
  isBlind: boolean().strict().required(),
  /** Whether each thing is recorded while it is played. */
  isRecorded: boolean().strict().required(),
};

/** A mock day to make: whose programs are played, in their order. */
export const mockInputSchema = object({
  id: idField.required(),
  ...mockFields,
  players: array(object({ id: idField.required(), programId: idField.required() }).exact().required())
    .min(1, 'Choose at least one student.')
    .max(60)
    .required(),
}).exact();

/** A changed mock day: what is called up, in which order, with which words. */
export const mockChangeSchema = object({
  ...mockFields,
  players: array(
    object({
      id: idField.required(),
      items: array(itemSchema.required()).max(MOST_ITEMS).required(),
    })
      .exact()
      .required(),
  )
    .min(1)
    .max(60)
    .required(),
}).exact();

/** Where the day is: nowhere, or at one thing of one player. */
export const mockPlaceSchema = object({
  now: object({
    playerId: idField.required(),
    itemId: idField.required(),
    phase: string<MockPhase>().oneOf(['called', 'study', 'playing', 'pause']).required(),
  })
    .exact()
    .nullable()
    .defined(),
}).exact();

/** A take that belongs to something that was played; null takes it away. */
export const mockTakeSchema = object({
  playerId: idField.required(),
  itemId: idField.required(),
  takeId: idField.nullable().defined(),
}).exact();

/** Somebody who listens. */
export const listenerInputSchema = object({
  id: idField.required(),
  name: textField('A name', 60).required('Say who it is; a number will do.'),
}).exact();

/** What opens a listener's page: the link, and its code as somebody may have typed it. */
export const listenerEntrySchema = object({
  listenerId: idField.required(),
  code: string().trim().max(40).required('The code is missing; it stands beside the link.'),
}).exact();

/** What a listener gives for one thing: sent again it is written over. */
export const scoreInputSchema = object({
  id: idField.required(),
  playerId: idField.required(),
  itemId: idField.required(),
  points: array(pointsField.nullable().defined()).max(12).required(),
  taps: array(number().integer().min(0).max(20_000).required()).max(500).required(),
  remark: string().trim().max(600, 'A remark has at most 600 characters.').defined(),
}).exact();

/** What a day is at while one thing is called up. */
export type MockPhase = 'called' | 'study' | 'playing' | 'pause';
/** A mock day to make, as a type. */
export type MockInput = InferType<typeof mockInputSchema>;
/** A changed mock day, as a type. */
export type MockChange = InferType<typeof mockChangeSchema>;
/** Where a day is, as a type. */
export type MockPlace = InferType<typeof mockPlaceSchema>;
/** A take of a day, as a type. */
export type MockTake = InferType<typeof mockTakeSchema>;
/** Somebody who listens, as a type. */
export type ListenerInput = InferType<typeof listenerInputSchema>;
/** What opens a listener's page, as a type. */
export type ListenerEntry = InferType<typeof listenerEntrySchema>;
/** A score to keep, as a type. */
export type ScoreInput = InferType<typeof scoreInputSchema>;

/** A measure that can be tapped. Units: quarters */
export interface TapMeasure {
  readonly index: number;
  readonly number: string;
  readonly quarters: number;
}

/** What was drawn for an item, and from which measure it begins. */
export interface MockDraw {
  readonly partId: string;
  readonly title: string;
  readonly start: string | null;
}

/** A thing that is called up, with what was drawn and what was recorded of it. */
export interface MockItemView extends MockItem {
  readonly drawn: MockDraw | null;
  readonly measures: readonly TapMeasure[];
  readonly takeId: string | null;
}

/** A player of a day. */
export interface MockPlayerView {
  readonly id: string;
  readonly programId: string;
  readonly student: { readonly id: string; readonly name: string; readonly instrument: string };
  readonly items: readonly MockItemView[];
}

/** A listener; the code is told once, when the link is made. */
export interface ListenerView {
  readonly id: string;
  readonly name: string;
  readonly code: string | null;
  readonly path: string;
  readonly lastUsedAt: string | null;
  readonly isRevoked: boolean;
}

/** A score as it was given. */
export interface ScoreView extends ScoreInput {
  readonly listenerId: string;
}

/** A mock day with all that is known of it. Shape: `closedAt` once its taps went back to the passages */
export interface MockView {
  readonly id: string;
  readonly date: string;
  readonly isBlind: boolean;
  readonly isRecorded: boolean;
  readonly seed: number;
  readonly version: number;
  readonly closedAt: string | null;
  readonly now: NonNullable<MockPlace['now']> | null;
  readonly players: readonly MockPlayerView[];
  readonly listeners: readonly ListenerView[];
  readonly scores: readonly ScoreView[];
}

/** A mock day in the list. */
export interface MockLine {
  readonly id: string;
  readonly date: string;
  readonly closedAt: string | null;
  readonly players: readonly { readonly studentId: string; readonly name: string }[];
  readonly listeners: number;
  readonly scores: number;
}

/** Programs that may be played in a mock. */
export interface MockChoice {
  readonly programId: string;
  readonly studentId: string;
  readonly name: string;
  readonly instrument: string;
  readonly sheetTitle: string;
  readonly daysLeft: number | null;
}

/** The studio's mock days, and who may play in one. */
export interface MocksView {
  readonly mocks: readonly MockLine[];
  readonly choices: readonly MockChoice[];
}

/** A thing as a listener is told of it. */
export interface HeardItem {
  readonly id: string;
  readonly title: string;
  readonly start: string | null;
  readonly criteria: MockItem['criteria'];
  readonly measures: readonly TapMeasure[];
  readonly takeId: string | null;
  /** What an ear test asks, and what is right. */
  readonly answers: readonly { readonly ask: string; readonly right: string }[];
}

/** A player as a listener is told of one: by name, or by number where nobody is to be known. */
export interface HeardPlayer {
  readonly id: string;
  readonly label: string;
  readonly instrument: string;
  readonly items: readonly HeardItem[];
}

/** A listener's page. */
export interface ListeningView {
  readonly listener: { readonly id: string; readonly name: string };
  readonly studioName: string;
  readonly vocabulary: 'us' | 'uk';
  readonly date: string;
  readonly isBlind: boolean;
  readonly isClosed: boolean;
  readonly now: { readonly playerId: string; readonly itemId: string } | null;
  readonly players: readonly HeardPlayer[];
  readonly scores: readonly ScoreInput[];
}

/** Who listens, and the token that changing requests carry. */
export interface ListeningSessionView {
  readonly csrfToken: string;
  readonly listener: { readonly id: string; readonly name: string } | null;
}
