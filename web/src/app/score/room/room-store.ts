import { computed, DestroyRef, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { v7 as newId } from 'uuid';
import { finalize, fromEvent, type Observable } from 'rxjs';
import type {
  CueInput,
  CueView,
  FindingMarkView,
  PassageView,
  RepInput,
  RepView,
  ScoreRoomView,
} from '@vivid-cue/contract';
import { troubleOf } from '../../data/problem';
import { InOrder } from '../../data/in-order';
import { instantAfter } from '../../data/next-instant';
import { RepOutbox } from '../../data/rep-outbox';
import { ScoreApi } from '../../data/score-api';
import { SessionStore } from '../../data/session-store';
import { withWaitingReps } from '../../data/waiting-passage';
import type { ShownRep, RepWish } from './rep';

/** What one open score room knows: the room, the open passage, its reps, what still waits to be sent. */
@Injectable()
export class RoomStore {
  private readonly api = inject(ScoreApi);
  private readonly outbox = inject(RepOutbox);
  private readonly session = inject(SessionStore);
  private readonly destroyRef = inject(DestroyRef);

  readonly room = signal<ScoreRoomView | null>(null);
  readonly failure = signal<string | null>(null);
  /** All requests of the room, so that its lists never go back. */
  private readonly inOrder = new InOrder();
  /** How many of them are not answered yet. */
  private unanswered = 0;
  readonly openId = signal<string | null>(null);
  private readonly storedReps = signal<readonly RepView[]>([]);
  private readonly gone = signal<ReadonlySet<string>>(new Set());

  /** The passages as they will stand when everything that waits is with the server. */
  readonly passages = computed((): readonly PassageView[] => {
    const waiting = this.outbox.waiting();
    const place = { zone: this.session.zone(), nowMs: Date.now() };
    return (this.room()?.passages ?? []).map((passage) =>
      withWaitingReps(
        passage,
        waiting.filter(({ passageId }) => passageId === passage.id).map(({ rep }) => rep),
        place,
      ),
    );
  });
  readonly open = computed(() => this.passages().find(({ id }) => id === this.openId()) ?? null);
  private readonly openWaiting = computed(() =>
    this.outbox
      .waiting()
      .filter(({ passageId }) => passageId === this.openId())
      .map(({ rep }) => rep),
  );
  readonly reps = computed((): readonly ShownRep[] => {
    const waitingIds = new Set(this.openWaiting().map(({ id }) => id));
    const stored = this.storedReps().filter(({ id }) => !waitingIds.has(id) && !this.gone().has(id));
    const shown = (rep: RepInput, isWaiting: boolean): ShownRep => ({
      id: rep.id,
      bpm: rep.bpm,
      isClean: rep.isClean,
      isWaiting,
    });
    return [
      ...[...this.openWaiting()].reverse().map((rep) => shown(rep, true)),
      ...stored.map((rep) => shown(rep, false)),
    ];
  });
  /** Reps of the open passage that the server will not take, with the reason. */
  readonly refused = computed(() =>
    this.outbox.refused().filter(({ passageId }) => passageId === this.openId()),
  );
  readonly waitingCount = computed(() => this.openWaiting().length);
  readonly repTrouble = this.outbox.trouble;

  constructor() {
    this.outbox.answered$.pipe(takeUntilDestroyed()).subscribe((passage) => this.replace(passage));
    // What shows already may still be on its way: the window asks before it is closed on it.
    fromEvent(window, 'beforeunload')
      .pipe(takeUntilDestroyed())
      .subscribe((event) => {
        if (this.unanswered > 0) event.preventDefault();
      });
  }

  load(programPartId: string): void {
    this.run(this.api.room(programPartId), (room) => this.show(room));
  }

  show(room: ScoreRoomView): void {
    this.failure.set(null);
    const known = new Map(this.room()?.passages.map((passage) => [passage.id, passage]));
    // A rep may have been acknowledged while the room was on its way.
    const passages = room.passages.map((passage) => {
      const before = known.get(passage.id);
      return before && isOlder(passage, before) ? before : passage;
    });
    this.room.set({ ...room, passages });
  }

  openPassage(id: string | null): void {
    this.openId.set(id);
    this.storedReps.set([]);
    if (id === null) return;
    this.run(this.api.passage(id), ({ passage, reps }) => {
      this.replace(passage);
      if (this.openId() !== id) return;
      // Reps logged while the answer was on its way stand before it.
      const known = new Set(reps.map((rep) => rep.id));
      this.storedReps.update((logged) => [...logged.filter((rep) => !known.has(rep.id)), ...reps]);
    });
  }

  /** Logs a rep: it is kept on this device first, then sent. */
  log(wish: RepWish): void {
    const passage = this.open();
    if (!passage) return;
    const rep: RepInput = {
      id: newId(),
      at: instantAfter(passage.record.lastAtMs, this.openWaiting()),
      beatUnit: passage.target.beatUnit,
      ...wish,
    };
    this.storedReps.update((reps) => [{ ...rep, day: 0, witness: 'instructor' }, ...reps]);
    void this.outbox.add(passage.id, rep);
  }

  /** Takes the newest rep back, sent or not. */
  async takeBack(): Promise<void> {
    const [last] = this.reps();
    if (!last) return;
    this.gone.update((ids) => new Set([...ids, last.id]));
    if (await this.outbox.withdraw(last.id)) return;
    this.run(
      this.api.takeBack(last.id),
      (passage) => this.replace(passage),
      () => this.gone.update((ids) => new Set([...ids].filter((id) => id !== last.id))),
    );
  }

  /** Puts a passage in its place; a new one where the music has it. */
  replace(passage: PassageView): void {
    const room = this.room();
    if (!room) return;
    const before = room.passages.find(({ id }) => id === passage.id);
    if (before && isOlder(passage, before)) return;
    const others = room.passages.filter(({ id }) => id !== passage.id);
    const isNew = others.length === room.passages.length;
    const passages = isNew
      ? [...others, passage].sort((a, b) => a.fromIndex - b.fromIndex || a.endIndex - b.endIndex)
      : room.passages.map((known) => (known.id === passage.id ? passage : known));
    this.room.set({ ...room, passages });
  }

  /** Several passages at once, each in its place. */
  replaceAll(passages: readonly PassageView[]): void {
    for (const passage of passages) this.replace(passage);
  }

  setMarks(findingMarks: readonly FindingMarkView[]): void {
    const room = this.room();
    if (room) this.room.set({ ...room, findingMarks });
  }

  /** Puts a cue in its place in the music. */
  replaceCue(cue: CueView): void {
    const room = this.room();
    if (!room) return;
    const cues = [...room.cues.filter(({ id }) => id !== cue.id), cue].sort(
      (a, b) => a.fromIndex - b.fromIndex || a.endIndex - b.endIndex,
    );
    this.room.set({ ...room, cues });
  }

  /** Writes new cues, each once, and puts them in their places. */
  addCues(cues: readonly CueInput[], done: (written: readonly CueView[]) => void = () => undefined): void {
    const room = this.room();
    if (!room || cues.length === 0) return;
    this.run(this.api.addCues(room.programPartId, cues), (written) => {
      for (const cue of written) this.replaceCue(cue);
      done(written);
    });
  }

  dropCue(cueId: string): void {
    const room = this.room();
    if (room) this.room.set({ ...room, cues: room.cues.filter(({ id }) => id !== cueId) });
  }

  drop(passageId: string): void {
    const room = this.room();
    if (room) this.room.set({ ...room, passages: room.passages.filter(({ id }) => id !== passageId) });
    if (this.openId() === passageId) this.openId.set(null);
  }

  /** Sends a refused rep once more, or lets it go. */
  mend(repId: string): void {
    void this.outbox.mend(repId);
  }

  letGo(repId: string): void {
    void this.outbox.withdraw(repId);
  }

  /** Sends a request when those before it are answered. */
  send<T>(call: Observable<T>): Observable<T> {
    this.unanswered += 1;
    const counted = call.pipe(finalize(() => (this.unanswered -= 1)));
    return this.inOrder.run(counted).pipe(takeUntilDestroyed(this.destroyRef));
  }

  /** Runs a request in its order; what goes wrong becomes the page's sentence, and what was shown ahead is taken back. */
  run<T>(call: Observable<T>, done: (value: T) => void, takeBack: () => void = () => undefined): void {
    this.send(call).subscribe({
      next: (value) => {
        this.failure.set(null);
        done(value);
      },
      error: (error: unknown) => {
        this.failure.set(troubleOf(error).message);
        takeBack();
      },
    });
  }
}

/** Whether one view of a passage was made before another. */
function isOlder(a: PassageView, b: PassageView): boolean {
  return a.version < b.version || (a.version === b.version && a.writes < b.writes);
}
