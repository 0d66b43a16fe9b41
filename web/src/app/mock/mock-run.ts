import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router } from '@angular/router';
import { firstValueFrom } from 'rxjs';
import { itemSeed, sightStudy } from '@vivid-cue/core/mock';
import type { MockItemView, MockPhase, MockPlayerView, MockView, TakePart } from '@vivid-cue/contract';
import { NO_MARKS } from '@vivid-cue/contract/take-marks';
import { Engraver } from '../data/engraver';
import { InOrder } from '../data/in-order';
import { MockApi } from '../data/mock-api';
import { Microphone } from '../data/microphone';
import { troubleOf } from '../data/problem';
import { SessionStore } from '../data/session-store';
import { TakeDesk } from '../take/take-desk';
import { engravedLines, measuresALine, showLines } from '../ui/engraved-lines';
import { clockText } from '../ui/texts';
import { isTyping } from '../ui/typing';
import { MockEar } from './mock-ear';

/** One thing that is called up, of one player. */
interface Step {
  readonly player: MockPlayerView;
  readonly item: MockItemView;
  readonly seed: number;
}

/** Clocks count in so many milliseconds. */
const TICK_MS = 250;

/**
 * The mock day on one screen: it shows the player what the day would, and nothing else. One key goes on: called up, study
 * time, playing, pause, the next. What is played may be recorded; each part becomes a take that listeners may hear.
 */
@Component({
  selector: 'vc-mock-run',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MockEar],
  providers: [Microphone, TakeDesk],
  templateUrl: './mock-run.html',
  styleUrl: './mock-run.css',
  host: { role: 'main', tabindex: '-1', '(document:keydown)': 'onKey($event)' },
})
export class MockRun {
  private readonly api = inject(MockApi);
  private readonly router = inject(Router);
  private readonly session = inject(SessionStore);
  private readonly engraver = inject(Engraver);
  private readonly desk = inject(TakeDesk);
  protected readonly microphone = inject(Microphone);

  /** Where the day is: told in the order of the keys, however fast they follow each other. */
  private readonly told = new InOrder();

  readonly mockId = input.required<string>();

  protected readonly view = signal<MockView | null>(null);
  protected readonly trouble = signal<string | null>(null);
  protected readonly at = signal(-1);
  protected readonly phase = signal<MockPhase>('called');
  /** Seconds left of study time or pause. */
  protected readonly left = signal(0);
  private clock: ReturnType<typeof setInterval> | null = null;
  private readonly stage = viewChild<ElementRef<HTMLElement>>('stage');
  private readonly ear = viewChild(MockEar);
  /** The ear test, while another question of it comes. */
  private readonly asking = computed(() => (this.ear()?.isLast() === false ? this.ear() : undefined));
  /** Takes that wait to be with the server before they can be given to listeners. */
  private readonly toAttach = new Map<string, { readonly playerId: string; readonly itemId: string }>();

  private readonly steps = computed((): readonly Step[] =>
    (this.view()?.players ?? []).flatMap((player, n) =>
      player.items.map((item, at) => ({ player, item, seed: itemSeed(this.view()?.seed ?? 0, n, at) })),
    ),
  );
  protected readonly step = computed(() => this.steps()[this.at()] ?? null);
  protected readonly isOver = computed(() => this.at() >= this.steps().length && this.steps().length > 0);
  protected readonly playerName = computed(() => {
    const player = this.step()?.player;
    if (!player) return '';
    const n = (this.view()?.players ?? []).indexOf(player);
    return this.view()?.isBlind === true ? `Player ${n + 1}` : player.student.name;
  });
  protected readonly title = computed(() => {
    const item = this.step()?.item;
    return item?.drawn && item.drawn.start === null ? item.drawn.title : (item?.title ?? '');
  });
  protected readonly startText = computed(() => {
    const start = this.step()?.item.drawn?.start;
    return start == null ? '' : `from ${start}`;
  });
  protected readonly place = computed(() => {
    const step = this.step();
    if (!step) return '';
    return `${step.player.items.indexOf(step.item) + 1} of ${step.player.items.length}`;
  });
  protected readonly goOn = computed(() => {
    if (this.at() < 0) return 'Begin the day';
    const study = this.step()?.item.studySeconds ?? 0;
    switch (this.phase()) {
      case 'called':
        return study > 0 ? 'Study time' : 'Playing';
      case 'study':
        return 'Playing';
      case 'playing':
        return this.asking() ? 'Next question' : 'Played';
      case 'pause':
        return 'Next';
    }
  });
  protected readonly clockText = computed(() => clockText(Math.ceil(this.left())));

  constructor() {
    effect(() => void this.open(this.mockId()));
    effect(() => void this.showStudy(this.step(), this.phase()));
    this.desk.outbox.answered$.pipe(takeUntilDestroyed()).subscribe((takeId) => void this.attach(takeId));
    inject(DestroyRef).onDestroy(() => this.stopClock());
  }

  private async open(mockId: string): Promise<void> {
    try {
      const view = await firstValueFrom(this.api.read(mockId));
      this.view.set(view);
      // Whoever reloads the page goes on where the day is.
      const here = this.steps().findIndex(
        ({ player, item }) => player.id === view.now?.playerId && item.id === view.now.itemId,
      );
      if (here >= 0) this.at.set(here);
    } catch (error) {
      this.trouble.set(troubleOf(error).message);
    }
  }

