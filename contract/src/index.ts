export { pathOf, ROUTES, type Route, type RouteAccess, type RouteName } from './routes.js';
export {
  fieldIssuesOf,
  PROBLEM_TYPE,
  type FieldIssue,
  type ProblemCode,
  type ProblemDetails,
} from './problems.js';
export { idField, tempoSchema, type TempoOnWire } from './fields.js';
export { accountSchema, signInSchema, type AccountInput, type SessionView, type SignIn } from './sessions.js';
export { dayNumber, daysLeft, instantOf, isZone, type PublishedMoment } from './zones.js';
export {
  studentChangeSchema,
  studentInputSchema,
  versionSchema,
  type NextDate,
  type ProgramPartView,
  type ProgramView,
  type RibbonCell,
  type SeasonRow,
  type SeasonView,
  type StudentChange,
  type StudentInput,
  type StudentPageView,
  type StudentView,
} from './students.js';
export {
  DEADLINE_KINDS,
  PART_KINDS,
  sheetChangeSchema,
  sheetInputSchema,
  type DeadlineInput,
  type SheetChange,
  type SheetInput,
  type SheetLine,
  type SheetPartInput,
  type SheetView,
} from './sheets.js';
export {
  passageChangeSchema,
  passageInputSchema,
  programInputSchema,
  repInputSchema,
  scorePartSchema,
  targetSchema,
  uploadSchema,
  type PassageChange,
  type PassageInput,
  type PassagePageView,
  type PassageView,
  type ProgramInput,
  type RepInput,
  type RepView,
  type ScoreRoomView,
  type Target,
} from './programs.js';
