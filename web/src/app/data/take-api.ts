import { HttpClient } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import type { ToldTake } from '@vivid-cue/core/takes';
import type { TakeForm, TakeInput, TakeMarks, TakeRun, TakesView, TakeView } from '@vivid-cue/contract';
import { pathOf, type RouteName } from '@vivid-cue/contract/routes';
import type { TakeDoor } from './take-database';

type Deed =
  | 'list'
  | 'create'
  | 'read'
  | 'chunk'
  | 'sound'
  | 'reading'
  | 'mark'
  | 'logRun'
  | 'retractRun'
  | 'remove'
  | 'restore';

const ROUTES: Readonly<Record<TakeDoor, Readonly<Record<Deed, RouteName>>>> = {
  studio: {
    list: 'listTakes',
    create: 'createTake',
    read: 'readTake',
    chunk: 'keepTakeChunk',
    sound: 'readTakeSound',
    reading: 'keepTakeReading',
    mark: 'markTake',
    logRun: 'logTakeRun',
    retractRun: 'retractTakeRun',
    remove: 'removeTake',
    restore: 'restoreTake',
  },
  desk: {
    list: 'listDeskTakes',
    create: 'createDeskTake',
    read: 'readDeskTake',
    chunk: 'keepDeskTakeChunk',
    sound: 'readDeskTakeSound',
    reading: 'keepDeskTakeReading',
    mark: 'markDeskTake',
    logRun: 'logDeskTakeRun',
    retractRun: 'retractDeskTakeRun',
    remove: 'removeDeskTake',
    restore: 'restoreDeskTake',
  },
};

/** The routes of takes, for the studio or for the student at the desk: one method a route. */
export class TakeRoutes {
  constructor(
    private readonly http: HttpClient,
    readonly door: TakeDoor,
  ) {}

  list(studentId: string): Observable<TakesView> {
    return this.http.get<TakesView>(this.path('list', { studentId }));
  }

  create(studentId: string, input: TakeInput): Observable<TakeView> {
    return this.http.post<TakeView>(this.path('create', { studentId }), input);
  }

  read(takeId: string): Observable<TakeView> {
    return this.http.get<TakeView>(this.path('read', { takeId }));
  }

  chunk(
    takeId: string,
    { form, n, bytes }: { readonly form: TakeForm; readonly n: number; readonly bytes: Blob },
  ): Observable<{ readonly isWhole: boolean }> {
    return this.http.put<{ readonly isWhole: boolean }>(this.path('chunk', { takeId }), bytes, {
      params: { form, n },
      headers: { 'Content-Type': 'application/octet-stream' },
    });
  }

  /** The address of a take's sound. */
  soundPath(takeId: string, form: TakeForm = 'sound'): string {
    return `${this.path('sound', { takeId })}?form=${form}`;
  }

  sound(takeId: string): Observable<ArrayBuffer> {
    return this.http.get(this.path('sound', { takeId }), { responseType: 'arraybuffer' });
  }

  keepReading(takeId: string, told: ToldTake): Observable<void> {
    return this.http.put<void>(this.path('reading', { takeId }), { told });
  }

  mark(takeId: string, marks: TakeMarks, version: number): Observable<TakeView> {
    return this.http.put<TakeView>(this.path('mark', { takeId }), marks, {
      headers: { 'If-Match': `"${version}"` },
    });
  }

  logRun(takeId: string, run: TakeRun): Observable<TakeView> {
    return this.http.post<TakeView>(this.path('logRun', { takeId }), run);
  }

  retractRun(takeId: string): Observable<TakeView> {
    return this.http.delete<TakeView>(this.path('retractRun', { takeId }));
  }

  remove(takeId: string): Observable<void> {
    return this.http.delete<void>(this.path('remove', { takeId }));
  }

  restore(takeId: string): Observable<TakeView> {
    return this.http.post<TakeView>(this.path('restore', { takeId }), null);
  }

  private path(deed: Deed, ids: Readonly<Record<string, string>>): string {
    return pathOf(ROUTES[this.door][deed], ids);
  }
}

/** Both sets of routes. */
@Injectable({ providedIn: 'root' })
export class TakeApi {
  private readonly http = inject(HttpClient);
  readonly studio = new TakeRoutes(this.http, 'studio');
  readonly desk = new TakeRoutes(this.http, 'desk');
}
