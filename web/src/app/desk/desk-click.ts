import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import { clickPatternsOf, type ClickSettings } from '@vivid-cue/core/climb';
import { COMMON_TIME, meterFrom, quarterBpm, type BeatUnit, type Bpm } from '@vivid-cue/core/music';
import type { MeasureDigest } from '@vivid-cue/core/score';
import { ClickPlayer } from './click-player';

/** Taps further apart than this begin anew. Units: milliseconds */
const TAP_PAUSE_MS = 2500;

/** The click of a passage: on and off, how it counts, and its light. */
@Component({
  selector: 'vc-desk-click',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="pulse" aria-hidden="true">
      @for (beat of beats(); track beat) {
        <span [class.is-now]="player.now()?.beat === beat" [class.is-first]="beat === 0"></span>
      }
    </div>
    <div class="row">
      <button type="button" class="main" [attr.aria-pressed]="player.isOn()" (click)="turn()">
        {{ player.isOn() ? 'Stop the click' : 'Click' }} <kbd>k</kbd>
      </button>
      <button type="button" (click)="tap()">Tap <kbd>t</kbd></button>
      <button
        type="button"
        class="plain"
        [attr.aria-expanded]="isOpen()"
        aria-controls="click-settings"
        (click)="isOpen.set(!isOpen())"
      >
        {{ settingsText() }}
      </button>
    </div>
    @if (isOpen()) {
      <div id="click-settings" class="settings">
        <label
          >Counts
          <select [value]="pattern()" (change)="pattern.set(valueOf($event))">
            @for (one of patterns(); track one.id) {
              <option [value]="one.id" [selected]="one.id === pattern()">{{ one.name }}</option>
            }
          </select>
        </label>
        <label
          >Counts in
          <select (change)="countIn.set(+valueOf($event))">
            @for (count of [0, 1, 2]; track count) {
              <option [value]="count" [selected]="count === countIn()">
                {{ count === 0 ? 'nothing' : count === 1 ? 'one measure' : 'two measures' }}
              </option>
            }
          </select>
        </label>
        <label
          >Falls silent
          <select (change)="setSilence(valueOf($event))">
            @for (one of silences; track one.value) {
              <option [value]="one.value" [selected]="one.value === silence()">{{ one.label }}</option>
            }
          </select>
        </label>
        <p class="care">Keep the click just loud enough to hear it.</p>
      </div>
    }
  `,
  styleUrl: './desk-buttons.css',
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      gap: 10px;
      --button-height: 48px;
      --button-text: 17px;
    }
    .pulse {
      display: flex;
      gap: 8px;
    }
    .pulse span {
      flex: 1;
      max-width: 74px;
      height: 18px;
      border-radius: 2px;
      background: var(--rule);
    }
    .pulse .is-first {
      height: 26px;
      margin-top: -8px;
    }
    .pulse .is-now {
      background: var(--vivid);
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 10px;
      align-items: center;
    }
    .main[aria-pressed='true'] {
      border-color: var(--primary);
      background: var(--primary);
      color: var(--on-primary);
    }
    .plain {
      border-color: transparent;
      background: transparent;
      color: var(--ink-soft);
      font-weight: 400;
      text-decoration: underline;
      text-underline-offset: 4px;
    }
    .settings {
      display: flex;
      flex-wrap: wrap;
      gap: 12px 18px;
      align-items: end;
    }
    label {
      display: flex;
      flex-direction: column;
      gap: 4px;
      color: var(--ink-soft);
    }
    select {
      min-height: 44px;
      padding: 0 10px;
      border: 1px solid var(--rule-strong);
      border-radius: 4px;
      background: var(--sheet);
      color: var(--ink);
      font: 400 17px var(--font-text);
    }
    .care {
      flex-basis: 100%;
      margin: 0;
      color: var(--ink-soft);
    }
    @media (max-width: 700px) {
      kbd {
        display: none;
      }
    }
  `,
})
export class DeskClick {
  protected readonly player = inject(ClickPlayer);

  readonly measures = input.required<readonly MeasureDigest[]>();
  readonly bpm = input.required<Bpm>();
  readonly unit = input.required<BeatUnit>();
  /** Which way of clicking the rung asks for: slow rungs click the smaller value. */
  readonly usualPattern = input('beats');
  /** A tempo that was tapped. */
  readonly tapped = output<Bpm>();

  protected readonly isOpen = signal(false);
  protected readonly pattern = signal('beats');
  protected readonly countIn = signal(1);
  protected readonly silence = signal('never');
  protected readonly silences = [
    { value: 'never', label: 'never' },
    { value: '1', label: 'after one measure' },
    { value: '2', label: 'after two measures' },
    { value: '4', label: 'after four measures' },
    { value: 'alternate', label: 'every other measure' },
  ];
  private taps: number[] = [];

  private readonly meters = computed(() =>
    this.measures().map(({ time, quarters }) => ({ meter: meterFrom(time) ?? COMMON_TIME, quarters })),
  );
  private readonly meter = computed(() => this.meters()[0]?.meter ?? COMMON_TIME);
  protected readonly patterns = computed(() => clickPatternsOf(this.meter()));
  protected readonly beats = computed(() => {
    const [beats] = this.patterns();
    return (beats?.strokes ?? []).map((_, n) => n);
  });
  private readonly settings = computed((): ClickSettings => {
    const silence = this.silence();
    return {
      measures: this.meters(),
      quarterBpm: quarterBpm(this.bpm(), this.unit()),
      pattern: this.pattern(),
      countIn: this.countIn(),
      silentAfter: /^\d+$/u.test(silence) ? Number(silence) : null,
      isAlternating: silence === 'alternate',
    };
  });
  protected readonly settingsText = computed(() => {
    const name = this.patterns().find(({ id }) => id === this.pattern())?.name ?? 'beats';
    const count = this.countIn();
    const silence = this.silence();
    return [
      `clicks ${name}`,
      count === 0 ? 'no count' : count === 1 ? 'one measure in' : 'two measures in',
      ...(silence === 'never'
        ? []
        : [`silent ${this.silences.find(({ value }) => value === silence)?.label ?? ''}`]),
    ].join(' · ');
  });

  constructor() {
    effect(() => this.pattern.set(this.usualPattern()));
    // Another tempo or way of counting is heard at once.
    effect(() => {
      const settings = this.settings();
      if (untracked(this.player.isOn)) this.player.start(settings);
    });
  }

  turn(): void {
    if (this.player.isOn()) this.player.stop();
    else this.player.start(this.settings());
  }

  tap(): void {
    const now = performance.now();
    const last = this.taps.at(-1) ?? 0;
    this.taps = now - last > TAP_PAUSE_MS ? [now] : [...this.taps.slice(-4), now];
    const [first = now] = this.taps;
    const gaps = this.taps.length - 1;
    if (gaps >= 2) this.tapped.emit(Math.round((60_000 * gaps) / (now - first)));
  }

  protected setSilence(value: string): void {
    this.silence.set(value);
  }

  protected valueOf(event: Event): string {
    return (event.target as HTMLSelectElement).value;
  }
}
