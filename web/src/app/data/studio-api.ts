import { HttpClient } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import type {
  Book,
  BookView,
  CalendarLinkInput,
  CalendarLinkView,
  PartChoice,
  RecordReadView,
  ProgramInput,
  ProgramList,
  ProgramPageView,
  RevisionInput,
  RevisionsView,
  ScaleChoice,
  SeasonView,
  SheetChange,
  SheetInput,
  SheetLine,
  SheetProgramLine,
  SheetRemovalView,
  Settings,
  SettingsView,
  SheetView,
  StudentChange,
  LessonInput,
  LessonView,
  PlanToKeep,
  PlanView,
  TaskTick,
  PassageView,
  StudentLinkView,
  StudentInput,
  StudentList,
  StudentPageView,
  StudentView,
  Target,
  TimelineView,
  DraftAnswer,
  DraftView,
} from '@vivid-cue/contract';
import type { ForecastsView } from '@vivid-cue/contract/forecasts';
import { pathOf } from '@vivid-cue/contract/routes';

/** Season, students, sheets and programs of the studio: one method a route. */
@Injectable({ providedIn: 'root' })
export class StudioApi {
  private readonly http = inject(HttpClient);

  season(): Observable<SeasonView> {
    return this.http.get<SeasonView>(pathOf('readSeason'));
  }

  /** How the season is likely to go, as far as it is reckoned. */
  forecasts(): Observable<ForecastsView> {
    return this.http.get<ForecastsView>(pathOf('readForecasts'));
  }

  addStudent(input: StudentInput): Observable<StudentView> {
    return this.http.post<StudentView>(pathOf('createStudent'), input);
  }

  addStudents(list: StudentList): Observable<StudentView[]> {
    return this.http.post<StudentView[]>(pathOf('createStudents'), list);
  }

  sheetPrograms(sheetId: string): Observable<SheetProgramLine[]> {
    return this.http.get<SheetProgramLine[]>(pathOf('listSheetPrograms', { sheetId }));
  }

  addPrograms(sheetId: string, list: ProgramList): Observable<SheetProgramLine[]> {
    return this.http.post<SheetProgramLine[]>(pathOf('createPrograms', { sheetId }), list);
  }

  changeProgram(
    programId: string,
    change: { readonly division: string | null },
  ): Observable<ProgramPageView> {
    return this.http.put<ProgramPageView>(pathOf('changeProgram', { programId }), change);
  }

  student(studentId: string): Observable<StudentPageView> {
    return this.http.get<StudentPageView>(pathOf('readStudent', { studentId }));
  }

  changeStudent({ id, version }: StudentView, change: StudentChange): Observable<StudentView> {
    return this.http.put<StudentView>(pathOf('changeStudent', { studentId: id }), change, {
      headers: { 'If-Match': `"${version}"` },
    });
  }

  removeStudent(studentId: string): Observable<void> {
    return this.http.delete<void>(pathOf('removeStudent', { studentId }));
  }

  restoreStudent(studentId: string): Observable<void> {
    return this.http.post<void>(pathOf('restoreStudent', { studentId }), null);
  }

  exportStudent(studentId: string, sound: 'with' | 'without'): Observable<Blob> {
    return this.http.get(pathOf('exportStudent', { studentId }), { params: { sound }, responseType: 'blob' });
  }

  readRecord(studentId: string, file: Blob): Observable<RecordReadView> {
    return this.http.post<RecordReadView>(pathOf('importRecord'), file, {
      params: { studentId },
      headers: { 'Content-Type': 'application/octet-stream' },
    });
  }

  eraseStudent(studentId: string): Observable<void> {
    return this.http.delete<void>(pathOf('eraseStudent', { studentId }));
  }

  sheets(): Observable<SheetLine[]> {
    return this.http.get<SheetLine[]>(pathOf('listSheets'));
  }

  sheet(sheetId: string): Observable<SheetView> {
    return this.http.get<SheetView>(pathOf('readSheet', { sheetId }));
  }

  addSheet(input: SheetInput): Observable<SheetView> {
    return this.http.post<SheetView>(pathOf('createSheet'), input);
  }

  changeSheet(sheetId: string, version: number, change: SheetChange): Observable<SheetView> {
    return this.http.put<SheetView>(pathOf('changeSheet', { sheetId }), change, {
      headers: { 'If-Match': `"${version}"` },
    });
  }

  removeSheet(sheetId: string): Observable<SheetRemovalView> {
    return this.http.delete<SheetRemovalView>(pathOf('removeSheet', { sheetId }));
  }

  restoreSheet(sheetId: string): Observable<void> {
    return this.http.post<void>(pathOf('restoreSheet', { sheetId }), null);
  }

  /** What stands on the desk of a sheet, or of a new one under the studio's own identifier. */
  sheetDraft(sheetId: string): Observable<DraftAnswer> {
    return this.http.get<DraftAnswer>(pathOf('readSheetDraft', { sheetId }));
  }

  keepSheetDraft(sheetId: string, version: number, state: string): Observable<DraftView> {
    return this.http.put<DraftView>(
      pathOf('keepSheetDraft', { sheetId }),
      { state },
      { headers: { 'If-Match': `"${version}"` } },
    );
  }

