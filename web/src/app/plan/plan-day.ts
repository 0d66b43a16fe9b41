import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { tempoText } from '@vivid-cue/core/music';
import { dateOfDay, dayOfDate, type CalendarDay } from '@vivid-cue/core/plan';
import type { TaskView } from '@vivid-cue/contract';
import { isTyping } from '../ui/typing';
import { longDate, RUN_NAMES, shortDate } from './day-words';
import { PlanStore } from './plan-store';

/** One day of the plan: what is planned, or what came of it, and what may be changed. */
@Component({
  selector: 'vc-plan-day',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './plan-day.html',
  styleUrls: ['./plan-controls.css', './plan-day.css'],
  host: { '(document:keydown)': 'onKey($event)' },
})
export class PlanDay {
  protected readonly store = inject(PlanStore);

  protected readonly date = this.store.day;
  protected readonly isPast = computed(() => this.date() < this.store.todayDate());
  protected readonly isBeyond = computed(() => this.store.dayOn(this.date()) === null && !this.isPast());
  protected readonly title = computed(() =>
    this.date() === this.store.todayDate() ? `Today, ${shortDate(this.date())}` : longDate(this.date()),
  );
  protected readonly day = computed(() => this.store.dayOn(this.date()));
  protected readonly ownMinutes = computed(
    () => this.store.wishes().minutesOf.find(({ date }) => date === this.date())?.minutes ?? null,
  );
  protected readonly cap = computed(() => this.store.view()?.desk.day.cap ?? 60);
  protected readonly isAssembly = computed(
    () => this.day()?.runs.some(({ kind }) => kind === 'assembly') ?? false,
  );
  protected readonly blocks = computed(() =>
    (this.day()?.blocks ?? []).map(({ passageId, minutes, bpm }) => {
      const passage = this.store.view()?.desk.passages.find(({ id }) => id === passageId);
      return {
        passageId,
        minutes,
        name: this.store.nameOf(passageId),
        tempo: passage ? tempoText(Math.round(bpm), passage.target.beatUnit) : '',
        isPinned: this.store.isPinned(passageId, this.date()),
      };
    }),
  );
  protected readonly runs = computed(() =>
    (this.day()?.runs ?? []).map(({ kind, partIds, minutes }) => ({
      minutes,
      name: RUN_NAMES[kind] ?? kind,
      parts: this.store.partNames(partIds),
    })),
  );
  protected readonly played = computed(() =>
    (this.store.view()?.played ?? [])
      .filter(({ date }) => date === this.date())
      .map(({ passageId, reps, clean, bpm, minutes }) => ({
        passageId,
        name: this.store.nameOf(passageId),
        told: `${clean} of ${reps} clean, up to ${Math.round(bpm)}`,
        minutes: Math.round(minutes),
      })),
  );
  /** What else is due on this day, or was done on it. */
  protected readonly tasks = computed(() =>
    this.store.tasks().filter(({ date, doneOn }) => (doneOn ?? date) === this.date()),
  );
  /** What may be put on this day. */
  protected readonly others = computed(() => {
    const here = new Set(this.blocks().map(({ passageId }) => passageId));
    return this.store.rows().filter(({ passage }) => !here.has(passage.id));
  });

  protected tick(task: TaskView, event: Event): void {
    void this.store.tick(task, (event.target as HTMLInputElement).checked);
  }

  protected step(days: number): void {
    this.store.chosen.set(dateOfDay(dayOfDate(this.date()) + days));
  }

  protected moveBy(passageId: string, days: number): void {
    const to = dateOfDay(dayOfDate(this.date()) + days);
    if (to < this.store.todayDate()) return;
    const from: CalendarDay = this.date();
    this.store.chosen.set(to);
    void this.store.move(passageId, from, to);
  }

  protected put(event: Event): void {
    const select = event.target as HTMLSelectElement;
    if (select.value !== '') void this.store.move(select.value, null, this.date());
    select.value = '';
  }

  protected setMinutes(event: Event): void {
    const { value } = event.target as HTMLInputElement;
    const minutes = value === '' ? null : Math.max(0, Math.min(this.cap(), Math.round(Number(value))));
    void this.store.setMinutes(this.date(), minutes);
  }

  protected onKey(event: KeyboardEvent): void {
    if (isTyping(event) || event.ctrlKey || event.metaKey || event.altKey) return;
    const deeds: Readonly<Record<string, () => void>> = {
      ArrowLeft: () => this.step(-1),
      ArrowRight: () => this.step(1),
      s: () => (this.isPast() ? undefined : void this.store.turnSkip(this.date())),
      u: () => void this.store.undo(),
    };
    const deed = deeds[event.key];
    if (!deed) return;
    event.preventDefault();
    deed();
  }
}
