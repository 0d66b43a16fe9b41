export { pathOf, ROUTES, type Route, type RouteAccess, type RouteName } from './routes.js';
export {
  ROUTE_INPUTS,
  type BodyOf,
  type BodyRoute,
  type QueryOf,
  type QueryRoute,
  type RouteInput,
} from './inputs.js';
export {
  fieldIssuesOf,
  PROBLEM_TYPE,
  type FieldIssue,
  type ProblemCode,
  type ProblemDetails,
} from './problems.js';
export { PAGE_SIZES, pagePictureSchema, pageQuerySchema, type PageSize, type PageView } from './pages.js';
export { idField, tempoSchema, type TempoOnWire } from './fields.js';
export {
  accountSchema,
  passwordChangeSchema,
  signInSchema,
  studioRemovalSchema,
  type PasswordChange,
  type AccountInput,
  type SessionView,
  type SignIn,
} from './sessions.js';
export {
  dateIn,
  dayNumber,
  daysLeft,
  dueMoment,
  instantOf,
  isZone,
  zoneOfPrinted,
  type PublishedMoment,
} from './zones.js';
export {
  calendarLinkSchema,
  settingsSchema,
  type CalendarLinkInput,
  type CalendarLinkView,
  type Settings,
  type SettingsView,
  type TimelineEntry,
  type TimelineView,
} from './settings.js';
export { bookSchema, PLAIN_BOOK, type Book, type BookView, type StudioRule } from './books.js';
export { CODE_LENGTH, CODE_LETTERS, plainCode } from './desk-code.js';
export { MOST_REPS } from './rep-limits.js';
export {
  deskEntrySchema,
  studentLinkSchema,
  type DeskEntry,
  type DeskPart,
  type DeskPassage,
  type DeskPlan,
  type DeskScore,
  type DeskSessionView,
  type DeskView,
  type StudentLinkInput,
  type StudentLinkView,
} from './desk.js';
export {
  deskNoteSchema,
  surpriseSchema,
  type DeskNoteInput,
  type DeskNoteView,
  type FromStudentView,
  type SurpriseInput,
  type SurpriseView,
} from './from-student.js';
export {
  lessonQuerySchema,
  lessonSchema,
  type LessonAsk,
  type LessonInput,
  type LessonView,
} from './lessons.js';
export {
  planSchema,
  recordPlanSchema,
  taskTickSchema,
  type KeptPlan,
  type OwnTask,
  type PlanToKeep,
  type RecordPlan,
  type TaskTick,
  type TaskView,
} from './plans.js';
export type { PlanView } from './plan-page.js';
export {
  airSchema,
  AS_THE_STUDIO,
  NO_AIR,
  studentSchoolsSchema,
  type StudentAir,
  type StudentSchools,
} from './schools.js';
export {
  studentChangeSchema,
  studentInputSchema,
  studentListSchema,
  versionSchema,
  type NextDate,
  type ProgramPartView,
  type ProgramView,
  type RibbonCell,
  type SeasonRow,
  type SeasonView,
  type StudentChange,
  type StudentInput,
  type StudentList,
  type StudentPageView,
  type StudentView,
} from './students.js';
export {
  DEADLINE_KINDS,
  moveSchema,
  PART_KINDS,
  revisionInputSchema,
  sheetChangeSchema,
  sheetInputSchema,
  type AskedQuestion,
  type ChoiceInput,
  type DeadlineInput,
  type ProgramBehind,
  type RevisionInput,
  type RevisionLine,
  type RevisionsView,
  type SheetChange,
  type SheetInput,
  type SheetLine,
  type SheetPartInput,
  type SheetRemovalView,
  type SheetView,
} from './sheets.js';
export {
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
  type PartChoice,
  type PassageChange,
  type PassageInput,
  type PassageList,
  type PassagePageView,
  type PassageView,
  type ProgramInput,
  type ProgramList,
  type ProgramPageView,
  type ProgramPartDetail,
  type RepInput,
  type RepView,
  type ScaleChoice,
  type ScoreRoomView,
  type SheetProgramLine,
  type Target,
} from './programs.js';
export {
  cueChangeSchema,
  cueInputSchema,
  cueListSchema,
  PLAIN_CUE,
  findingMarkSchema,
  numberingSchema,
  type CueAlternative,
  type CueChange,
  type CueInput,
  type CueList,
  type CueView,
  type FindingMarkInput,
  type FindingMarkView,
  type Numbering,
} from './score-marks.js';
export { RECORD_BYTES, RECORD_TOO_LARGE } from './record-limits.js';
export {
  RECORD_FORMAT,
  recordQuerySchema,
  recordRepSchema,
  recordSchema,
  type RecordPassage,
  type RecordReadView,
  type RecordRep,
  type StudentRecord,
} from './records.js';
export { CSV_COLUMNS, csvRows, partsFromCsv, type CsvParts, type CsvRow } from './sheet-csv.js';
export {
  adoptedSheet,
  deadlineStructure,
  sheetFromStructure,
  sheetStructure,
  storedPart,
  type StructureOptions,
} from './structure.js';
export { DRAFT_LIMIT, draftSchema, type DraftAnswer, type DraftInput, type DraftView } from './drafts.js';
export { toldSchema, type ToldOfText } from './told.js';
export { ORIGINAL_KINDS, TAKE_LIMITS, type OriginalKind, type TakeForm } from './take-limits.js';
export { NO_MARKS } from './take-marks.js';
export {
  recordTakeSchema,
  takeInputSchema,
  takeMarksSchema,
  type RecordTake,
  type TakeBounds,
  type TakeInput,
  type TakeLine,
  type TakeMarks,
  type TakePart,
  type TakeRun,
  type TakesView,
  type TakeTap,
  type TakeView,
} from './takes.js';
export { toldTakeSchema } from './told-take.js';
export type {
  HeardItem,
  HeardPlayer,
  ListenerEntry,
  ListenerInput,
  ListenerView,
  ListeningSessionView,
  ListeningView,
  MockChange,
  MockChoice,
  MockDraw,
  MockInput,
  MockItemView,
  MockLine,
  MockPhase,
  MockPlace,
  MockPlayerView,
  MocksView,
  MockTake,
  MockView,
  ScoreInput,
  ScoreView,
  TapMeasure,
} from './mocks.js';
export {
  UNIT_KINDS,
  unitSchema,
  type UnitInput,
  type UnitKind,
  type UnitLine,
  type UnitsView,
} from './units.js';
