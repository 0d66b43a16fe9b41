import {
  CdkDrag,
  CdkDragPlaceholder,
  CdkDropList,
  CdkDropListGroup,
  type CdkDragDrop,
} from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { dateOfDay, dayOfDate, type CalendarDay, type KeptDay } from '@vivid-cue/core/plan';
import { mondayOf, shortDate, weekdayWord, RUN_NAMES } from './day-words';
import { PlanStore } from './plan-store';

/** A day of the calendar. */
interface Cell {
  readonly date: CalendarDay;
  readonly word: string;
  readonly isPast: boolean;
  readonly isToday: boolean;
  readonly isSkipped: boolean;
  readonly day: KeptDay | null;
  readonly posts: readonly string[];
  readonly runs: readonly string[];
  readonly tasks: readonly string[];
  readonly chips: readonly {
    readonly passageId: string;
    readonly name: string;
    readonly minutes: number;
    readonly isPinned: boolean;
  }[];
  /** What was done on a past day. */
  readonly played: number;
}

/** The plan by days, week by week: passages are dragged from one day to another. */
@Component({
  selector: 'vc-plan-calendar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [CdkDrag, CdkDragPlaceholder, CdkDropList, CdkDropListGroup],
  templateUrl: './plan-calendar.html',
  styleUrl: './plan-calendar.css',
})
export class PlanCalendar {
  protected readonly store = inject(PlanStore);
  protected readonly weekdays = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

  protected readonly cells = computed((): readonly Cell[] => {
    const today = this.store.today();
    const ends = [...this.store.days(), ...this.store.dates()].map(({ date }) => dayOfDate(date));
    const last = Math.max(today + 6, ...ends);
    // The week before this one is shown, so that what was done stands beside what comes.
    const first = mondayOf(today) - 7;
    return Array.from({ length: Math.ceil((last - first + 1) / 7) * 7 }, (_, n) =>
      this.cellOf(dateOfDay(first + n)),
    );
  });

  private cellOf(date: CalendarDay): Cell {
    const today = this.store.todayDate();
    const day = this.store.dayOn(date);
    return {
      date,
      word: shortDate(date),
      isPast: date < today,
      isToday: date === today,
      isSkipped: this.store.isSkipped(date),
      day,
      posts: this.store
        .dates()
        .filter((post) => post.date === date)
        .map(({ what }) => what),
      runs: (day?.runs ?? []).map(({ kind }) => RUN_NAMES[kind] ?? kind),
      tasks: this.store
        .tasks()
        .filter((task) => task.date === date && task.doneOn === null)
        .map(({ text }) => text),
      chips: (day?.blocks ?? []).map(({ passageId, minutes }) => ({
        passageId,
        minutes,
        name: this.store.nameOf(passageId),
        isPinned: this.store.isPinned(passageId, date),
      })),
      played: Math.round(
        (this.store.view()?.played ?? [])
          .filter((one) => one.date === date)
          .reduce((sum, { minutes }) => sum + minutes, 0),
      ),
    };
  }

  protected weekdayOf(date: CalendarDay): string {
    return weekdayWord(date);
  }

  protected readonly takes = (_drag: CdkDrag, list: CdkDropList<Cell>): boolean => !list.data.isPast;

  protected drop({ previousContainer, container, item }: CdkDragDrop<Cell, Cell, string>): void {
    const [from, to] = [previousContainer.data.date, container.data.date];
    this.store.chosen.set(to);
    if (from !== to) void this.store.move(item.data, from, to);
  }
}
