import { HttpClient } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import {
  pathOf,
  type ProgramInput,
  type SeasonView,
  type SheetChange,
  type SheetInput,
  type SheetLine,
  type SheetView,
  type StudentChange,
  type StudentInput,
  type StudentPageView,
  type StudentView,
} from '@vivid-cue/contract';

/** Season, students, sheets and programs of the studio: one method a route. */
@Injectable({ providedIn: 'root' })
export class StudioApi {
  private readonly http = inject(HttpClient);

  season(): Observable<SeasonView> {
    return this.http.get<SeasonView>(pathOf('readSeason'));
  }

  addStudent(input: StudentInput): Observable<StudentView> {
    return this.http.post<StudentView>(pathOf('createStudent'), input);
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

  exportStudent(studentId: string): Observable<Blob> {
    return this.http.get(pathOf('exportStudent', { studentId }), { responseType: 'blob' });
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

  addProgram(input: ProgramInput): Observable<{ readonly id: string }> {
    return this.http.post<{ readonly id: string }>(pathOf('createProgram'), input);
  }

  removeProgram(programId: string): Observable<void> {
    return this.http.delete<void>(pathOf('removeProgram', { programId }));
  }

  restoreProgram(programId: string): Observable<void> {
    return this.http.post<void>(pathOf('restoreProgram', { programId }), null);
  }
}
