import { DestroyRef, inject, Injectable, signal } from '@angular/core';

/** Plays a take and says where it is. */
@Injectable()
export class TakePlayer {
  private readonly audio = new Audio();
  private frame = 0;

  readonly isOn = signal(false);
  /** Where it is. Units: seconds */
  readonly seconds = signal(0);
  readonly trouble = signal<string | null>(null);
  /** How fast it is played, its pitch kept. Shape: 1 as it was played */
  readonly pace = signal(1);

  constructor() {
    this.audio.preload = 'auto';
    this.audio.addEventListener('play', () => this.follow());
    this.audio.addEventListener('pause', () => this.isOn.set(false));
    this.audio.addEventListener('ended', () => this.isOn.set(false));
    this.audio.addEventListener('error', () => {
      if (this.audio.getAttribute('src') !== null)
        this.trouble.set('The take does not play just now; look at the connection and try again.');
    });
    inject(DestroyRef).onDestroy(() => {
      this.audio.pause();
      cancelAnimationFrame(this.frame);
      this.audio.removeAttribute('src');
      this.audio.load();
    });
  }

  /** Says what is played; it is fetched at once, so that it begins as soon as somebody wants it. */
  open(url: string): void {
    if (this.audio.getAttribute('src') === url) return;
    this.audio.src = url;
    this.seconds.set(0);
    this.trouble.set(null);
  }

  turn(): void {
    if (this.isOn()) this.audio.pause();
    else void this.play();
  }

  /** Plays from where it is, or from a place. Units: seconds */
  async play(from?: number): Promise<void> {
    if (from !== undefined) this.seek(from);
    this.audio.playbackRate = this.pace();
    await this.audio.play().catch((error: unknown) => {
      // Who stops at once takes the beginning back; that is no trouble.
      if ((error as { name?: string }).name !== 'AbortError')
        this.trouble.set('The take does not play just now; look at the connection and try again.');
    });
  }

  pause(): void {
    this.audio.pause();
  }

  seek(seconds: number): void {
    this.audio.currentTime = Math.max(0, seconds);
    this.seconds.set(Math.max(0, seconds));
  }

  setPace(pace: number): void {
    this.pace.set(pace);
    this.audio.playbackRate = pace;
  }

  private follow(): void {
    this.isOn.set(true);
    cancelAnimationFrame(this.frame);
    const step = (): void => {
      this.seconds.set(this.audio.currentTime);
      if (this.isOn()) this.frame = requestAnimationFrame(step);
    };
    this.frame = requestAnimationFrame(step);
  }
}
