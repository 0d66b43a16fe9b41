import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { liveQuery, type Subscription } from 'dexie';
import { firstValueFrom } from 'rxjs';
import { v7 as newId } from 'uuid';
import { levelWord, peakOf, type ToldTake } from '@vivid-cue/core/takes';
import type { TakeMarks, TakePart, TakesView } from '@vivid-cue/contract';
import { FlacMaker } from '../data/flac-maker';
import type { EndedRecording } from '../data/take-store';
import { troubleOf } from '../data/problem';
import { openSound } from '../data/sound-file';
import { TakeApi, type TakeRoutes } from '../data/take-api';
import { ownerKey, type KeptRecording, type TakeOwner } from '../data/take-database';
import { TakeOutbox } from '../data/take-outbox';

/** A recording with its samples. Units: 16-bit samples; samples a second */
export interface RecordedSound {
  readonly pieces: readonly Int16Array<ArrayBuffer>[];
  readonly rate: number;
}

/** The takes of one student: those with the server, those on their way, and recordings nobody has kept yet. */
@Injectable()
export class TakeDesk {
  private readonly api = inject(TakeApi);
  private readonly flac = inject(FlacMaker);
  readonly outbox = inject(TakeOutbox);

  private owner: TakeOwner = { door: 'studio', ownerId: '' };
  private studentId = '';
  private watch: Subscription | null = null;
  private asked = 0;
  /** Pieces that the device had no room for, by their recording. */
  private readonly loose = new Map<string, readonly Int16Array<ArrayBuffer>[]>();

  readonly view = signal<TakesView | null>(null);
  readonly failure = signal<string | null>(null);
  /** Recordings on this device that were neither kept nor dropped. */
  readonly recordings = signal<readonly KeptRecording[]>([]);
  /** The recording that is made just now. */
  readonly runningId = signal<string | null>(null);
  /** The recording that is looked at. */
  readonly openId = signal<string | null>(null);

  constructor() {
    inject(DestroyRef).onDestroy(() => this.watch?.unsubscribe());
    this.outbox.answered$.pipe(takeUntilDestroyed()).subscribe(() => void this.load());
  }

  get routes(): TakeRoutes {
    return this.api[this.owner.door];
  }

  /** Says whose takes these are. */
  open(owner: TakeOwner, studentId: string): void {
    [this.owner, this.studentId] = [owner, studentId];
    this.outbox.open(owner);
    this.watch?.unsubscribe();
    this.watch = liveQuery(() =>
      this.outbox.database.recordings.where('owner').equals(ownerKey(owner)).sortBy('atMs'),
    ).subscribe({
      next: (all) => this.recordings.set(all.filter((one) => one.studentId === studentId)),
      error: () => undefined,
    });
    void this.load();
  }

  /** Reads the list anew; an answer that comes after a later one's question is passed over. */
  async load(): Promise<void> {
    this.asked += 1;
    const own = this.asked;
    try {
      const view = await firstValueFrom(this.routes.list(this.studentId));
      if (own !== this.asked) return;
      this.view.set(view);
      this.failure.set(null);
    } catch (error) {
      if (own === this.asked && !this.view()) this.failure.set(troubleOf(error).message);
    }
  }

  /** Two takes of the list, the earlier one first. */
  inOrder(one: string, other: string): readonly [before: string, after: string] {
    const takes = this.view()?.takes ?? [];
    const numberOf = (id: string): number => takes.find((take) => take.id === id)?.number ?? 0;
    return numberOf(one) <= numberOf(other) ? [one, other] : [other, one];
  }

  /** What a recording of a part is, before anything of it is recorded. Shape: `sittingId` of a program that is played through */
  begun(part: TakePart, sittingId: string | null, isCounted: boolean): KeptRecording {
    return {
      ...{ id: newId(), studentId: this.studentId, programPartId: part.id, workTitle: part.workTitle },
      ...{
        sittingId,
        atMs: Date.now(),
        withRepeats: part.withRepeats,
        asked: isCounted ? part.target : null,
      },
      ...{ owner: ownerKey(this.owner), rate: 0, frames: 0, peak: 0, isRunning: true },
    };
  }

  /** A recording has ended: it is looked at next. */
  ended({ id, frames, unwritten }: EndedRecording): void {
    this.runningId.set(null);
    if (unwritten.length > 0) this.loose.set(id, unwritten);
    if (frames > 0) this.openId.set(id);
    else void this.drop(id);
  }

  /** Brings a sound file as a recording of a part. Errors: rejects with one sentence */
  async bring(file: File, part: TakePart): Promise<void> {
    const { samples, rate, kind } = await openSound(file);
    const begun = this.begun(part, null, false);
    const { recordings, pieces } = this.outbox.database;
    const original = kind === null ? null : { kind, file: new Blob([file], { type: kind }) };
    await pieces.put({ takeId: begun.id, n: 0, samples });
    await recordings.put({
      ...begun,
      ...{ rate, frames: samples.length, peak: peakOf(samples) / 32_768, isRunning: false },
      ...(original && { original }),
    });
    this.openId.set(begun.id);
  }

  /** The samples of a recording. */
  async soundOf(recording: KeptRecording): Promise<RecordedSound> {
    const kept = await this.outbox.database.pieces.where('takeId').equals(recording.id).sortBy('n');
    return {
      pieces: [...kept.map(({ samples }) => samples), ...(this.loose.get(recording.id) ?? [])],
      rate: recording.rate,
    };
  }

  /** Keeps a recording: it is packed, put into the outbox, and leaves as a recording. */
  async keep(
    recording: KeptRecording,
    { marks, told }: { readonly marks: TakeMarks; readonly told: ToldTake | null },
  ): Promise<void> {
    const { pieces, rate } = await this.soundOf(recording);
    const frames = pieces.reduce((sum, piece) => sum + piece.length, 0);
    const sound = await this.flac.flacOf(pieces, rate);
    const { id, studentId, programPartId, workTitle, sittingId, atMs, withRepeats, asked, original } =
      recording;
    await this.outbox.add({
      facts: { id, studentId, programPartId, workTitle, sittingId, atMs, withRepeats, asked },
      ...{ seconds: frames / rate, level: levelWord(recording.peak), sound, original: original ?? null },
      ...{ marks, told },
    });
    await this.drop(id);
  }

  /** Takes a recording off this device. */
  async drop(id: string): Promise<void> {
    const { database } = this.outbox;
    await database.transaction('rw', database.recordings, database.pieces, async () => {
      await database.recordings.delete(id);
      await database.pieces.where('takeId').equals(id).delete();
    });
    this.loose.delete(id);
    if (this.openId() === id) this.openId.set(null);
  }
}
