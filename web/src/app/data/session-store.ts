import { HttpClient } from '@angular/common/http';
import { computed, inject, Injectable, signal } from '@angular/core';
import { of, switchMap, tap, type Observable } from 'rxjs';
import type { Vocabulary } from '@vivid-cue/core/music';
import type { AccountInput, PasswordChange, SessionView, SignIn } from '@vivid-cue/contract';
import { pathOf } from '@vivid-cue/contract/routes';

/** Who is signed in, the token every changing request carries, and the studio's zone and vocabulary. */
@Injectable({ providedIn: 'root' })
export class SessionStore {
  private readonly http = inject(HttpClient);
  private readonly view = signal<SessionView | null>(null);

  readonly instructor = computed(() => this.view()?.instructor ?? null);
  readonly demo = computed(() => this.view()?.demo ?? null);
  /** A token that came with another answer than the session's. */
  private readonly freshToken = signal<string | null>(null);
  readonly csrfToken = computed(() => this.freshToken() ?? this.view()?.csrfToken ?? '');
  /** The words and zone of a student's desk, while one is open. */
  readonly desk = signal<{ readonly vocabulary: Vocabulary; readonly zone: string } | null>(null);
  readonly vocabulary = computed(() => (this.desk() ?? this.instructor())?.vocabulary ?? 'us');
  readonly zone = computed(() => (this.desk() ?? this.instructor())?.zone ?? 'UTC');

  /** The session as known, fetched on first need. */
  ensure(): Observable<SessionView> {
    const known = this.view();
    return known ? of(known) : this.refresh();
  }

  /** Asks the server anew: after a restart the token is another one. */
  refresh(): Observable<SessionView> {
    return this.http.get<SessionView>(pathOf('readSession')).pipe(tap((view) => this.take(view)));
  }

  /** A student's desk brings a token of its own. */
  useToken(token: string): void {
    this.freshToken.set(token);
  }

  private take(view: SessionView): void {
    this.freshToken.set(null);
    this.view.set(view);
  }

  signIn(input: SignIn): Observable<SessionView> {
    return this.enter('signIn', input);
  }

  openStudio(input: AccountInput): Observable<SessionView> {
    return this.enter('createAccount', input);
  }

  /** Brings a removed studio back and enters it. */
  restoreStudio(input: SignIn): Observable<SessionView> {
    return this.enter('restoreStudio', input);
  }

  changePassword(change: PasswordChange): Observable<void> {
    return this.http.put<void>(pathOf('changePassword'), change);
  }

  removeStudio(password: string): Observable<SessionView> {
    return this.http.post(pathOf('removeStudio'), { password }).pipe(switchMap(() => this.refresh()));
  }

  signOut(): Observable<SessionView> {
    return this.http.delete(pathOf('signOut')).pipe(switchMap(() => this.refresh()));
  }

  private enter(route: 'signIn' | 'createAccount' | 'restoreStudio', input: object): Observable<SessionView> {
    return this.http.post<SessionView>(pathOf(route), input).pipe(tap((view) => this.take(view)));
  }
}
