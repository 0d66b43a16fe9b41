import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import { clickSeconds, clickTimes, type Click, type ClickSettings } from '@vivid-cue/core/climb';
import { soundClick } from '../ui/click-sound';

/** Clicks are handed to the sound card so long before they sound, and looked for so often. Units: seconds, milliseconds */
const AHEAD_SECONDS = 0.25;
const LOOK_MS = 60;
/** What the first click waits for, so that none is late. Units: seconds */
const LEAD_SECONDS = 0.12;

/** The click as sound and as light: scheduled ahead on the clock of the sound card, so that nothing of the page delays it. */
@Injectable()
export class ClickPlayer {
  private context: AudioContext | null = null;
  private look: ReturnType<typeof setInterval> | null = null;
  private frame = 0;
  private settings: ClickSettings | null = null;
  private clicks: readonly Click[] = [];
  private startsAt = 0;
  private next = 0;
  private readonly waiting: { readonly time: number; readonly click: Click }[] = [];

  readonly isOn = signal(false);
  /** The click that sounds now. */
  readonly now = signal<Click | null>(null);

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      this.stop();
      void this.context?.close();
    });
  }

  /** The clock and output that other sounds of the desk use too. */
  audio(): AudioContext {
    this.context ??= new AudioContext();
    void this.context.resume();
    return this.context;
  }

  /** Clicks a passage with its count-in, again and again. */
  start(settings: ClickSettings): void {
    this.stop();
    const context = this.audio();
    this.settings = settings;
    this.clicks = clickTimes(settings);
    if (this.clicks.length === 0) return;
    this.startsAt = context.currentTime + LEAD_SECONDS;
    this.next = 0;
    this.isOn.set(true);
    this.schedule();
    this.look = setInterval(() => this.schedule(), LOOK_MS);
    this.show();
  }

  stop(): void {
    if (this.look !== null) clearInterval(this.look);
    cancelAnimationFrame(this.frame);
    this.look = null;
    this.waiting.length = 0;
    this.isOn.set(false);
    this.now.set(null);
  }

  private schedule(): void {
    const { context, settings } = this;
    if (!context || !settings) return;
    for (;;) {
      const click = this.clicks[this.next];
      if (!click) {
        this.startsAt += clickSeconds(settings);
        this.next = 0;
        continue;
      }
      const time = this.startsAt + click.at;
      if (time > context.currentTime + AHEAD_SECONDS) return;
      if (!click.isSilent) soundClick(context, click, time);
      this.waiting.push({ time, click });
      this.next += 1;
    }
  }

  private show(): void {
    this.frame = requestAnimationFrame(() => {
      const time = this.context?.currentTime ?? 0;
      while (this.waiting[0] && this.waiting[0].time <= time)
        this.now.set(this.waiting.shift()?.click ?? null);
      if (this.isOn()) this.show();
    });
  }
}
