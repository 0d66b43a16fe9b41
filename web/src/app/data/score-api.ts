import { HttpClient } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import {
  pathOf,
  type PassageChange,
  type PassageInput,
  type PassagePageView,
  type PassageView,
  type RepInput,
  type ScoreRoomView,
  type Target,
} from '@vivid-cue/contract';

/** Scores, passages and reps: one method a route. */
@Injectable({ providedIn: 'root' })
export class ScoreApi {
  private readonly http = inject(HttpClient);

  room(programPartId: string): Observable<ScoreRoomView> {
    return this.http.get<ScoreRoomView>(pathOf('readScoreRoom', { programPartId }));
  }

  /** Sends a file; `id` stays the same when the same choice is sent again. */
  upload(programPartId: string, id: string, file: File): Observable<ScoreRoomView> {
    return this.http.put<ScoreRoomView>(pathOf('uploadScore', { programPartId }), file, {
      params: { id, fileName: file.name },
      headers: { 'Content-Type': 'application/octet-stream' },
    });
  }

  choosePart(programPartId: string, partId: string): Observable<ScoreRoomView> {
    return this.http.put<ScoreRoomView>(pathOf('chooseScorePart', { programPartId }), { partId });
  }

  setTarget(programPartId: string, target: Target): Observable<ScoreRoomView> {
    return this.http.put<ScoreRoomView>(pathOf('changeTarget', { programPartId }), target);
  }

  file(scoreId: string): Observable<ArrayBuffer> {
    return this.http.get(pathOf('readScoreFile', { scoreId }), { responseType: 'arraybuffer' });
  }

  addPassage(programPartId: string, input: PassageInput): Observable<PassageView> {
    return this.http.post<PassageView>(pathOf('createPassage', { programPartId }), input);
  }

  passage(passageId: string): Observable<PassagePageView> {
    return this.http.get<PassagePageView>(pathOf('readPassage', { passageId }));
  }

  changePassage({ id, version }: PassageView, change: PassageChange): Observable<PassageView> {
    return this.http.put<PassageView>(pathOf('changePassage', { passageId: id }), change, {
      headers: { 'If-Match': `"${version}"` },
    });
  }

  removePassage(passageId: string): Observable<void> {
    return this.http.delete<void>(pathOf('removePassage', { passageId }));
  }

  restorePassage(passageId: string): Observable<void> {
    return this.http.post<void>(pathOf('restorePassage', { passageId }), null);
  }

  logRep(passageId: string, rep: RepInput): Observable<PassageView> {
    return this.http.post<PassageView>(pathOf('createRep', { passageId }), rep);
  }

  takeBack(repId: string): Observable<PassageView> {
    return this.http.post<PassageView>(pathOf('retractRep', { repId }), null);
  }
}
