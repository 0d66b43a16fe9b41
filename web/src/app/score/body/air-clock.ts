import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  output,
  signal,
} from '@angular/core';

/** How loud a long tone is held. */
export type AirLevel = 'soft' | 'loud';

interface Try {
  readonly id: number;
  readonly level: AirLevel;
  readonly seconds: number;
  readonly isSteady: boolean;
}

/** Nobody holds a tone longer. Units: seconds */
const MOST_SECONDS = 120;

/** A clock for long tones: several tries soft and loud, of which the longest steady one is kept. */
@Component({
  selector: 'vc-air-clock',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="run">
      @if (running(); as level) {
        <span class="seconds mono" role="timer">{{ shown() }}</span>
        <button type="button" class="main" (click)="stop()">Stop: the {{ level }} tone ended</button>
      } @else {
        <button type="button" (click)="start('loud')">Time a loud tone</button>
        <button type="button" (click)="start('soft')">Time a soft tone</button>
      }
    </p>
    @if (tries().length > 0) {
      <ul>
        @for (one of tries(); track one.id) {
          <li>
            <span class="mono">{{ one.seconds.toFixed(1) }} s</span> {{ one.level }}
            <label><input type="checkbox" [checked]="one.isSteady" (change)="turn(one)" /> steady</label>
          </li>
        }
      </ul>
      <p class="run">
        <button type="button" class="main" [disabled]="bestText() === ''" (click)="keep()">
          {{ bestText() === '' ? 'No steady try yet' : 'Keep ' + bestText() }}
        </button>
        <button type="button" (click)="tries.set([])">Forget these tries</button>
      </p>
    }
  `,
  styles: `
    p,
    ul {
      margin: 4px 0;
    }
    ul {
      padding: 0;
      list-style: none;
    }
    li {
      display: flex;
      gap: 12px;
      align-items: center;
    }
    .run {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      align-items: center;
    }
    .seconds {
      min-width: 84px;
      font-size: 26px;
    }
    button {
      min-height: 32px;
      padding: 3px 10px;
      border: 1px solid var(--rule-strong);
      border-radius: 6px;
      background: var(--sheet);
      color: var(--ink);
      font: inherit;
      cursor: pointer;
    }
    .main {
      border-color: var(--primary);
      color: var(--primary);
      font-weight: 600;
    }
    .main:disabled {
      border-color: var(--rule);
      color: var(--ink-soft);
    }
  `,
})
export class AirClock {
  readonly kept = output<{ readonly soft: number | null; readonly loud: number | null }>();

  protected readonly running = signal<AirLevel | null>(null);
  protected readonly tries = signal<readonly Try[]>([]);
  private readonly elapsed = signal(0);
  private begun = 0;
  private ticking: ReturnType<typeof setInterval> | null = null;
  private lastId = 0;
  protected readonly shown = computed(() => `${this.elapsed().toFixed(1)} s`);
  private readonly best = computed(() => {
    const longest = (level: AirLevel): number | null => {
      const own = this.tries().filter((one) => one.level === level && one.isSteady);
      return own.length === 0 ? null : Math.max(...own.map(({ seconds }) => seconds));
    };
    return { soft: longest('soft'), loud: longest('loud') };
  });
  protected readonly bestText = computed(() => {
    const { soft, loud } = this.best();
    const said = [
      loud === null ? '' : `${loud.toFixed(1)} s loud`,
      soft === null ? '' : `${soft.toFixed(1)} s soft`,
    ];
    return said.filter((text) => text !== '').join(' and ');
  });

  constructor() {
    inject(DestroyRef).onDestroy(() => this.still());
  }

  protected start(level: AirLevel): void {
    this.begun = performance.now();
    this.elapsed.set(0);
    this.running.set(level);
    this.ticking = setInterval(() => {
      this.elapsed.set((performance.now() - this.begun) / 1000);
      if (this.elapsed() >= MOST_SECONDS) this.stop();
    }, 100);
  }

  protected stop(): void {
    const level = this.running();
    this.still();
    if (level === null) return;
    const seconds = Math.round(((performance.now() - this.begun) / 1000) * 10) / 10;
    this.lastId += 1;
    // A slip of the finger is no try.
    if (seconds >= 1)
      this.tries.update((all) => [...all, { id: this.lastId, level, seconds, isSteady: true }]);
  }

  protected turn({ id }: Try): void {
    this.tries.update((all) => all.map((one) => (one.id === id ? { ...one, isSteady: !one.isSteady } : one)));
  }

  protected keep(): void {
    this.kept.emit(this.best());
    this.tries.set([]);
  }

  private still(): void {
    if (this.ticking !== null) clearInterval(this.ticking);
    this.ticking = null;
    this.running.set(null);
  }
}
