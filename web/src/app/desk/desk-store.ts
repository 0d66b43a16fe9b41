import { computed, DestroyRef, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { firstValueFrom } from 'rxjs';
import { v7 as newId } from 'uuid';
import { heldPlace } from '@vivid-cue/core/climb';
import { convertBpm, type Bpm } from '@vivid-cue/core/music';
import { dateOfDay, dayOfDate } from '@vivid-cue/core/plan';
import type { RepContext } from '@vivid-cue/core/readiness';
import type {
  DeskPassage,
  DeskView,
  PassageView,
  SurpriseView,
  TaskTick,
  TaskView,
} from '@vivid-cue/contract';
import { plainCode } from '@vivid-cue/contract/desk-code';
import { dayNumber } from '@vivid-cue/contract/zones';
import { DeskApi } from '../data/desk-api';
import { DeskOutbox } from '../data/desk-outbox';
import { instantAfter } from '../data/next-instant';
import { planInputOf } from '@vivid-cue/contract/plan-input';
import { Planner } from '../data/planner';
import { troubleOf } from '../data/problem';
import { readStored } from '../data/stored-json';
import { SessionStore } from '../data/session-store';
import { ticked } from '../data/ticked';
import { withWaitingReps } from '../data/waiting-passage';
import { dayListOf, keptListOf, type DayList } from './day-items';
import { keepDeskOffline } from './keep-offline';
import { PracticeTime } from './practice-time';

/** What the desk shows: it opens, asks for its code, says that the link is gone, or is open. */
export type DeskState = 'opening' | 'code' | 'gone' | 'open';

/** A passage as the desk works on it: with the rung that holds, and whether a surprise holds it. */
export interface WorkedPassage extends DeskPassage {
  readonly heldRung: number;
  readonly isHeld: boolean;
}

/** One student's desk: what was read, what waits to be sent, and today's list. */
@Injectable()
export class DeskStore {
  private readonly api = inject(DeskApi);
  private readonly session = inject(SessionStore);
  private readonly planner = inject(Planner);
  private readonly time = inject(PracticeTime);
  private readonly destroyRef = inject(DestroyRef);
  readonly outbox = inject(DeskOutbox);

  private linkId = '';
  private code = '';
  readonly state = signal<DeskState>('opening');
  readonly failure = signal<string | null>(null);
  /** Whether what is shown is what this device kept, because the server does not answer. */
  readonly isOffline = signal(false);
  readonly view = signal<DeskView | null>(null);
  readonly list = signal<DayList | null>(null);

  readonly passages = computed((): readonly WorkedPassage[] => {
    const view = this.view();
    if (!view) return [];
    const place = { zone: view.studio.zone, nowMs: Date.now() };
    const waiting = this.outbox.waiting();
    return view.passages.map((passage) => {
      const reps = waiting.flatMap(({ deed }) =>
        deed.kind === 'rep' && deed.passageId === passage.id ? [deed.rep] : [],
      );
      const now = { ...passage, ...withWaitingReps(passage, reps, place) };
      const held = heldPlace(
        now.place,
        now.rungs.map(({ bpm }) => bpm),
        this.heldBpm(passage),
      );
      return { ...now, place: held, heldRung: held.rungIndex, isHeld: held.isHeld };
    });
  });

  constructor() {
    this.outbox.answered$.pipe(takeUntilDestroyed()).subscribe((answer) => {
      if (answer) this.replace(answer);
    });
    const back = (): void => void this.refresh();
    window.addEventListener('online', back);
    this.destroyRef.onDestroy(() => {
      window.removeEventListener('online', back);
      this.session.desk.set(null);
    });
  }

  /** Opens the desk of a link: what this device kept at once, what the server has as soon as it answers. */
  async open(linkId: string, code: string | null): Promise<void> {
    this.linkId = linkId;
    const kept = await this.outbox.database.desks.get(linkId).catch(() => undefined);
    this.code = code ?? kept?.code ?? '';
    if (kept && (code === null || plainCode(code) === plainCode(kept.code))) this.show(kept.view);
    if (this.code === '') this.state.set('code');
    else await this.refresh();
  }

  /** Enters with a code that was typed. */
  async enter(code: string): Promise<void> {
    this.code = code;
    this.failure.set(null);
    await this.refresh();
  }

  /** Reads the desk anew; a session that has run out is begun again by the code. */
  async refresh(): Promise<void> {
    if (this.code === '') return;
    try {
      const here = await firstValueFrom(this.api.session());
      this.session.useToken(here.csrfToken);
      const known = this.view();
      // Who is here may be another student, or somebody whose session has run out: the code opens the right desk.
      if (known === null || here.student?.id !== known.student.id) {
        const entered = await firstValueFrom(this.api.enter({ linkId: this.linkId, code: this.code }));
        this.session.useToken(entered.csrfToken);
      }
      await this.take(await firstValueFrom(this.api.read()));
    } catch (error) {
      await this.failed(error);
    }
  }

  private async failed(error: unknown): Promise<void> {
    const { code, message, isOffline } = troubleOf(error);
    this.failure.set(isOffline && this.view() ? null : message);
    this.isOffline.set(isOffline);
    if (code === 'link-gone') {
      this.state.set('gone');
      // What was logged stays; what belongs to the studio does not.
      await this.outbox.database.desks.delete(this.linkId);
      await this.outbox.database.files.clear();
    } else if (code === 'link-wrong' || code === 'too-many' || !this.view()) this.state.set('code');
  }

  private async take(view: DeskView): Promise<void> {
    this.failure.set(null);
    this.isOffline.set(false);
    this.show(view);
    await this.keep();
  }

  private show(view: DeskView): void {
    const known = new Map(this.view()?.passages.map((passage) => [passage.id, passage]));
    this.view.set({
      ...view,
      passages: view.passages.map((passage) => newer(passage, known.get(passage.id) ?? passage)),
    });
    this.session.desk.set(view.studio);
    this.state.set('open');
    this.outbox.open(view.student.id);
    void this.planToday();
  }

  /** A desk is kept as it is, so that it opens without a connection. */
  private async keep(): Promise<void> {
    const view = this.view();
    if (view) await this.outbox.database.desks.put({ linkId: this.linkId, code: this.code, view });
  }

  /** Today's list is made once a day and stays: what was done does not reshuffle what is left. */
  private async planToday(): Promise<void> {
    const view = this.view();
    if (!view) return;
    const nowMs = Date.now();
    const day = dayNumber(nowMs, view.studio.zone);
    this.time.open(view.student.id, day);
    const key = `vivid-cue-desk-day:${view.student.id}`;
    const stored = readStored<DayList>(key);
    const ids = new Set(view.passages.map(({ id }) => id));
    const isStanding =
      stored?.day === day &&
      stored.madeAt === view.plan.madeAt &&
      stored.items.length > 0 &&
      stored.items.every((item) => item.kind !== 'passage' || ids.has(item.passageId));
    if (isStanding) {
      this.list.set(stored);
      return;
    }
    await keepDeskOffline();
    const list = { ...(await this.listFor(view, nowMs, day)), madeAt: view.plan.madeAt };
    localStorage.setItem(key, JSON.stringify(list));
    this.list.set(list);
  }

  /** What the kept plan says of the day while it is fresh; otherwise what a plan from here on would say. */
  private async listFor(view: DeskView, nowMs: number, day: number): Promise<DayList> {
    const ids = new Set(view.passages.map(({ id }) => id));
    const kept = view.plan.days.find(({ date }) => dayOfDate(date) === day);
    const isWhole = kept?.blocks.every(({ passageId }) => ids.has(passageId)) ?? false;
    if (kept && isWhole) {
      // The planner comes along unasked: a later day without a connection may need it.
      void this.planner.plan(planInputOf(view, nowMs)).catch(() => undefined);
      return keptListOf(kept, day);
    }
    return dayListOf(await this.planner.plan(planInputOf(view, nowMs)), day);
  }

  /** Ticks something that is no passage; it shows at once and is sent when it can be. */
  tickTask({ subjectId, kind }: TaskView, isDone: boolean): void {
    const day = dayNumber(Date.now(), this.view()?.studio.zone ?? 'UTC');
    const tick: TaskTick = { subjectId, kind, doneOn: isDone ? dateOfDay(day) : null };
    void this.outbox.add({ kind: 'task', id: newId(), tick });
    this.view.update((view) => view && ticked(view, tick));
    void this.keep();
  }

  /** Logs a rep; it counts at once and is sent when it can be. */
  log(
    passage: DeskPassage,
    rep: { readonly bpm: Bpm; readonly isClean: boolean; readonly context: RepContext },
  ): void {
    const waiting = this.outbox.waiting().flatMap(({ deed }) => (deed.kind === 'rep' ? [deed.rep] : []));
    const id = newId();
    const at = instantAfter(passage.record.lastAtMs, waiting);
    void this.outbox.add({
      kind: 'rep',
      id,
      passageId: passage.id,
      rep: { id, at, beatUnit: passage.target.beatUnit, ...rep },
    });
    this.logged.update((list) => [...list, { id, passageId: passage.id }]);
  }

  private readonly logged = signal<readonly { readonly id: string; readonly passageId: string }[]>([]);

  /** Whether there is a rep of this sitting to take back. */
  canTakeBack(passageId: string): boolean {
    return this.logged().some((one) => one.passageId === passageId);
  }

  /** Takes back the last rep of a passage that was logged in this sitting, sent or not. */
  async takeBack(passageId: string): Promise<void> {
    const last = this.logged().findLast((one) => one.passageId === passageId);
    if (!last) return;
    this.logged.update((list) => list.filter((one) => one !== last));
    if (await this.outbox.withdraw(last.id)) return;
    await this.outbox.add({ kind: 'taken-back', id: newId(), repId: last.id, passageId });
  }

  /** Flags a measure; the rung is held until the instructor has looked at it. */
  flag(
    passage: DeskPassage,
    { measureIndex, bpm, text }: { readonly measureIndex: number; readonly bpm: Bpm; readonly text: string },
  ): void {
    const id = newId();
    const surprise = {
      id,
      measureIndex,
      bpm,
      text,
      beatUnit: passage.target.beatUnit,
      at: new Date().toISOString(),
    };
    void this.outbox.add({ kind: 'surprise', id, passageId: passage.id, surprise });
    const measure =
      this.view()?.scores.find(({ id: scoreId }) => scoreId === passage.scoreId)?.digest.measures[
        measureIndex
      ]?.number ?? '';
    this.view.update(
      (view) =>
        view && {
          ...view,
          surprises: [
            ...view.surprises,
            { ...surprise, passageId: passage.id, passageName: passage.name, measure },
          ],
        },
    );
    void this.keep();
  }

  /** What surprised in a passage and nobody has looked at yet. */
  surprisesOf(passageId: string): readonly SurpriseView[] {
    return (this.view()?.surprises ?? []).filter((one) => one.passageId === passageId);
  }

  /** Sends a line to the instructor. */
  write(text: string, passageId: string | null): void {
    const id = newId();
    void this.outbox.add({ kind: 'note', id, note: { id, passageId, text, at: new Date().toISOString() } });
  }

  /** The slowest tempo at which something surprised in a passage, in its own unit; null for none. */
  private heldBpm(passage: DeskPassage): Bpm | null {
    const own = this.surprisesOf(passage.id);
    if (own.length === 0) return null;
    return Math.min(...own.map(({ bpm, beatUnit }) => convertBpm(bpm, beatUnit, passage.target.beatUnit)));
  }

  private replace(answer: PassageView): void {
    this.view.update(
      (view) =>
        view && {
          ...view,
          passages: view.passages.map((one) =>
            one.id === answer.id ? newer({ ...one, ...answer }, one) : one,
          ),
        },
    );
    void this.keep();
  }
}

/** Of two states of a passage the one that was written later. */
function newer(a: DeskPassage, b: DeskPassage): DeskPassage {
  return a.version > b.version || (a.version === b.version && a.writes >= b.writes) ? a : b;
}