  protected async next(): Promise<void> {
    // Before the day is here there is nothing to call up, and nothing to tell listeners.
    if (this.view() === null) return;
    if (this.isOver()) return this.leave();
    const item = this.step()?.item;
    if (!item) return this.call(0);
    switch (this.phase()) {
      case 'called':
        return item.studySeconds > 0 ? this.count('study', item.studySeconds) : this.play();
      case 'study':
        return this.play();
      case 'playing':
        if (this.asking()) return this.asking()?.goOn();
        this.microphone.stop();
        return item.pauseSeconds > 0 && this.at() + 1 < this.steps().length
          ? this.count('pause', item.pauseSeconds)
          : this.call(this.at() + 1);
      case 'pause':
        return this.call(this.at() + 1);
    }
  }

  private async call(at: number): Promise<void> {
    this.stopClock();
    this.at.set(at);
    this.phase.set('called');
    if (at === 0 && this.view()?.isRecorded === true) await this.microphone.open();
    await this.tell();
  }

  private async count(phase: 'study' | 'pause', seconds: number): Promise<void> {
    this.stopClock();
    this.phase.set(phase);
    this.left.set(seconds);
    const end = performance.now() + seconds * 1000;
    this.clock = setInterval(() => {
      this.left.set(Math.max(0, (end - performance.now()) / 1000));
      if (this.left() === 0) this.stopClock();
    }, TICK_MS);
    await this.tell();
  }

  private stopClock(): void {
    if (this.clock !== null) clearInterval(this.clock);
    this.clock = null;
  }

  private async play(): Promise<void> {
    this.stopClock();
    this.phase.set('playing');
    if (this.view()?.isRecorded === true) await this.record();
    await this.tell();
  }

  /** One take a part, kept as soon as it is played. */
  private async record(): Promise<void> {
    const step = this.step();
    const partId = step?.item.drawn?.partId ?? step?.item.partIds[0];
    if (!step || partId === undefined || !(await this.microphone.open())) return;
    const { student } = step.player;
    this.desk.open({ door: 'studio', ownerId: this.session.instructor()?.studioId ?? '' }, student.id);
    await this.desk.load();
    const part = this.desk.view()?.parts.find(({ id }: TakePart) => id === partId);
    if (!part) return;
    const begun = this.desk.begun(part, null, false);
    this.toAttach.set(begun.id, { playerId: step.player.id, itemId: step.item.id });
    this.microphone.record(begun, (ended) => {
      const recording = { ...begun, rate: this.microphone.rate(), frames: ended.frames, peak: ended.peak };
      this.desk.ended(ended);
      void this.desk
        .keep(recording, { marks: NO_MARKS, told: null })
        .catch(() => this.trouble.set('This part could not be kept; look for it on the student’s takes.'));
    });
  }

  private async attach(takeId: string): Promise<void> {
    const place = this.toAttach.get(takeId);
    if (!place) return;
    this.toAttach.delete(takeId);
    await firstValueFrom(this.api.attach(this.mockId(), { ...place, takeId })).catch(() => undefined);
  }

  /** Listeners' pages follow. */
  private async tell(): Promise<void> {
    const step = this.step();
    const now = step && { playerId: step.player.id, itemId: step.item.id, phase: this.phase() };
    try {
      await firstValueFrom(this.told.run(this.api.place(this.mockId(), { now })));
      this.trouble.set(null);
    } catch (error) {
      this.trouble.set(troubleOf(error).message);
    }
  }

  /** What is read at sight is shown from its study time on, and never before. */
  private async showStudy(step: Step | null, phase: MockPhase): Promise<void> {
    const stage = this.stage()?.nativeElement;
    if (!stage) return;
    const isShown = step?.item.call === 'sight' && (phase === 'study' || phase === 'playing');
    if (!step || !isShown) {
      stage.replaceChildren();
      return;
    }
    if (stage.childElementCount > 0) return;
    const { instrument } = step.player.student;
    const study = sightStudy({ level: step.item.level, instrument, seed: step.seed });
    if (!study.ok) {
      this.trouble.set(study.issues[0]?.message ?? 'No study could be written for this instrument.');
      return;
    }
    const lines = await engravedLines(this.engraver, study.value, measuresALine(stage.clientWidth)).catch(
      () => null,
    );
    if (!lines) this.trouble.set('The study cannot be drawn just now; go on with the next.');
    else if (step === this.step()) showLines(stage, lines);
  }

  protected async leave(): Promise<void> {
    this.microphone.stop();
    await firstValueFrom(this.told.run(this.api.place(this.mockId(), { now: null }))).catch(() => undefined);
    void this.router.navigate(['/mocks', this.mockId()]);
  }

  protected onKey(event: KeyboardEvent): void {
    if (isTyping(event) || event.ctrlKey || event.metaKey || event.target instanceof HTMLButtonElement)
      return;
    if (event.key !== ' ' && event.key !== 'Enter' && event.key !== 'PageDown') return;
    event.preventDefault();
    void this.next();
  }
}
