import { HttpClient } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import type { UnitsView } from '@vivid-cue/contract';
import { pathOf } from '@vivid-cue/contract/routes';

/** What was done beside the program. */
@Injectable({ providedIn: 'root' })
export class UnitApi {
  private readonly http = inject(HttpClient);

  ofStudent(studentId: string): Observable<UnitsView> {
    return this.http.get<UnitsView>(pathOf('listUnits', { studentId }));
  }

  own(): Observable<UnitsView> {
    return this.http.get<UnitsView>(pathOf('listDeskUnits'));
  }
}
