import { Injectable, signal } from '@angular/core';

/** The panels beside the score. */
export const ROOM_TABS = ['findings', 'passages', 'body', 'cues', 'facts'] as const;

/** One of the panels. */
export type RoomTab = (typeof ROOM_TABS)[number];

/** Where the instructor was last, so that the work line leads back there. */
@Injectable({ providedIn: 'root' })
export class PlaceStore {
  readonly studentId = signal<string | null>(null);
  readonly programId = signal<string | null>(null);
  readonly programPartId = signal<string | null>(null);
  /** The panel that was last open beside a score. */
  readonly roomTab = signal<RoomTab>('findings');
}