  dropSheetDraft(sheetId: string): Observable<void> {
    return this.http.delete<void>(pathOf('dropSheetDraft', { sheetId }));
  }

  revisions(sheetId: string): Observable<RevisionsView> {
    return this.http.get<RevisionsView>(pathOf('listRevisions', { sheetId }));
  }

  addRevision(sheetId: string, version: number, input: RevisionInput): Observable<SheetView> {
    return this.http.post<SheetView>(pathOf('createRevision', { sheetId }), input, {
      headers: { 'If-Match': `"${version}"` },
    });
  }

  movePrograms(sheetId: string, programIds: string[] | null): Observable<RevisionsView> {
    return this.http.post<RevisionsView>(pathOf('movePrograms', { sheetId }), { programIds });
  }

  timeline(): Observable<TimelineView> {
    return this.http.get<TimelineView>(pathOf('readTimeline'));
  }

  settings(): Observable<SettingsView> {
    return this.http.get<SettingsView>(pathOf('readSettings'));
  }

  changeSettings(version: number, settings: Settings): Observable<SettingsView> {
    return this.http.put<SettingsView>(pathOf('changeSettings'), settings, {
      headers: { 'If-Match': `"${version}"` },
    });
  }

  /** How the studio writes its cues, and its rules of the hands. */
  book(): Observable<BookView> {
    return this.http.get<BookView>(pathOf('readBook'));
  }

  changeBook(version: number, book: Book): Observable<BookView> {
    return this.http.put<BookView>(pathOf('changeBook'), book, { headers: { 'If-Match': `"${version}"` } });
  }

  calendarLinks(): Observable<CalendarLinkView[]> {
    return this.http.get<CalendarLinkView[]>(pathOf('listCalendarLinks'));
  }

  addCalendarLink(input: CalendarLinkInput): Observable<CalendarLinkView> {
    return this.http.post<CalendarLinkView>(pathOf('createCalendarLink'), input);
  }

  revokeCalendarLink(linkId: string): Observable<void> {
    return this.http.delete<void>(pathOf('revokeCalendarLink', { linkId }));
  }

  program(programId: string): Observable<ProgramPageView> {
    return this.http.get<ProgramPageView>(pathOf('readProgram', { programId }));
  }

  choosePart(programPartId: string, choice: PartChoice): Observable<ProgramPageView> {
    return this.http.put<ProgramPageView>(pathOf('changePartChoice', { programPartId }), choice);
  }

  writeScale(programPartId: string, choice: ScaleChoice): Observable<ProgramPageView> {
    return this.http.put<ProgramPageView>(pathOf('writeScale', { programPartId }), choice);
  }

  setTarget(programPartId: string, target: Target): Observable<unknown> {
    return this.http.put(pathOf('changeTarget', { programPartId }), target);
  }

  addProgram(input: ProgramInput): Observable<{ readonly id: string }> {
    return this.http.post<{ readonly id: string }>(pathOf('createProgram'), input);
  }

  removeProgram(programId: string): Observable<void> {
    return this.http.delete<void>(pathOf('removeProgram', { programId }));
  }

  restoreProgram(programId: string): Observable<void> {
    return this.http.post<void>(pathOf('restoreProgram', { programId }), null);
  }

  studentLinks(studentId: string): Observable<StudentLinkView[]> {
    return this.http.get<StudentLinkView[]>(pathOf('listStudentLinks', { studentId }));
  }

  addStudentLink(studentId: string, id: string): Observable<StudentLinkView> {
    return this.http.post<StudentLinkView>(pathOf('createStudentLink', { studentId }), { id });
  }

  revokeStudentLink(studentLinkId: string): Observable<void> {
    return this.http.delete<void>(pathOf('revokeStudentLink', { studentLinkId }));
  }

  /** A surprise was looked at: its rung is free again. */
  clearSurprise(surpriseId: string): Observable<void> {
    return this.http.post<void>(pathOf('clearSurprise', { surpriseId }), null);
  }

  seeNote(noteId: string): Observable<void> {
    return this.http.post<void>(pathOf('seeNote', { noteId }), null);
  }

  /** What to hear in a lesson of so many minutes. */
  plan(studentId: string): Observable<PlanView> {
    return this.http.get<PlanView>(pathOf('readPlan', { studentId }));
  }

  keepPlan(studentId: string, plan: PlanToKeep): Observable<PlanView> {
    return this.http.put<PlanView>(pathOf('keepPlan', { studentId }), plan);
  }

  tickTask(studentId: string, tick: TaskTick): Observable<unknown> {
    return this.http.put(pathOf('tickTask', { studentId }), tick);
  }

  lesson(studentId: string, minutes: number): Observable<LessonView> {
    return this.http.get<LessonView>(pathOf('readLesson', { studentId }), { params: { minutes } });
  }

  keepLesson(studentId: string, lesson: LessonInput): Observable<unknown> {
    return this.http.post(pathOf('keepLesson', { studentId }), lesson);
  }

  takeRepBack(repId: string): Observable<PassageView> {
    return this.http.post<PassageView>(pathOf('retractRep', { repId }), null);
  }
}
