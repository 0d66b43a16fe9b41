import { computed, inject, Injectable, signal } from '@angular/core';
import { firstValueFrom } from 'rxjs';
import {
  against,
  againstText,
  dateOfDay,
  dayOfDate,
  keptDays,
  moved,
  NO_WISHES,
  planSentence,
  type CalendarDay,
  type KeptDay,
  type Plan,
  type PlanInput,
  type PlanWishes,
  type WayOut,
} from '@vivid-cue/core/plan';
import type { DeskPassage, OwnTask, PlanToKeep, PlanView, TaskView } from '@vivid-cue/contract';
import { deskPartName, isInPart } from '@vivid-cue/contract/desk-music';
import { dayNumber } from '@vivid-cue/contract/zones';
import { planInputOf } from '@vivid-cue/contract/plan-input';
import { InOrder } from '../data/in-order';
import { onTop } from '../data/on-top';
import { Planner } from '../data/planner';
import { troubleOf } from '../data/problem';
import { StudioApi } from '../data/studio-api';
import { ticked } from '../data/ticked';
import { shortDate } from './day-words';

/** No day longer than this is proposed. Units: minutes (our own) */
const LONGEST_TRIED = 180;
const FRESH_DAYS = 7;
const DAY_MS = 86_400_000;

/** A passage's row in the plan. */
export interface PlanRow {
  readonly passage: DeskPassage;
  readonly partName: string;
}

/** One student's plan: what was settled, the days as they are planned, and what happened. */
@Injectable()
export class PlanStore {
  private readonly api = inject(StudioApi);
  private readonly planner = inject(Planner);
  /** Each change is reckoned on what the one before it left, so that none is refused for another of the same hand. */
  private readonly order = new InOrder();

  readonly view = signal<PlanView | null>(null);
  readonly failure = signal<string | null>(null);
  /** How far the planner is, from 0 to 1; null while it rests. */
  readonly progress = signal<number | null>(null);
  /** What would come of planning again now. */
  readonly plan = signal<Plan | null>(null);
  readonly input = signal<PlanInput | null>(null);
  readonly ways = signal<readonly WayOut[] | null>(null);
  /** What was settled before each change that may be taken back. */
  private readonly before = signal<readonly PlanWishes[]>([]);
  readonly canUndo = computed(() => this.before().length > 0);

  readonly today = computed(() => {
    const view = this.view();
    return view ? dayNumber(Date.parse(view.desk.at), view.desk.studio.zone) : 0;
  });
  readonly tasks = computed(() => this.view()?.desk.plan.tasks ?? []);
  /** The dates that the sheets name. */
  readonly dates = computed(() => this.view()?.desk.plan.dates ?? []);
  readonly todayDate = computed(() => dateOfDay(this.today()));
  readonly chosen = signal<CalendarDay | null>(null);
  readonly day = computed(() => this.chosen() ?? this.todayDate());
  readonly wishes = computed(() => this.view()?.kept.wishes ?? NO_WISHES);
  /** Whether the kept plan is what the desk follows. */
  readonly isFresh = computed(() => {
    const madeAt = this.view()?.kept.madeAt;
    const at = this.view()?.desk.at;
    return madeAt != null && at !== undefined && Date.parse(at) - Date.parse(madeAt) < FRESH_DAYS * DAY_MS;
  });
  /** All days there are: as they were planned, and from today on as they are. */
  readonly days = computed((): readonly KeptDay[] => {
    const kept = this.view()?.kept.days ?? [];
    const today = this.todayDate();
    const past = kept.filter(({ date }) => date < today);
    const coming = this.isFresh() ? kept.filter(({ date }) => date >= today) : this.live();
    return [...past, ...coming];
  });
  private readonly live = computed((): readonly KeptDay[] => {
    const plan = this.plan();
    return plan ? keptDays(plan, this.today()) : [];
  });
  readonly rows = computed((): readonly PlanRow[] => {
    const desk = this.view()?.desk;
    if (!desk) return [];
    const rows = desk.passages.flatMap((passage): readonly (PlanRow & { readonly order: number })[] => {
      const order = desk.parts.findIndex((part) => isInPart(passage, part));
      const part = desk.parts[order];
      return part ? [{ passage, partName: deskPartName(part), order }] : [];
    });
    return rows.sort(
      (a, b) =>
        a.order - b.order ||
        Number(a.passage.isSeam) - Number(b.passage.isSeam) ||
        a.passage.fromIndex - b.passage.fromIndex,
    );
  });
  readonly sentence = computed(() => {
    const [plan, input] = [this.plan(), this.input()];
    return plan && input ? planSentence(input, plan, (day) => shortDate(dateOfDay(this.today() + day))) : '';
  });
  /** How it went since the plan was made first, at most four weeks back. */
  readonly went = computed(() => {
    const view = this.view();
    if (!view) return '';
    const [first] = view.kept.days;
    if (!first) return '';
    const since = Math.max(dayOfDate(first.date), this.today() - 28);
    const found = against(view.kept.days, view.played, { since, until: this.today() });
    return againstText(found, (id) => this.nameOf(id));
  });

