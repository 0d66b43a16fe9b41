import type { InferType, Schema } from 'yup';
import { bookSchema } from './books.js';
import { deskEntrySchema, studentLinkSchema } from './desk.js';
import { deskNoteSchema, surpriseSchema } from './from-student.js';
import { draftSchema } from './drafts.js';
import { planSchema, taskTickSchema } from './plans.js';
import { lessonQuerySchema, lessonSchema } from './lessons.js';
import {
  listenerEntrySchema,
  listenerInputSchema,
  mockChangeSchema,
  mockInputSchema,
  mockPlaceSchema,
  mockTakeSchema,
  scoreInputSchema,
} from './mocks.js';
import { pagePictureSchema, pageQuerySchema } from './pages.js';
import {
  partChoiceSchema,
  passageChangeSchema,
  passageInputSchema,
  passageListSchema,
  programChangeSchema,
  programInputSchema,
  programListSchema,
  repInputSchema,
  repListSchema,
  scaleChoiceSchema,
  scorePartSchema,
  targetSchema,
  uploadSchema,
} from './programs.js';
import { exportQuerySchema, recordQuerySchema } from './records.js';
import type { RouteName } from './routes.js';
import { airSchema } from './schools.js';
import {
  cueChangeSchema,
  cueInputSchema,
  cueListSchema,
  findingMarkSchema,
  numberingSchema,
} from './score-marks.js';
import { accountSchema, passwordChangeSchema, signInSchema, studioRemovalSchema } from './sessions.js';
import { calendarLinkSchema, settingsSchema } from './settings.js';
import { moveSchema, revisionInputSchema, sheetChangeSchema, sheetInputSchema } from './sheets.js';
import {
  takeChunkSchema,
  takeInputSchema,
  takeMarksSchema,
  takeReadingSchema,
  takeRunSchema,
  takeSoundSchema,
} from './takes.js';
import { unitSchema } from './units.js';
import { studentChangeSchema, studentInputSchema, studentListSchema } from './students.js';

/** What a route takes beside its path. Shape: at most one of JSON in the body and texts in the query */
export interface RouteInput {
  readonly body?: Schema;
  readonly query?: Schema;
}

/**
 * What every route takes. A handler reads its input by the route's name alone, so that a route which is not here does not
 * compile, and what walks all inputs meets every one.
 */
