import Dexie, { type Table } from 'dexie';
import type { BeatUnit } from '@vivid-cue/core/music';
import type { LevelWord, ToldTake } from '@vivid-cue/core/takes';
import type { OriginalKind, TakeMarks } from '@vivid-cue/contract';
import type { Waiting } from './outbox';

/** Where a take goes: the studio's routes or the student's. */
export type TakeDoor = 'studio' | 'desk';

/** Who keeps takes on this device: each sends only the own. */
export interface TakeOwner {
  readonly door: TakeDoor;
  readonly ownerId: string;
}

/** What a take is of, and how it was recorded. Units: milliseconds since 1970; beats of the unit a minute */
export interface TakeFacts {
  readonly id: string;
  readonly studentId: string;
  readonly programPartId: string;
  readonly workTitle: string;
  readonly sittingId: string | null;
  readonly atMs: number;
  readonly withRepeats: boolean;
  readonly asked: { readonly bpm: number; readonly beatUnit: BeatUnit } | null;
}

/**
 * A recording on this device that nobody has kept or dropped yet. Its samples are pieces of their own, written while it is
 * recorded, so that they outlive the page.
 * Shape:  `rate` 0 until the first piece
 */
export interface KeptRecording extends TakeFacts {
  readonly owner: string;
  readonly rate: number;
  readonly frames: number;
  readonly peak: number;
  readonly isRunning: boolean;
  /** Samples that the sound card skipped, replaced by silence. */
  readonly lost?: number;
  /** The file that it was brought as. */
  readonly original?: OriginalFile;
}

/** A file as it came. */
export interface OriginalFile {
  readonly kind: OriginalKind;
  readonly file: Blob;
}

/** Samples of a recording, in their order. */
export interface RecordedPiece {
  readonly takeId: string;
  readonly n: number;
  readonly samples: Int16Array<ArrayBuffer>;
}

/** A take that waits to be sent, with its sound. */
export interface WaitingTake extends Waiting {
  readonly owner: string;
  readonly door: TakeDoor;
  readonly facts: TakeFacts;
  readonly seconds: number;
  readonly level: LevelWord;
  readonly sound: Blob;
  readonly original: OriginalFile | null;
  /** What was marked while it was listened to, and what it said, before it was kept. */
  readonly marks: TakeMarks;
  readonly told: ToldTake | null;
}

/** What takes keep on this device. */
export class TakeDatabase extends Dexie {
  readonly recordings!: Table<KeptRecording, string>;
  readonly pieces!: Table<RecordedPiece, [string, number]>;
  readonly waiting!: Table<WaitingTake, number>;

  constructor() {
    super('vivid-cue-takes');
    this.version(1).stores({
      recordings: 'id, owner',
      pieces: '[takeId+n], takeId',
      waiting: '++order, owner',
    });
  }
}

/** One text for an owner. */
export function ownerKey({ door, ownerId }: TakeOwner): string {
  return `${door} ${ownerId}`;
}
