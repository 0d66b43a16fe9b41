import { computed, inject, Injectable } from '@angular/core';
import { quarterBpm, secondsAt } from '@vivid-cue/core/music';
import { inRuns, spanInWords, spanQuarters, type Span } from '@vivid-cue/core/score';
import { SessionStore } from '../data/session-store';
import type { PairSide } from './engraving/pair-view';
import { ReadingStore } from './findings/reading-store';
import type { RibbonBand, RibbonMeasure } from './ribbon/ribbon-model';
import { RoomStore } from './room/room-store';
import { ScoreFile } from './score-file';

/** Two stretches that a finding lays side by side. */
export interface ShownPair {
  readonly id: string;
  readonly a: PairSide;
  readonly b: PairSide;
  readonly sentence: string;
}

/** The music of the open room as its parts show it: measures, passages on the ribbon, where it comes from, a pair of stretches. */
@Injectable()
export class RoomMusic {
  private readonly room = inject(RoomStore);
  private readonly file = inject(ScoreFile);
  private readonly reading = inject(ReadingStore);
  private readonly session = inject(SessionStore);

  readonly measures = computed((): readonly RibbonMeasure[] => {
    const room = this.room.room();
    const runs = room?.runs ?? [];
    return (room?.score?.digest.measures ?? []).map(({ index, number, quarters }) => ({
      index,
      number,
      quarters,
      isAsked: inRuns(runs, index),
    }));
  });
  private readonly sources = computed(
    () => new Set((this.room.room()?.score?.digest.measures ?? []).map(({ source }) => source)),
  );
  /** Music of which there is no digital score. */
  readonly isTold = computed(() => {
    const sources = this.sources();
    return sources.has('told') || sources.has('typed') || sources.has('page');
  });
  /** Whether pages are the face of the music. */
  readonly isPaged = computed(() => this.sources().has('page') || this.pagedPaper() !== null);
  /** Music on paper whose pages are here. */
  readonly pagedPaper = computed(() => {
    const paper = this.file.paper();
    return paper && paper.pages.length > 0 ? paper : null;
  });
  /** Whether notes are known of any measure. */
  readonly hasNotes = computed(() => !this.isTold() || this.sources().has('typed'));
  readonly bands = computed((): readonly RibbonBand[] =>
    this.room.passages().map(({ id, name, fromIndex, endIndex, readiness, isSeam }) => ({
      id,
      name: isSeam ? '' : name,
      fromIndex,
      endIndex,
      state: readiness.state,
    })),
  );
  readonly openSeconds = computed(() => {
    const passage = this.room.open();
    if (!passage) return 0;
    const quarters = spanQuarters(this.measures(), passage);
    return secondsAt(quarters, quarterBpm(passage.target.bpm, passage.target.beatUnit));
  });
  readonly pair = computed(
    (): ShownPair | null => {
      const [finding, part] = [this.reading.chosen(), this.file.part()];
      if (!finding?.pair || !part) return null;
      const { a, b, aNotes, bNotes } = finding.pair;
      const engraved = this.reading.result()?.engraved ?? [];
      const side = (span: Span, notes: PairSide['notes']): PairSide => ({
        part,
        span,
        notes,
        engraved,
        label: spanInWords(this.measures(), span, this.session.vocabulary()),
      });
      return { id: finding.id, a: side(a, aNotes), b: side(b, bNotes), sentence: finding.title };
    },
    // A decision about the finding does not change the music beside it.
    { equal: (a, b) => a?.id === b?.id && a?.a.part === b?.a.part },
  );
}