export const ROUTE_INPUTS = {
  readSession: {},
  signIn: { body: signInSchema },
  signOut: {},
  createAccount: { body: accountSchema },
  changePassword: { body: passwordChangeSchema },
  removeStudio: { body: studioRemovalSchema },
  restoreStudio: { body: signInSchema },
  readSeason: {},
  readForecasts: {},
  createStudents: { body: studentListSchema },
  createStudent: { body: studentInputSchema },
  readStudent: {},
  changeStudent: { body: studentChangeSchema },
  removeStudent: {},
  restoreStudent: {},
  exportStudent: { query: exportQuerySchema },
  importRecord: { query: recordQuerySchema },
  eraseStudent: {},
  listSheets: {},
  createSheet: { body: sheetInputSchema },
  readSheet: {},
  changeSheet: { body: sheetChangeSchema },
  removeSheet: {},
  restoreSheet: {},
  listRevisions: {},
  createRevision: { body: revisionInputSchema },
  listSheetPrograms: {},
  createPrograms: { body: programListSchema },
  movePrograms: { body: moveSchema },
  readSheetDraft: {},
  keepSheetDraft: { body: draftSchema },
  dropSheetDraft: {},
  readTimeline: {},
  readSettings: {},
  changeSettings: { body: settingsSchema },
  readBook: {},
  changeBook: { body: bookSchema },
  listCalendarLinks: {},
  createCalendarLink: { body: calendarLinkSchema },
  revokeCalendarLink: {},
  readCalendar: {},
  changeProgram: { body: programChangeSchema },
  readProgram: {},
  changePartChoice: { body: partChoiceSchema },
  writeScale: { body: scaleChoiceSchema },
  createProgram: { body: programInputSchema },
  removeProgram: {},
  restoreProgram: {},
  readScoreRoom: {},
  changeTarget: { body: targetSchema },
  uploadScore: { query: uploadSchema },
  chooseScorePart: { body: scorePartSchema },
  changeNumbering: { body: numberingSchema },
  markFinding: { body: findingMarkSchema },
  createCue: { body: cueInputSchema },
  createCues: { body: cueListSchema },
  changeAir: { body: airSchema },
  changeCue: { body: cueChangeSchema },
  removeCue: {},
  restoreCue: {},
  createPassages: { body: passageListSchema },
  keepPage: { query: pageQuerySchema },
  readPagePicture: { query: pagePictureSchema },
  readScoreFile: {},
  createPassage: { body: passageInputSchema },
  readPassage: {},
  changePassage: { body: passageChangeSchema },
  removePassage: {},
  restorePassage: {},
  createRep: { body: repInputSchema },
  createReps: { body: repListSchema },
  retractRep: {},
  listStudentLinks: {},
  createStudentLink: { body: studentLinkSchema },
  revokeStudentLink: {},
  readLesson: { query: lessonQuerySchema },
  keepLesson: { body: lessonSchema },
  readPlan: {},
  keepPlan: { body: planSchema },
  tickTask: { body: taskTickSchema },
  listTakes: {},
  createTake: { body: takeInputSchema },
  readTake: {},
  keepTakeChunk: { query: takeChunkSchema },
  readTakeSound: { query: takeSoundSchema },
  keepTakeReading: { body: takeReadingSchema },
  markTake: { body: takeMarksSchema },
  logTakeRun: { body: takeRunSchema },
  retractTakeRun: {},
  removeTake: {},
  restoreTake: {},
  listUnits: {},
  listMocks: {},
  createMock: { body: mockInputSchema },
  readMock: {},
  changeMock: { body: mockChangeSchema },
  removeMock: {},
  restoreMock: {},
  placeMock: { body: mockPlaceSchema },
  attachMockTake: { body: mockTakeSchema },
  closeMock: {},
  reopenMock: {},
  createListener: { body: listenerInputSchema },
  revokeListener: {},
  readListenerSession: {},
  enterListening: { body: listenerEntrySchema },
  leaveListening: {},
  readListening: {},
  keepListenerScore: { body: scoreInputSchema },
  readListenedSound: { query: takeSoundSchema },
  clearSurprise: {},
  seeNote: {},
  readDeskSession: {},
  enterDesk: { body: deskEntrySchema },
  leaveDesk: {},
  readDesk: {},
  readDeskScore: {},
  readDeskPage: { query: pagePictureSchema },
  createDeskReps: { body: repListSchema },
  retractDeskRep: {},
  createSurprise: { body: surpriseSchema },
  tickDeskTask: { body: taskTickSchema },
  listDeskTakes: {},
  createDeskTake: { body: takeInputSchema },
  readDeskTake: {},
  keepDeskTakeChunk: { query: takeChunkSchema },
  readDeskTakeSound: { query: takeSoundSchema },
  keepDeskTakeReading: { body: takeReadingSchema },
  markDeskTake: { body: takeMarksSchema },
  logDeskTakeRun: { body: takeRunSchema },
  retractDeskTakeRun: {},
  removeDeskTake: {},
  restoreDeskTake: {},
  listDeskUnits: {},
  createDeskUnit: { body: unitSchema },
  createDeskNote: { body: deskNoteSchema },
} as const satisfies Readonly<Record<RouteName, RouteInput>>;

type Inputs = typeof ROUTE_INPUTS;

/** Routes that take JSON. */
export type BodyRoute = {
  [Name in RouteName]: Inputs[Name] extends { body: Schema } ? Name : never;
}[RouteName];
/** Routes that take a query. */
export type QueryRoute = {
  [Name in RouteName]: Inputs[Name] extends { query: Schema } ? Name : never;
}[RouteName];

/** The JSON that a route takes, as a type. */
export type BodyOf<Name extends BodyRoute> = Inputs[Name] extends { body: infer S extends Schema }
  ? InferType<S>
  : never;
/** The query that a route takes, as a type. */
export type QueryOf<Name extends QueryRoute> = Inputs[Name] extends { query: infer S extends Schema }
  ? InferType<S>
  : never;