  nameOf(passageId: string): string {
    return this.view()?.desk.passages.find(({ id }) => id === passageId)?.name ?? 'a passage that is gone';
  }

  partNames(ids: readonly string[]): string {
    const parts = this.view()?.desk.parts ?? [];
    return ids
      .flatMap((id) => parts.find((part) => part.id === id) ?? [])
      .map(deskPartName)
      .join(', ');
  }

  dayOn(date: CalendarDay): KeptDay | null {
    return this.days().find((day) => day.date === date) ?? null;
  }

  /** Reads a student's plan and reckons what comes of it; a first plan is kept at once, so that the desk follows it. */
  async open(studentId: string): Promise<void> {
    this.view.set(null);
    this.plan.set(null);
    this.ways.set(null);
    this.before.set([]);
    this.chosen.set(null);
    await this.inTurn(async () => {
      const view = await firstValueFrom(this.api.plan(studentId));
      this.view.set(view);
      await this.reckon(view.kept.wishes);
      if (view.kept.version === 0 && this.rows().length > 0) await this.keep(view.kept.wishes);
    });
  }

  /** Makes the plan again from today on and keeps it. */
  async again(): Promise<void> {
    await this.inTurn(() => this.onTop(() => this.settle(this.wishes())));
  }

  /** Changes what is settled; the plan is made again around it. */
  async change(change: (wishes: PlanWishes) => PlanWishes): Promise<void> {
    await this.inTurn(() =>
      this.onTop(async () => {
        const before = this.wishes();
        await this.settle(change(before));
        this.before.update((list) => [...list, before]);
      }),
    );
  }

  async undo(): Promise<void> {
    await this.inTurn(async () => {
      const last = this.before().at(-1);
      if (!last) return;
      this.before.update((list) => list.slice(0, -1));
      await this.settle(last);
    });
  }

  /** Moves a passage from one day to another. */
  move(passageId: string, from: CalendarDay | null, to: CalendarDay): Promise<void> {
    return this.change((wishes) => moved(wishes, { passageId, from, to }));
  }

  /** Fixes a passage to its day, or lets it go. */
  turnPin(passageId: string, date: CalendarDay): Promise<void> {
    const isIt = (one: { readonly passageId: string; readonly date: string }): boolean =>
      one.passageId === passageId && one.date === date;
    return this.change((wishes) => ({
      ...wishes,
      pinned: wishes.pinned.some(isIt)
        ? wishes.pinned.filter((one) => !isIt(one))
        : [...wishes.pinned, { passageId, date }],
    }));
  }

  isPinned(passageId: string, date: CalendarDay): boolean {
    return this.wishes().pinned.some((one) => one.passageId === passageId && one.date === date);
  }

  isSkipped(date: CalendarDay): boolean {
    return this.wishes().skipped.includes(date);
  }

  turnSkip(date: CalendarDay): Promise<void> {
    return this.change((wishes) => ({
      ...wishes,
      skipped: wishes.skipped.includes(date)
        ? wishes.skipped.filter((one) => one !== date)
        : [...wishes.skipped, date],
    }));
  }

  /** Says how long a day is; null as usual. */
  setMinutes(date: CalendarDay, minutes: number | null): Promise<void> {
    return this.change((wishes) => ({
      ...wishes,
      minutesOf: [
        ...wishes.minutesOf.filter((one) => one.date !== date),
        ...(minutes === null ? [] : [{ date, minutes }]),
      ],
    }));
  }

