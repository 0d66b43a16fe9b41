import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  linkedSignal,
  signal,
} from '@angular/core';
import { hasOthers, type OwnPart } from '@vivid-cue/core/mock';
import { COMMON_TIME, meterFrom, quarterBpm, type BeatUnit, type Bpm } from '@vivid-cue/core/music';
import type { ScoreDigest } from '@vivid-cue/core/score';
import type { Span } from '@vivid-cue/core/spans';
import { Accompanist } from '../data/accompanist';
import { MusicFiles } from '../data/music-files';
import { NotePlayer } from './note-player';
import { StudioWords } from './studio-words';

const CHOICES: readonly { readonly own: OwnPart; readonly label: string }[] = [
  { own: 'silent', label: 'the others, you play' },
  { own: 'soft', label: 'with your part softly' },
  { own: 'alone', label: 'your part alone' },
];

/** The other parts of a score, sounded at any tempo with a count-in; nothing where there is no other part. */
@Component({
  selector: 'vc-accompany-bar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [StudioWords],
  template: `
    @if (isOffered()) {
      <div class="bar" role="group" aria-label="Accompaniment">
        <span class="name">Accompaniment</span>
        <select aria-label="What sounds" (change)="choose($event)">
          @for (one of choices; track one.own) {
            <option [value]="one.own" [selected]="one.own === own()">{{ one.label }}</option>
          }
        </select>
        <label
          >at
          <input
            type="number"
            min="10"
            max="400"
            aria-label="Tempo"
            [value]="tempo()"
            (change)="setTempo($event)"
        /></label>
        <button type="button" (click)="turn()">
          {{ player.isOn() ? 'Stop' : ('Play, one measure before' | studioWords) }}
        </button>
        @if (trouble()) {
          <span role="alert">{{ trouble() }}</span>
        }
      </div>
    }
  `,
  styles: `
    .bar {
      display: flex;
      flex-wrap: wrap;
      gap: 10px;
      align-items: center;
      padding: 8px 0;
    }
    .name {
      font-weight: 600;
    }
    select,
    input,
    button {
      min-height: var(--button-height, 40px);
      padding: 0 12px;
      border: 1px solid var(--rule-strong);
      border-radius: 4px;
      background: var(--sheet);
      color: var(--ink);
      font: 16px var(--font-text);
    }
    input {
      width: 84px;
      margin-left: 6px;
      font-family: var(--font-mono);
    }
    button {
      font-weight: 600;
      cursor: pointer;
    }
  `,
})
export class AccompanyBar {
  private readonly accompanist = inject(Accompanist);
  private readonly files = inject(MusicFiles);
  protected readonly player = inject(NotePlayer);

  readonly scoreId = input.required<string>();
  readonly digest = input.required<ScoreDigest>();
  readonly span = input.required<Span>();
  readonly bpm = input<Bpm>(80);
  readonly unit = input<BeatUnit>('quarter');

  protected readonly choices = CHOICES;
  protected readonly own = signal<OwnPart>('silent');
  protected readonly tempo = linkedSignal(() => Math.round(this.bpm()));
  protected readonly trouble = signal<string | null>(null);
  protected readonly isOffered = computed(() => hasOthers(this.digest().parts, this.digest().partId));

  constructor() {
    inject(DestroyRef).onDestroy(() => this.player.stop());
  }

  protected choose(event: Event): void {
    this.own.set((event.target as HTMLSelectElement).value as OwnPart);
  }

  protected setTempo(event: Event): void {
    const tempo = Number((event.target as HTMLInputElement).value);
    if (tempo >= 10 && tempo <= 400) this.tempo.set(tempo);
  }

  protected turn(): void {
    if (this.player.isOn()) this.player.stop();
    else void this.play();
  }

  private async play(): Promise<void> {
    this.trouble.set(null);
    const span = this.span();
    const { partId, measures } = this.digest();
    try {
      const bytes = await this.files.score(this.scoreId());
      const notes = await this.accompanist.notes({ bytes, partId, span, own: this.own() });
      const tempo = quarterBpm(this.tempo(), this.unit());
      const own = measures.slice(span.fromIndex, span.endIndex);
      this.player.play(notes, tempo, {
        measures: own.map(({ time, quarters }) => ({ meter: meterFrom(time) ?? COMMON_TIME, quarters })),
        ...{ quarterBpm: tempo, pattern: 'beats', countIn: 1, silentAfter: 0, isAlternating: false },
      });
    } catch (error) {
      this.trouble.set(error instanceof Error ? error.message : 'This cannot be sounded just now.');
    }
  }
}
