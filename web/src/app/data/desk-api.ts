import { HttpClient } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import type {
  DeskEntry,
  DeskNoteInput,
  DeskSessionView,
  DeskView,
  PageSize,
  PassageView,
  RepInput,
  SurpriseInput,
  TaskTick,
  UnitInput,
} from '@vivid-cue/contract';
import { pathOf } from '@vivid-cue/contract/routes';

/** The student's routes. */
@Injectable({ providedIn: 'root' })
export class DeskApi {
  private readonly http = inject(HttpClient);

  session(): Observable<DeskSessionView> {
    return this.http.get<DeskSessionView>(pathOf('readDeskSession'));
  }

  enter(entry: DeskEntry): Observable<DeskSessionView> {
    return this.http.post<DeskSessionView>(pathOf('enterDesk'), entry);
  }

  leave(): Observable<void> {
    return this.http.delete<void>(pathOf('leaveDesk'));
  }

  read(): Observable<DeskView> {
    return this.http.get<DeskView>(pathOf('readDesk'));
  }

  file(scoreId: string): Observable<ArrayBuffer> {
    return this.http.get(pathOf('readDeskScore', { scoreId }), { responseType: 'arraybuffer' });
  }

  page(pageId: string, size: PageSize): Observable<Blob> {
    return this.http.get(pathOf('readDeskPage', { pageId }), { params: { size }, responseType: 'blob' });
  }

  logReps(passageId: string, reps: readonly RepInput[]): Observable<PassageView> {
    return this.http.post<PassageView>(pathOf('createDeskReps', { passageId }), { reps });
  }

  takeBack(repId: string): Observable<PassageView> {
    return this.http.post<PassageView>(pathOf('retractDeskRep', { repId }), null);
  }

  flag(passageId: string, surprise: SurpriseInput): Observable<unknown> {
    return this.http.post(pathOf('createSurprise', { passageId }), surprise);
  }

  tick(tick: TaskTick): Observable<unknown> {
    return this.http.put(pathOf('tickDeskTask'), tick);
  }

  keepUnit(unit: UnitInput): Observable<unknown> {
    return this.http.post(pathOf('createDeskUnit'), unit);
  }

  note(note: DeskNoteInput): Observable<unknown> {
    return this.http.post(pathOf('createDeskNote'), note);
  }
}
