import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { firstValueFrom } from 'rxjs';
import { takesBeside } from '@vivid-cue/core/takes';
import type { TakeView } from '@vivid-cue/contract';
import { troubleOf } from '../data/problem';
import { StudioWords } from '../ui/studio-words';
import { momentText } from '../ui/texts';
import { TakeCurve } from './take-curve';
import { TakeDesk } from './take-desk';
import { bandOf, rangeOf } from './take-map';
import { TakePlayer } from './take-player';

/** How long a measure is heard over its end. Units: seconds */
const OVER = 0.15;

/** Two takes of one work: what moved, both curves, and the same measures heard one after the other. */
@Component({
  selector: 'vc-beside-view',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [StudioWords, TakeCurve],
  providers: [TakePlayer],
  templateUrl: './beside-view.html',
  styleUrls: ['../ui/plain-buttons.css', './beside-view.css'],
})
export class BesideView {
  private readonly desk = inject(TakeDesk);
  protected readonly player = inject(TakePlayer);

  readonly beforeId = input.required<string>();
  readonly afterId = input.required<string>();

  protected readonly before = signal<TakeView | null>(null);
  protected readonly after = signal<TakeView | null>(null);
  protected readonly trouble = signal<string | null>(null);
  /** Which of the two plays. */
  protected readonly playing = signal<'before' | 'after' | null>(null);
  protected readonly fromIndex = signal<number | null>(null);
  protected readonly toIndex = signal<number | null>(null);
  private then: (() => void) | null = null;
  private endsAt = Infinity;

  protected readonly laid = computed(() => {
    const [before, after] = [this.before()?.told, this.after()?.told];
    return before && after ? takesBeside(before, after) : null;
  });
  protected readonly takes = computed(() =>
    ([['before', this.before()] as const, ['after', this.after()] as const] as const).flatMap(
      ([which, view]) =>
        view?.told
          ? [
              {
                ...{ which, view, told: view.told },
                name: `Take ${view.number}`,
                when: momentText(Date.parse(view.at)),
                band: bandOf(view.part.bounds, view.told.beatQuarters),
              },
            ]
          : [],
    ),
  );
  /** Both pictures reach as far, so that they can be compared. */
  protected readonly scale = computed(() =>
    rangeOf(
      this.takes().map(({ told }) => told.measures.flatMap(({ bpm }) => bpm ?? [])),
      this.takes()[0]?.band ?? null,
    ),
  );
  protected readonly title = computed(() => {
    const [before, after] = [this.before(), this.after()];
    return before && after ? `Takes ${before.number} and ${after.number}, ${after.part.workTitle}` : '';
  });
  protected readonly missing = computed(
    () => this.before() !== null && this.after() !== null && this.laid() === null,
  );
  /** Measures that both takes hold: what can be heard one after the other. */
  protected readonly shared = computed(() =>
    (this.laid()?.measures ?? []).filter(({ before, after }) => before && after),
  );

  constructor() {
    effect(() => void this.open(this.beforeId(), this.afterId()));
    effect(() => {
      const at = this.player.seconds();
      if (this.playing() !== null && at >= this.endsAt) this.ended();
    });
    effect(() => {
      const [first] = this.shared();
      if (first && this.fromIndex() === null) {
        this.fromIndex.set(first.index);
        this.toIndex.set(this.shared()[Math.min(3, this.shared().length - 1)]?.index ?? first.index);
      }
    });
  }

  private async open(beforeId: string, afterId: string): Promise<void> {
    try {
      const [before, after] = await Promise.all(
        [beforeId, afterId].map((id) => firstValueFrom(this.desk.routes.read(id))),
      );
      if (beforeId !== this.beforeId() || afterId !== this.afterId()) return;
      this.before.set(before ?? null);
      this.after.set(after ?? null);
    } catch (error) {
      this.trouble.set(troubleOf(error).message);
    }
  }

  protected choose(which: 'from' | 'to', event: Event): void {
    const index = Number((event.target as HTMLSelectElement).value);
    (which === 'from' ? this.fromIndex : this.toIndex).set(index);
  }

  /** The same measures, first in the earlier take and then in the later one. */
  protected hearBoth(): void {
    this.hear('before', () => this.hear('after'));
  }

  protected hear(which: 'before' | 'after', then: (() => void) | null = null): void {
    const view = which === 'before' ? this.before() : this.after();
    const from = this.placeOf(which, this.fromIndex());
    const to = this.placeOf(which, this.toIndex());
    if (!view || !from || !to) return;
    this.player.open(this.desk.routes.soundPath(view.id));
    this.then = then;
    this.endsAt = Math.max(from.end, to.end) + OVER;
    this.playing.set(which);
    void this.player.play(from.start);
  }

  private placeOf(
    which: 'before' | 'after',
    index: number | null,
  ): { readonly start: number; readonly end: number } | null {
    return this.shared().find((one) => one.index === index)?.[which] ?? null;
  }

  protected stop(): void {
    this.then = null;
    this.ended();
  }

  private ended(): void {
    const next = this.then;
    this.player.pause();
    [this.then, this.endsAt] = [null, Infinity];
    this.playing.set(null);
    next?.();
  }

  protected goIn(which: 'before' | 'after', seconds: number): void {
    const view = which === 'before' ? this.before() : this.after();
    if (!view) return;
    this.player.open(this.desk.routes.soundPath(view.id));
    [this.then, this.endsAt] = [null, Infinity];
    this.playing.set(which);
    void this.player.play(seconds);
  }
}
