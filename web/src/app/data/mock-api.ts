import { HttpClient } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import type {
  ListenerInput,
  MockChange,
  MockInput,
  MockPlace,
  MocksView,
  MockTake,
  MockView,
} from '@vivid-cue/contract';
import { pathOf } from '@vivid-cue/contract/routes';

/** Mock days of the studio: one method a route. */
@Injectable({ providedIn: 'root' })
export class MockApi {
  private readonly http = inject(HttpClient);

  list(): Observable<MocksView> {
    return this.http.get<MocksView>(pathOf('listMocks'));
  }

  make(input: MockInput): Observable<MockView> {
    return this.http.post<MockView>(pathOf('createMock'), input);
  }

  read(mockId: string): Observable<MockView> {
    return this.http.get<MockView>(pathOf('readMock', { mockId }));
  }

  change(mockId: string, change: MockChange, version: number): Observable<MockView> {
    return this.http.put<MockView>(pathOf('changeMock', { mockId }), change, {
      headers: { 'If-Match': `"${version}"` },
    });
  }

  remove(mockId: string): Observable<void> {
    return this.http.delete<void>(pathOf('removeMock', { mockId }));
  }

  restore(mockId: string): Observable<MockView> {
    return this.http.post<MockView>(pathOf('restoreMock', { mockId }), null);
  }

  place(mockId: string, place: MockPlace): Observable<MockView> {
    return this.http.put<MockView>(pathOf('placeMock', { mockId }), place);
  }

  attach(mockId: string, take: MockTake): Observable<MockView> {
    return this.http.put<MockView>(pathOf('attachMockTake', { mockId }), take);
  }

  close(mockId: string): Observable<MockView> {
    return this.http.post<MockView>(pathOf('closeMock', { mockId }), null);
  }

  reopen(mockId: string): Observable<MockView> {
    return this.http.delete<MockView>(pathOf('reopenMock', { mockId }));
  }

  addListener(mockId: string, input: ListenerInput): Observable<MockView> {
    return this.http.post<MockView>(pathOf('createListener', { mockId }), input);
  }

  revokeListener(listenerId: string): Observable<void> {
    return this.http.delete<void>(pathOf('revokeListener', { listenerId }));
  }
}
