import { HttpClient } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import { forkJoin, type Observable } from 'rxjs';
import { writePaper, type PaperMusic } from '@vivid-cue/core/paper';
import type {
  CueChange,
  CueInput,
  CueView,
  StudentAir,
  FindingMarkInput,
  FindingMarkView,
  Numbering,
  PageSize,
  PageView,
  PassageChange,
  PassageInput,
  PassageList,
  PassagePageView,
  PassageView,
  RepInput,
  ScoreRoomView,
  Target,
} from '@vivid-cue/contract';
import { pathOf } from '@vivid-cue/contract/routes';

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

  /** Keeps music on paper; `id` stays the same when the same music is sent again. */
  keepPaper(programPartId: string, id: string, paper: PaperMusic): Observable<ScoreRoomView> {
    const file = new File([writePaper(paper)], 'paper.json', { type: 'application/json' });
    return this.upload(programPartId, id, file);
  }

  /** Sends the picture of a page; `id` stays the same when it is sent again. */
  keepPage(programPartId: string, id: string, picture: Blob): Observable<PageView> {
    return this.http.put<PageView>(pathOf('keepPage', { programPartId }), picture, {
      params: { id },
      headers: { 'Content-Type': 'application/octet-stream' },
    });
  }

  /** Where a page's picture is. */
  pageUrl(pageId: string, size: PageSize): string {
    return `${pathOf('readPagePicture', { pageId })}?size=${size}`;
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

  /** Makes several passages, all or none. */
  addPassages(programPartId: string, passages: PassageList['passages']): Observable<PassageView[]> {
    return this.http.post<PassageView[]>(pathOf('createPassages', { programPartId }), { passages });
  }

  setNumbering(programPartId: string, numbering: Numbering): Observable<ScoreRoomView> {
    return this.http.put<ScoreRoomView>(pathOf('changeNumbering', { programPartId }), numbering);
  }

  markFinding(programPartId: string, mark: FindingMarkInput): Observable<FindingMarkView[]> {
    return this.http.put<FindingMarkView[]>(pathOf('markFinding', { programPartId }), mark);
  }

  addCue(programPartId: string, input: CueInput): Observable<CueView> {
    return this.http.post<CueView>(pathOf('createCue', { programPartId }), input);
  }

  addCues(programPartId: string, cues: readonly CueInput[]): Observable<CueView[]> {
    return this.http.post<CueView[]>(pathOf('createCues', { programPartId }), { cues });
  }

  /** Keeps how long a student's long tones last. */
  keepAir(studentId: string, air: StudentAir): Observable<void> {
    return this.http.put<void>(pathOf('changeAir', { studentId }), air);
  }

  changeCue({ id, version }: CueView, change: CueChange): Observable<CueView> {
    return this.http.put<CueView>(pathOf('changeCue', { cueId: id }), change, {
      headers: { 'If-Match': `"${version}"` },
    });
  }

  removeCue(cueId: string): Observable<void> {
    return this.http.delete<void>(pathOf('removeCue', { cueId }));
  }

  removeCues(cueIds: readonly string[]): Observable<void[]> {
    return forkJoin(cueIds.map((id) => this.removeCue(id)));
  }

  restoreCue(cueId: string): Observable<void> {
    return this.http.post<void>(pathOf('restoreCue', { cueId }), null);
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

  /** Reps that waited, in the order in which they were played: all of them or none. */
  logReps(passageId: string, reps: readonly RepInput[]): Observable<PassageView> {
    return this.http.post<PassageView>(pathOf('createReps', { passageId }), { reps });
  }

  takeBack(repId: string): Observable<PassageView> {
    return this.http.post<PassageView>(pathOf('retractRep', { repId }), null);
  }
}
