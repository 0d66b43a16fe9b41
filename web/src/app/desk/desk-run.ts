import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { tempoText } from '@vivid-cue/core/music';
import type { DeskPart, DeskScore } from '@vivid-cue/contract';
import { SlipTaps } from '../ui/slip-taps';
import { StudioWords } from '../ui/studio-words';
import { DeskStore } from './desk-store';
import { deskPartName, isInPart, measuresOfPart, runReps } from '@vivid-cue/contract/desk-music';
import { PracticeTime } from './practice-time';

/** A run of a part: played through once, then the measures that slipped are tapped. */
@Component({
  selector: 'vc-desk-run',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [SlipTaps, StudioWords],
  template: `
    <h1>{{ name() }}, from beginning to end</h1>
    <p class="soft">
      {{
        'Play it through without stopping. Then tap the measures that slipped; none is fine too.'
          | studioWords
      }}
    </p>
    @if (tempo(); as own) {
      <p class="tempo">
        <button type="button" aria-label="Slower" (click)="step(-2)">−</button>
        <span class="mono">{{ own }}</span>
        <button type="button" aria-label="Faster" (click)="step(2)">+</button>
        <span class="soft">{{ share() }} % of the target</span>
      </p>
    }
    <vc-slip-taps [measures]="measures()" [(slips)]="slips" />
    <div class="foot">
      <button type="button" class="keep" (click)="keep()">
        {{ slips().size === 0 ? 'A clean run' : slips().size + ' slipped: keep the run' }}
      </button>
      <button type="button" (click)="record.emit()">Record it instead</button>
      <button type="button" (click)="next.emit()">Leave it out</button>
    </div>
  `,
  styleUrl: './desk-buttons.css',
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      gap: 14px;
    }
    h1 {
      font-size: clamp(26px, 3.4vw, 38px);
    }
    .soft {
      margin: 0;
      color: var(--ink-soft);
      font-size: 19px;
    }
    .tempo {
      display: flex;
      gap: 14px;
      align-items: center;
      margin: 0;
      font-size: 30px;
    }
    .foot {
      display: flex;
      flex-wrap: wrap;
      gap: 12px;
    }
    .keep {
      min-width: 220px;
      border-color: var(--primary);
      background: var(--primary);
      color: var(--on-primary);
    }
  `,
})
export class DeskRun {
  private readonly store = inject(DeskStore);
  private readonly time = inject(PracticeTime);

  readonly part = input.required<DeskPart>();
  readonly score = input.required<DeskScore>();
  readonly itemKey = input('run');
  readonly next = output<void>();
  readonly record = output<void>();

  protected readonly slips = signal<ReadonlySet<number>>(new Set());
  protected readonly share = signal(100);
  protected readonly name = computed(() => deskPartName(this.part()));
  private readonly passages = computed(() =>
    this.store.passages().filter((passage) => isInPart(passage, this.part())),
  );
  protected readonly measures = computed(() => measuresOfPart(this.part(), this.score()));
  protected readonly tempo = computed(() => {
    const target = this.passages()[0]?.target;
    return target ? tempoText(Math.round((target.bpm * this.share()) / 100), target.beatUnit) : null;
  });

  protected step(percent: number): void {
    this.share.update((share) => Math.max(40, Math.min(110, share + percent)));
  }

  /** Every passage of the part was played once in context: clean where no measure of it slipped. */
  protected keep(): void {
    const run = { slips: this.slips(), share: this.share() / 100 };
    for (const { passage, bpm, isClean } of runReps(this.passages(), run))
      this.store.log(passage, { bpm, isClean, context: 'run' });
    this.time.touch(this.itemKey(), Date.now());
    this.time.tick(this.itemKey(), true);
    this.next.emit();
  }
}
