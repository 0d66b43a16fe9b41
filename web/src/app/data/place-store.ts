import { Injectable, signal } from '@angular/core';

/** Where the instructor was last, so that the work line leads back there. */
@Injectable({ providedIn: 'root' })
export class PlaceStore {
  readonly studentId = signal<string | null>(null);
  readonly programPartId = signal<string | null>(null);
}
