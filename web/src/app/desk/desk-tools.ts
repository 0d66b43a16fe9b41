import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal } from '@angular/core';
import { allowedMinutes, CARE } from '@vivid-cue/core/care';
import { hertzOf } from '@vivid-cue/core/music';
import { PITCH_NAMES } from '../take/pitch-name';
import { ToneMeasure } from '../take/tone-measure';
import { ClickPlayer } from './click-player';

/** MIDI number of the C of the drone's lowest octave. */
const LOW_C = 36;
const SOFT = 0.12;
/** Levels of practice rooms, from a soft one to brass in a small one. Units: dBA */
const LEVELS = [85, 91, 97, 100].map((dba) => ({ dba, text: lengthText(allowedMinutes(dba)) }));

function lengthText(minutes: number): string {
  return minutes >= 60 ? `${minutes / 60} ${minutes === 60 ? 'hour' : 'hours'}` : `${minutes} minutes`;
}

/** A sounding note to tune to, and a clock for long tones. */
@Component({
  selector: 'vc-desk-tools',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ToneMeasure],
  template: `
    <section aria-labelledby="drone-title">
      <h2 id="drone-title">Drone</h2>
      <p class="soft">A note that goes on, to tune to. Sounding pitch, A = 440.</p>
      <div class="notes" role="group" aria-label="Note of the drone">
        @for (name of names; track name; let n = $index) {
          <button type="button" [attr.aria-pressed]="note() === n" (click)="play(n)">{{ name }}</button>
        }
      </div>
      <div class="row">
        <button type="button" (click)="octave.set(octave() - 1); retune()" [disabled]="octave() <= 0">
          Lower
        </button>
        <button type="button" (click)="octave.set(octave() + 1); retune()" [disabled]="octave() >= 3">
          Higher
        </button>
        <button type="button" [attr.aria-pressed]="hasFifth()" (click)="hasFifth.set(!hasFifth()); retune()">
          With the fifth
        </button>
      </div>
    </section>
    <section aria-labelledby="tone-title">
      <h2 id="tone-title">Long tones</h2>
      <p class="soft">Start when you begin to play, stop when it is not steady any more.</p>
      <p class="clock mono" role="timer">{{ seconds() }}</p>
      <div class="row">
        <button type="button" class="main" (click)="turnClock()">{{ isRunning() ? 'Stop' : 'Start' }}</button>
        @if (tries().length > 0) {
          <p class="soft">Best {{ best() }} s · {{ tries().length }} tries</p>
        }
      </div>
      <vc-tone-measure />
      <p class="soft">{{ care.breath }}</p>
    </section>
    <section aria-labelledby="ears-title">
      <h2 id="ears-title">Ears</h2>
      <p class="soft">{{ care.hearing }}</p>
      <ul class="levels">
        @for (one of levels; track one.dba) {
          <li>
            <span class="mono">{{ one.dba }} dBA</span> {{ one.text }} a day
          </li>
        }
      </ul>
    </section>
  `,
  styleUrl: './desk-buttons.css',
  styles: `
    :host {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(min(100%, 340px), 1fr));
      gap: 24px 40px;
    }
    .soft {
      margin: 4px 0 10px;
      color: var(--ink-soft);
      font-size: 18px;
    }
    .notes {
      display: grid;
      grid-template-columns: repeat(6, 1fr);
      gap: 8px;
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 10px;
      align-items: center;
      margin-top: 10px;
    }
    .notes button {
      padding: 0;
    }
    button:disabled {
      opacity: 0.5;
    }
    [aria-pressed='true'],
    .main {
      border-color: var(--primary);
      background: var(--primary);
      color: var(--on-primary);
    }
    .levels {
      margin: 0;
      padding: 0;
      list-style: none;
      font-size: 18px;
    }
    .clock {
      margin: 0;
      font-size: 96px;
      line-height: 1;
    }
  `,
})
export class DeskTools {
  private readonly player = inject(ClickPlayer);
  private voices: { readonly tone: OscillatorNode; readonly gain: GainNode }[] = [];
  private startedMs = 0;
  private timer: ReturnType<typeof setInterval> | null = null;

  protected readonly care = CARE;
  protected readonly levels = LEVELS;
  protected readonly names = PITCH_NAMES;
  protected readonly note = signal<number | null>(null);
  protected readonly octave = signal(1);
  protected readonly hasFifth = signal(false);
  protected readonly isRunning = signal(false);
  protected readonly elapsed = signal(0);
  protected readonly tries = signal<readonly number[]>([]);
  protected readonly seconds = computed(() => this.elapsed().toFixed(1));
  protected readonly best = computed(() => Math.max(...this.tries()).toFixed(1));

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      this.silence();
      if (this.timer !== null) clearInterval(this.timer);
    });
  }

  protected play(n: number): void {
    this.note.set(this.note() === n ? null : n);
    this.retune();
  }

  protected retune(): void {
    this.silence();
    const note = this.note();
    if (note === null) return;
    const context = this.player.audio();
    const midi = LOW_C + 12 * this.octave() + note;
    for (const one of this.hasFifth() ? [midi, midi + 7] : [midi]) {
      const tone = context.createOscillator();
      const gain = context.createGain();
      tone.type = 'triangle';
      tone.frequency.value = hertzOf(one);
      gain.gain.setValueAtTime(0, context.currentTime);
      gain.gain.linearRampToValueAtTime(SOFT, context.currentTime + 0.1);
      tone.connect(gain).connect(context.destination);
      tone.start();
      this.voices.push({ tone, gain });
    }
  }

  private silence(): void {
    for (const { tone, gain } of this.voices) {
      gain.gain.linearRampToValueAtTime(0, gain.context.currentTime + 0.08);
      tone.stop(gain.context.currentTime + 0.1);
    }
    this.voices = [];
  }

  protected turnClock(): void {
    if (this.isRunning()) {
      if (this.timer !== null) clearInterval(this.timer);
      this.isRunning.set(false);
      this.elapsed.set((performance.now() - this.startedMs) / 1000);
      this.tries.update((tries) => [...tries, this.elapsed()]);
      return;
    }
    this.startedMs = performance.now();
    this.isRunning.set(true);
    this.timer = setInterval(() => this.elapsed.set((performance.now() - this.startedMs) / 1000), 100);
  }
}
