/**
 * Who may call a route: anybody; a signed-in instructor for rows of the own studio; a student who came by a personal link,
 * for the student's own rows.
 */
export type RouteAccess = 'open' | 'instructor' | 'student';

/**
 * One route of the server.
 * Shape:  `path` in the notation of path-to-regexp 8
 */
export interface Route {
  readonly method: 'GET' | 'POST' | 'PUT' | 'DELETE';
  readonly path: string;
  readonly access: RouteAccess;
}

/** Every route the server answers; the server mounts exactly these and the tests walk them all. */
export const ROUTES = {
  readSession: { method: 'GET', path: '/api/session', access: 'open' },
  signIn: { method: 'POST', path: '/api/session', access: 'open' },
  signOut: { method: 'DELETE', path: '/api/session', access: 'instructor' },
  createAccount: { method: 'POST', path: '/api/accounts', access: 'open' },
  changePassword: { method: 'PUT', path: '/api/account/password', access: 'instructor' },
  removeStudio: { method: 'POST', path: '/api/account/removal', access: 'instructor' },
  restoreStudio: { method: 'POST', path: '/api/account/restoration', access: 'open' },
  readSeason: { method: 'GET', path: '/api/season', access: 'instructor' },
  readForecasts: { method: 'GET', path: '/api/season/forecasts', access: 'instructor' },
  createStudents: { method: 'POST', path: '/api/students/batch', access: 'instructor' },
  createStudent: { method: 'POST', path: '/api/students', access: 'instructor' },
  readStudent: { method: 'GET', path: '/api/students/:studentId', access: 'instructor' },
  changeStudent: { method: 'PUT', path: '/api/students/:studentId', access: 'instructor' },
  removeStudent: { method: 'DELETE', path: '/api/students/:studentId', access: 'instructor' },
  restoreStudent: { method: 'POST', path: '/api/students/:studentId/restoration', access: 'instructor' },
  exportStudent: { method: 'GET', path: '/api/students/:studentId/export', access: 'instructor' },
  importRecord: { method: 'POST', path: '/api/records', access: 'instructor' },
  eraseStudent: { method: 'DELETE', path: '/api/students/:studentId/record', access: 'instructor' },
  listSheets: { method: 'GET', path: '/api/sheets', access: 'instructor' },
  createSheet: { method: 'POST', path: '/api/sheets', access: 'instructor' },
  readSheet: { method: 'GET', path: '/api/sheets/:sheetId', access: 'instructor' },
  changeSheet: { method: 'PUT', path: '/api/sheets/:sheetId', access: 'instructor' },
  removeSheet: { method: 'DELETE', path: '/api/sheets/:sheetId', access: 'instructor' },
  restoreSheet: { method: 'POST', path: '/api/sheets/:sheetId/restoration', access: 'instructor' },
  listRevisions: { method: 'GET', path: '/api/sheets/:sheetId/revisions', access: 'instructor' },
  createRevision: { method: 'POST', path: '/api/sheets/:sheetId/revisions', access: 'instructor' },
  listSheetPrograms: { method: 'GET', path: '/api/sheets/:sheetId/programs', access: 'instructor' },
  createPrograms: { method: 'POST', path: '/api/sheets/:sheetId/programs', access: 'instructor' },
  movePrograms: { method: 'POST', path: '/api/sheets/:sheetId/moves', access: 'instructor' },
  readSheetDraft: { method: 'GET', path: '/api/sheet-drafts/:sheetId', access: 'instructor' },
  keepSheetDraft: { method: 'PUT', path: '/api/sheet-drafts/:sheetId', access: 'instructor' },
  dropSheetDraft: { method: 'DELETE', path: '/api/sheet-drafts/:sheetId', access: 'instructor' },
  readTimeline: { method: 'GET', path: '/api/timeline', access: 'instructor' },
  readSettings: { method: 'GET', path: '/api/settings', access: 'instructor' },
  changeSettings: { method: 'PUT', path: '/api/settings', access: 'instructor' },
  readBook: { method: 'GET', path: '/api/book', access: 'instructor' },
  changeBook: { method: 'PUT', path: '/api/book', access: 'instructor' },
  listCalendarLinks: { method: 'GET', path: '/api/calendar-links', access: 'instructor' },
  createCalendarLink: { method: 'POST', path: '/api/calendar-links', access: 'instructor' },
  revokeCalendarLink: { method: 'DELETE', path: '/api/calendar-links/:linkId', access: 'instructor' },
  readCalendar: { method: 'GET', path: '/api/calendar/:token', access: 'open' },
  changeProgram: { method: 'PUT', path: '/api/programs/:programId', access: 'instructor' },
  readProgram: { method: 'GET', path: '/api/programs/:programId', access: 'instructor' },
  changePartChoice: { method: 'PUT', path: '/api/program-parts/:programPartId/choice', access: 'instructor' },
  writeScale: { method: 'PUT', path: '/api/program-parts/:programPartId/scale', access: 'instructor' },
  createProgram: { method: 'POST', path: '/api/programs', access: 'instructor' },
  removeProgram: { method: 'DELETE', path: '/api/programs/:programId', access: 'instructor' },
  restoreProgram: { method: 'POST', path: '/api/programs/:programId/restoration', access: 'instructor' },
  readScoreRoom: { method: 'GET', path: '/api/program-parts/:programPartId', access: 'instructor' },
  changeTarget: { method: 'PUT', path: '/api/program-parts/:programPartId/target', access: 'instructor' },
  uploadScore: { method: 'PUT', path: '/api/program-parts/:programPartId/score', access: 'instructor' },
  chooseScorePart: {
    method: 'PUT',
    path: '/api/program-parts/:programPartId/score-part',
    access: 'instructor',
  },
  changeNumbering: {
    method: 'PUT',
    path: '/api/program-parts/:programPartId/numbering',
    access: 'instructor',
  },
  markFinding: {
    method: 'PUT',
    path: '/api/program-parts/:programPartId/finding-marks',
    access: 'instructor',
  },
  createCue: { method: 'POST', path: '/api/program-parts/:programPartId/cues', access: 'instructor' },
  createCues: { method: 'POST', path: '/api/program-parts/:programPartId/cue-list', access: 'instructor' },
  changeAir: { method: 'PUT', path: '/api/students/:studentId/air', access: 'instructor' },
  changeCue: { method: 'PUT', path: '/api/cues/:cueId', access: 'instructor' },
  removeCue: { method: 'DELETE', path: '/api/cues/:cueId', access: 'instructor' },
  restoreCue: { method: 'POST', path: '/api/cues/:cueId/restoration', access: 'instructor' },
  createPassages: {
    method: 'POST',
    path: '/api/program-parts/:programPartId/passage-list',
    access: 'instructor',
  },
  keepPage: { method: 'PUT', path: '/api/program-parts/:programPartId/pages', access: 'instructor' },
  readPagePicture: { method: 'GET', path: '/api/pages/:pageId/picture', access: 'instructor' },
  readScoreFile: { method: 'GET', path: '/api/scores/:scoreId/file', access: 'instructor' },
  createPassage: { method: 'POST', path: '/api/program-parts/:programPartId/passages', access: 'instructor' },
  readPassage: { method: 'GET', path: '/api/passages/:passageId', access: 'instructor' },
  changePassage: { method: 'PUT', path: '/api/passages/:passageId', access: 'instructor' },
  removePassage: { method: 'DELETE', path: '/api/passages/:passageId', access: 'instructor' },
  restorePassage: { method: 'POST', path: '/api/passages/:passageId/restoration', access: 'instructor' },
  createRep: { method: 'POST', path: '/api/passages/:passageId/reps', access: 'instructor' },
  createReps: { method: 'POST', path: '/api/passages/:passageId/rep-list', access: 'instructor' },
  retractRep: { method: 'POST', path: '/api/reps/:repId/retraction', access: 'instructor' },
  listStudentLinks: { method: 'GET', path: '/api/students/:studentId/links', access: 'instructor' },
  createStudentLink: { method: 'POST', path: '/api/students/:studentId/links', access: 'instructor' },
  revokeStudentLink: { method: 'DELETE', path: '/api/student-links/:studentLinkId', access: 'instructor' },
  readLesson: { method: 'GET', path: '/api/students/:studentId/lesson', access: 'instructor' },
  keepLesson: { method: 'POST', path: '/api/students/:studentId/lessons', access: 'instructor' },
  readPlan: { method: 'GET', path: '/api/students/:studentId/plan', access: 'instructor' },
  keepPlan: { method: 'PUT', path: '/api/students/:studentId/plan', access: 'instructor' },
  tickTask: { method: 'PUT', path: '/api/students/:studentId/tasks', access: 'instructor' },
  listTakes: { method: 'GET', path: '/api/students/:studentId/takes', access: 'instructor' },
  createTake: { method: 'POST', path: '/api/students/:studentId/takes', access: 'instructor' },
  readTake: { method: 'GET', path: '/api/takes/:takeId', access: 'instructor' },
  keepTakeChunk: { method: 'PUT', path: '/api/takes/:takeId/chunks', access: 'instructor' },
  readTakeSound: { method: 'GET', path: '/api/takes/:takeId/sound', access: 'instructor' },
  keepTakeReading: { method: 'PUT', path: '/api/takes/:takeId/reading', access: 'instructor' },
  markTake: { method: 'PUT', path: '/api/takes/:takeId/marks', access: 'instructor' },
  logTakeRun: { method: 'POST', path: '/api/takes/:takeId/run', access: 'instructor' },
  retractTakeRun: { method: 'DELETE', path: '/api/takes/:takeId/run', access: 'instructor' },
  removeTake: { method: 'DELETE', path: '/api/takes/:takeId', access: 'instructor' },
  restoreTake: { method: 'POST', path: '/api/takes/:takeId/restoration', access: 'instructor' },
  clearSurprise: { method: 'POST', path: '/api/surprises/:surpriseId/clearing', access: 'instructor' },
  seeNote: { method: 'POST', path: '/api/student-notes/:noteId/sight', access: 'instructor' },
  readDeskSession: { method: 'GET', path: '/api/desk/session', access: 'open' },
  enterDesk: { method: 'POST', path: '/api/desk/session', access: 'open' },
  leaveDesk: { method: 'DELETE', path: '/api/desk/session', access: 'student' },
  readDesk: { method: 'GET', path: '/api/desk', access: 'student' },
  readDeskScore: { method: 'GET', path: '/api/desk/scores/:scoreId/file', access: 'student' },
  readDeskPage: { method: 'GET', path: '/api/desk/pages/:pageId/picture', access: 'student' },
  createDeskReps: { method: 'POST', path: '/api/desk/passages/:passageId/rep-list', access: 'student' },
  retractDeskRep: { method: 'POST', path: '/api/desk/reps/:repId/retraction', access: 'student' },
  createSurprise: { method: 'POST', path: '/api/desk/passages/:passageId/surprises', access: 'student' },
  tickDeskTask: { method: 'PUT', path: '/api/desk/tasks', access: 'student' },
  listDeskTakes: { method: 'GET', path: '/api/desk/takes', access: 'student' },
  createDeskTake: { method: 'POST', path: '/api/desk/takes', access: 'student' },
  readDeskTake: { method: 'GET', path: '/api/desk/takes/:takeId', access: 'student' },
  keepDeskTakeChunk: { method: 'PUT', path: '/api/desk/takes/:takeId/chunks', access: 'student' },
  readDeskTakeSound: { method: 'GET', path: '/api/desk/takes/:takeId/sound', access: 'student' },
  keepDeskTakeReading: { method: 'PUT', path: '/api/desk/takes/:takeId/reading', access: 'student' },
  markDeskTake: { method: 'PUT', path: '/api/desk/takes/:takeId/marks', access: 'student' },
  logDeskTakeRun: { method: 'POST', path: '/api/desk/takes/:takeId/run', access: 'student' },
  retractDeskTakeRun: { method: 'DELETE', path: '/api/desk/takes/:takeId/run', access: 'student' },
  removeDeskTake: { method: 'DELETE', path: '/api/desk/takes/:takeId', access: 'student' },
  restoreDeskTake: { method: 'POST', path: '/api/desk/takes/:takeId/restoration', access: 'student' },
  createDeskNote: { method: 'POST', path: '/api/desk/notes', access: 'student' },
} as const satisfies Readonly<Record<string, Route>>;

/** The name of a route. */
export type RouteName = keyof typeof ROUTES;

/**
 * The path of a route with its identifiers filled in.
 * Shape:  an absolute path
 * Errors: none; an identifier that is not given stays as its name
 */
export function pathOf(name: RouteName, ids: Readonly<Record<string, string>> = {}): string {
  return ROUTES[name].path.replace(/:(\w+)/gu, (whole, key: string) => encodeURIComponent(ids[key] ?? whole));
}
