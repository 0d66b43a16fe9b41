import { HttpClient } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import type { ListenerEntry, ListeningSessionView, ListeningView, ScoreInput } from '@vivid-cue/contract';
import { pathOf } from '@vivid-cue/contract/routes';

/** A listener's routes. */
@Injectable({ providedIn: 'root' })
export class ListeningApi {
  private readonly http = inject(HttpClient);

  session(): Observable<ListeningSessionView> {
    return this.http.get<ListeningSessionView>(pathOf('readListenerSession'));
  }

  enter(entry: ListenerEntry): Observable<ListeningSessionView> {
    return this.http.post<ListeningSessionView>(pathOf('enterListening'), entry);
  }

  read(): Observable<ListeningView> {
    return this.http.get<ListeningView>(pathOf('readListening'));
  }

  keep(score: ScoreInput): Observable<unknown> {
    return this.http.put(pathOf('keepListenerScore'), score);
  }

  /** The address of a take that was given to the day. */
  soundPath(takeId: string): string {
    return pathOf('readListenedSound', { takeId });
  }
}