  /** Says when all is put together; null where the planner chooses. */
  setAssembly(date: CalendarDay | null): Promise<void> {
    return this.change((wishes) => ({ ...wishes, assembly: date }));
  }

  async tick(task: TaskView, isDone: boolean): Promise<void> {
    const { subjectId, kind } = task;
    const tick = { subjectId, kind, doneOn: isDone ? this.todayDate() : null };
    await this.inTurn(async () => {
      const view = this.view();
      if (!view) return;
      await firstValueFrom(this.api.tickTask(view.desk.student.id, tick));
      this.view.update((now) => now && { ...now, desk: ticked(now.desk, tick) });
    });
  }

  /** Changes the tasks that were entered by hand. Shape: false where that was refused; `failure` says why */
  changeTasks(change: (tasks: readonly OwnTask[]) => readonly OwnTask[]): Promise<boolean> {
    return this.inTurn(() =>
      this.onTop(() => this.keep(this.wishes(), change(this.view()?.kept.ownTasks ?? []))),
    );
  }

  /** What would come of a day of so many minutes. Shape: a sentence */
  async tried(minutes: number): Promise<string> {
    const view = this.view();
    if (!view) return '';
    const desk = {
      ...view.desk,
      day: { ...view.desk.day, minutes, cap: Math.max(minutes, view.desk.day.cap) },
    };
    const input = planInputOf(desk, Date.parse(desk.at), this.wishes());
    const plan = await this.planner.plan(input);
    return planSentence(input, plan, (day) => shortDate(dateOfDay(this.today() + day)));
  }

  /** Looks for what would make the plan hold. */
  async lookForWays(): Promise<void> {
    const [input, view] = [this.input(), this.view()];
    if (!input || !view) return;
    const options = { slowestShare: view.slowestShare, mostMinutes: LONGEST_TRIED };
    try {
      const ways = await this.planner.waysOut(input, options);
      if (this.input() === input) this.ways.set(ways);
    } catch (error) {
      this.failure.set(troubleOf(error).message);
    }
  }

  private async settle(wishes: PlanWishes): Promise<void> {
    await this.reckon(wishes);
    await this.keep(wishes);
  }

  private async reckon(wishes: PlanWishes): Promise<void> {
    const view = this.view();
    if (!view) return;
    const input = planInputOf(view.desk, Date.parse(view.desk.at), wishes);
    this.progress.set(0);
    const plan = await this.planner.plan(input, (progress) => this.progress.set(progress));
    this.input.set(input);
    this.plan.set(plan);
    this.ways.set(null);
    this.progress.set(null);
    if (!plan.holds && input.passages.length > 0) void this.lookForWays();
  }

  private async keep(wishes: PlanWishes, ownTasks?: readonly OwnTask[]): Promise<void> {
    const view = this.view();
    if (!view) return;
    const toKeep: PlanToKeep = {
      version: view.kept.version,
      wishes,
      ownTasks: ownTasks ?? view.kept.ownTasks,
      from: this.todayDate(),
      days: this.live(),
    };
    const { id } = view.desk.student;
    const kept = await firstValueFrom(this.api.keepPlan(id, toKeep));
    // Another student's plan may have been opened meanwhile.
    if (this.view()?.desk.student.id === id) this.view.set(kept);
  }

  private onTop(change: () => Promise<void>): Promise<void> {
    return onTop(change, (current: PlanView) => this.showNewer(current));
  }

  private async showNewer(view: PlanView): Promise<void> {
    this.view.set(view);
    await this.reckon(view.kept.wishes);
  }

  /** Runs work that may fail when all before it is done. Shape: false where it failed; `failure` says why */
  private inTurn(work: () => Promise<void>): Promise<boolean> {
    return this.order.after(() => this.guarded(work));
  }

  private async guarded(work: () => Promise<void>): Promise<boolean> {
    try {
      await work();
      this.failure.set(null);
      return true;
    } catch (error) {
      this.progress.set(null);
      const { message, current, code } = troubleOf(error);
      this.failure.set(message);
      if (code === 'version-stale' && current) await this.showNewer(current as PlanView);
      return false;
    }
  }
}
