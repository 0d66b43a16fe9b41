import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { v7 as newId } from 'uuid';
import type { TaskView } from '@vivid-cue/contract';
import { shortDate } from './day-words';
import { PlanStore } from './plan-store';

/** What is no passage and must be done all the same: ticked off with its day. */
@Component({
  selector: 'vc-plan-tasks',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './plan-tasks.html',
  styleUrls: ['./plan-controls.css', './plan-tasks.css'],
})
export class PlanTasks {
  protected readonly store = inject(PlanStore);
  protected readonly text = signal('');
  protected readonly date = linkedSignal(() => this.store.day());
  protected readonly tasks = computed(() => {
    const tasks = this.store.tasks();
    return [
      ...tasks.filter(({ doneOn }) => doneOn === null),
      ...tasks.filter(({ doneOn }) => doneOn !== null),
    ];
  });

  protected dayText({ date, doneOn }: TaskView): string {
    if (doneOn !== null) return `done ${shortDate(doneOn)}`;
    return date === this.store.todayDate() ? 'today' : shortDate(date);
  }

  protected isDue({ date, doneOn }: TaskView): boolean {
    return doneOn === null && date <= this.store.todayDate();
  }

  protected tick(task: TaskView, event: Event): void {
    void this.store.tick(task, (event.target as HTMLInputElement).checked);
  }

  protected async add(event: Event): Promise<void> {
    event.preventDefault();
    const [text, date] = [this.text().trim(), this.date()];
    if (text === '') return;
    const task = { id: newId(), text, date };
    this.text.set('');
    const isKept = await this.store.changeTasks((tasks) => [...tasks, task]);
    // What was refused stands in the field again, unless the next is being written there.
    if (!isKept && this.text() === '') this.text.set(text);
  }

  protected drop({ subjectId }: TaskView): void {
    void this.store.changeTasks((tasks) => tasks.filter(({ id }) => id !== subjectId));
  }

  protected valueOf(event: Event): string {
    return (event.target as HTMLInputElement).value;
  }
}
