import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { auralQuestions } from '@vivid-cue/core/mock';
import { NotePlayer } from '../ui/note-player';

/** The ear test of a mock day: each question sounds when it is asked; the player answers aloud, and listeners hear. */
@Component({
  selector: 'vc-mock-ear',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './mock-ear.html',
  styleUrls: ['../ui/plain-buttons.css', './mock-ear.css'],
})
export class MockEar {
  private readonly player = inject(NotePlayer);

  readonly level = input.required<number>();
  readonly seed = input.required<number>();

  protected readonly questions = computed(() =>
    auralQuestions({ level: this.level(), seed: this.seed() }).map(({ test }) => test),
  );
  protected readonly at = signal(0);
  protected readonly test = computed(() => this.questions()[this.at()] ?? null);
  protected readonly isSounding = this.player.isOn;
  /** Whether no other question comes. */
  readonly isLast = computed(() => this.at() + 1 >= this.questions().length);

  constructor() {
    effect(() => {
      this.test();
      untracked(() => this.sound());
    });
    inject(DestroyRef).onDestroy(() => this.player.stop());
  }

  protected sound(): void {
    const test = this.test();
    if (test) this.player.sound(test.notes, test.quarterBpm);
  }

  /** To the next question, where one comes. */
  goOn(): void {
    this.at.update((at) => at + 1);
  }
}
