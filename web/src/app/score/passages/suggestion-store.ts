import { computed, inject, Injectable, linkedSignal, signal } from '@angular/core';
import { v7 as newId } from 'uuid';
import {
  fitAround,
  mergeNext,
  moveEnd,
  seamsOf,
  splitAt,
  type SuggestedPassage,
} from '@vivid-cue/core/passages';
import { printedSpan, type Span } from '@vivid-cue/core/score';
import type { PassageView } from '@vivid-cue/contract';
import { ScoreApi } from '../../data/score-api';
import { ReadingStore } from '../findings/reading-store';
import { RoomStore } from '../room/room-store';

/** A suggestion that can be taken, joined, cut, named, moved or dropped. */
export interface Ghost extends SuggestedPassage {
  readonly id: string;
}

/** Suggested passages as ghosts, until they are taken or put away. */
@Injectable()
export class SuggestionStore {
  private readonly api = inject(ScoreApi);
  private readonly reading = inject(ReadingStore);
  private readonly room = inject(RoomStore);

  /** Asked for; without a passage yet they show by themselves. */
  private readonly wanted = signal<boolean | null>(null);
  private readonly seamIds = new Map<string, string>();
  readonly hasSeams = signal(true);
  readonly chosen = signal<number | null>(null);
  /** The ghosts as they were read, then as they were edited. */
  readonly ghosts = linkedSignal<readonly SuggestedPassage[], readonly Ghost[]>({
    source: () => this.reading.result()?.suggestions ?? [],
    computation: (suggestions) => suggestions.map((one) => ({ ...one, id: newId() })),
  });
  private readonly passages = computed(() => this.room.room()?.passages ?? []);
  readonly isShown = computed(
    () => (this.wanted() ?? this.passages().length === 0) && this.free().length > 0,
  );
  /** Ghosts where no passage lies yet. */
  readonly free = computed(() =>
    fitAround(
      this.ghosts(),
      this.passages().filter(({ isSeam }) => !isSeam),
    ),
  );
  /** The joins between ghosts, and between them and the passages that are there. */
  readonly seams = computed((): readonly Span[] => {
    const known = this.passages();
    const all = seamsOf([...known.filter(({ isSeam }) => !isSeam), ...this.free()]);
    return all.filter(
      (seam) => !known.some((one) => one.fromIndex === seam.fromIndex && one.endIndex === seam.endIndex),
    );
  });

  show(): void {
    this.wanted.set(true);
  }

  putAway(): void {
    this.wanted.set(false);
    this.chosen.set(null);
  }

  /** Suggests once more what was edited away. */
  again(): void {
    this.ghosts.set((this.reading.result()?.suggestions ?? []).map((one) => ({ ...one, id: newId() })));
    this.show();
  }

  merge(ghost: Ghost): void {
    this.edit(ghost, (all, at) => mergeNext(all, at));
  }

  split(ghost: Ghost, index: number): void {
    this.edit(ghost, (all, at) =>
      splitAt(all, at, index).map((one, n) =>
        n === at + 1 && one.id === ghost.id ? { ...one, id: newId(), why: 'cut by you' } : one,
      ),
    );
  }

  move(ghost: Ghost, index: number): void {
    const limit = this.reading.result()?.facts.length ?? 0;
    this.edit(ghost, (all, at) => moveEnd(all, at, { index, limit }));
  }

  rename(ghost: Ghost, name: string): void {
    this.ghosts.update((all) => all.map((one) => (one.id === ghost.id ? { ...one, name } : one)));
  }

  drop(ghost: Ghost): void {
    this.ghosts.update((all) => all.filter(({ id }) => id !== ghost.id));
    this.chosen.set(null);
  }

  /** Makes passages of ghosts, with the seams between them where they are wanted. */
  take(ghosts: readonly Ghost[], done: (made: readonly PassageView[]) => void): void {
    const room = this.room.room();
    if (!room || ghosts.length === 0) return;
    const isAll = ghosts.length === this.free().length;
    const seams = isAll && this.hasSeams() ? this.seams() : [];
    const measures = room.score?.digest.measures ?? [];
    const passage = (
      span: Span,
      name: string,
      { id, isSeam }: { readonly id: string; readonly isSeam: boolean },
    ) => ({
      id,
      name,
      ...printedSpan(measures, span),
      target: null,
      isSeam,
    });
    const list = [
      ...ghosts.map((ghost) => passage(ghost, ghost.name, { id: ghost.id, isSeam: false })),
      ...seams.map((seam) => {
        const { from, to } = printedSpan(measures, seam);
        return passage(seam, `seam ${from}|${to}`, { id: this.seamId(seam), isSeam: true });
      }),
    ];
    this.room.run(this.api.addPassages(room.programPartId, list), (made) => {
      this.room.replaceAll(made);
      this.seamIds.clear();
      this.chosen.set(null);
      done(made);
    });
  }

  /** The same for the same seam until it was made: taken twice it is made once. */
  private seamId({ fromIndex, endIndex }: Span): string {
    const key = `${fromIndex}–${endIndex}`;
    const id = this.seamIds.get(key) ?? newId();
    this.seamIds.set(key, id);
    return id;
  }

  private edit(ghost: Ghost, change: (all: readonly Ghost[], at: number) => readonly Ghost[]): void {
    // What is seen is what is edited: the ghosts as they stand around the passages.
    const all = this.free();
    this.ghosts.update(() => {
      const at = all.findIndex(({ id }) => id === ghost.id);
      return at < 0 ? all : change(all, at);
    });
  }
}
