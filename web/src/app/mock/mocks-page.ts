import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { firstValueFrom } from 'rxjs';
import { v7 as newId } from 'uuid';
import type { MockChoice, MockLine, MocksView } from '@vivid-cue/contract';
import { MockApi } from '../data/mock-api';
import { PlaceStore } from '../data/place-store';
import { troubleOf } from '../data/problem';
import { ProblemNote } from '../ui/problem-note';
import { dayText, daysText } from '../ui/texts';

/** All mock days, and a new one in a minute: who plays, when, blind or not. */
@Component({
  selector: 'vc-mocks-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ProblemNote, RouterLink],
  templateUrl: './mocks-page.html',
  styleUrls: ['../ui/plain-buttons.css', './mock.css'],
})
export class MocksPage {
  private readonly api = inject(MockApi);
  private readonly router = inject(Router);
  private readonly place = inject(PlaceStore);

  protected readonly view = signal<MocksView | null>(null);
  protected readonly failure = signal<string | null>(null);
  protected readonly date = signal(new Date().toISOString().slice(0, 10));
  protected readonly isBlind = signal(false);
  protected readonly isRecorded = signal(true);
  protected readonly isBusy = signal(false);
  private readonly chosen = signal<readonly string[]>([]);
  protected readonly mocks = computed(() => this.view()?.mocks ?? []);
  protected readonly choices = computed(() => this.view()?.choices ?? []);
  protected readonly count = computed(() => this.chosen().length);

  constructor() {
    void this.load();
  }

  private async load(): Promise<void> {
    try {
      const view = await firstValueFrom(this.api.list());
      this.view.set(view);
      // Who comes from a student finds that student chosen.
      const own = view.choices.find(({ studentId }) => studentId === this.place.studentId());
      this.chosen.set(own ? [own.programId] : []);
    } catch (error) {
      this.failure.set(troubleOf(error).message);
    }
  }

  protected isChosen({ programId }: MockChoice): boolean {
    return this.chosen().includes(programId);
  }

  protected choose({ programId }: MockChoice): void {
    this.chosen.update((list) =>
      list.includes(programId) ? list.filter((one) => one !== programId) : [...list, programId],
    );
  }

  protected setDate(event: Event): void {
    this.date.set((event.target as HTMLInputElement).value);
  }

  protected async make(event: Event): Promise<void> {
    event.preventDefault();
    this.isBusy.set(true);
    this.failure.set(null);
    const players = this.chosen().map((programId) => ({ id: newId(), programId }));
    const input = {
      ...{ id: newId(), date: this.date(), isBlind: this.isBlind(), isRecorded: this.isRecorded() },
      players,
    };
    try {
      const { id } = await firstValueFrom(this.api.make(input));
      void this.router.navigate(['/mocks', id]);
    } catch (error) {
      this.failure.set(troubleOf(error).message);
    }
    this.isBusy.set(false);
  }

  protected when({ date }: MockLine): string {
    return dayText(date);
  }

  protected who({ players }: MockLine): string {
    return players.map(({ name }) => name).join(', ');
  }

  protected state({ closedAt, listeners, scores }: MockLine): string {
    const panel =
      listeners === 0 ? 'no listener yet' : listeners === 1 ? 'one listener' : `${listeners} listeners`;
    if (closedAt !== null) return `${panel}, ended: results stand`;
    return scores === 0 ? panel : `${panel}, ${scores} scores so far`;
  }

  protected daysOf({ daysLeft }: MockChoice): string {
    return daysLeft === null ? '' : `${daysText(daysLeft)} to the audition`;
  }
}
