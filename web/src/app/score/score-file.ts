import { computed, effect, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { catchError, distinctUntilChanged, of, switchMap } from 'rxjs';
import { quarterBpm } from '@vivid-cue/core/music';
import { readPaper, type PaperMusic } from '@vivid-cue/core/paper';
import { scoreText } from '@vivid-cue/core/score';
import type { DrillWish } from '../data/driller';
import type { EngravedPart } from '../data/engraver';
import { ScoreApi } from '../data/score-api';
import type { OwnEdition } from './findings/edition-dialog';
import { ReadingStore } from './findings/reading-store';
import { RoomStore } from './room/room-store';

/** The file of the open score: fetched once, engraved and read from here. */
@Injectable()
export class ScoreFile {
  private readonly api = inject(ScoreApi);
  private readonly store = inject(RoomStore);
  private readonly reading = inject(ReadingStore);
  private readonly room = this.store.room;

  private readonly bytes = signal<ArrayBuffer | null>(null);
  /** The target as quarters a minute, null without one. */
  readonly targetQuarterBpm = computed(() => {
    const target = this.room()?.target;
    return target ? quarterBpm(target.bpm, target.beatUnit) : null;
  });
  /** What was told and typed, where there is no digital score. */
  readonly paper = computed((): PaperMusic | null => {
    const bytes = this.bytes();
    const read = bytes && readPaper(new Uint8Array(bytes));
    return read?.ok ? read.value : null;
  });
  private readonly musicXml = computed(() => {
    const bytes = this.bytes();
    return bytes && !this.paper() ? scoreText(new Uint8Array(bytes)) : null;
  });
  readonly part = computed(
    (): EngravedPart | null => {
      const [musicXml, room] = [this.musicXml(), this.room()];
      if (musicXml === null || !room?.score) return null;
      const { digest } = room.score;
      const numbers = room.numbering.length === 0 ? null : digest.measures.map(({ number }) => number);
      return { musicXml, partId: digest.partId, numbers };
    },
    { equal: isSamePart },
  );
  readonly own = computed((): OwnEdition | null => {
    const [bytes, part, room] = [this.bytes(), this.part(), this.room()];
    return bytes && part && room?.score
      ? { bytes, part, numbering: room.numbering, instrument: room.score.digest.instrument }
      : null;
  });
  /** What drills are made of, digital or on paper. */
  readonly music = computed((): Omit<DrillWish, 'span' | 'flagged' | 'tempo' | 'seed'> | null => {
    const [bytes, room] = [this.bytes(), this.room()];
    if (bytes === null || !room?.score) return null;
    const { partId, measures } = room.score.digest;
    return {
      bytes,
      partId,
      instrument: room.student.instrument,
      numbers: measures.map(({ number }) => number),
    };
  });
  private readonly scoreId = computed(() => this.room()?.score?.id ?? null);

  constructor() {
    toObservable(this.scoreId)
      .pipe(
        distinctUntilChanged(),
        switchMap((id) => (id === null ? of(null) : this.api.file(id).pipe(catchError(() => of(null))))),
        takeUntilDestroyed(),
      )
      .subscribe((bytes) => this.bytes.set(bytes));
    this.readWhatIsOpen();
  }

  /** The score is read again whenever file, part, numbering, target, instrument or asked measures change. */
  private readWhatIsOpen(): void {
    const wish = computed(() => {
      const room = this.room();
      return room?.score
        ? JSON.stringify({
            partId: room.score.digest.partId,
            instrument: room.student.instrument,
            quarterBpm: this.targetQuarterBpm(),
            unit: room.target?.beatUnit ?? null,
            numbering: room.numbering,
            runs: room.runs,
            ornamentRules: room.ornamentRules,
          })
        : null;
    });
    effect(() => {
      const [bytes, text] = [this.bytes(), wish()];
      if (bytes === null || text === null) this.reading.request.set(null);
      else this.reading.request.set({ kind: 'read', bytes, ...JSON.parse(text) });
    });
  }
}

function isSamePart(a: EngravedPart | null, b: EngravedPart | null): boolean {
  return a?.musicXml === b?.musicXml && a?.partId === b?.partId && a?.numbers?.join() === b?.numbers?.join();
}
