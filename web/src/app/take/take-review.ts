import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import type { Subscription } from 'rxjs';
import type { ToldTake } from '@vivid-cue/core/takes';
import { levelWord } from '@vivid-cue/core/takes';
import { NO_MARKS, type TakeMarks } from '@vivid-cue/contract/take-marks';
import { MusicFiles } from '../data/music-files';
import { PartMusic, type MusicOfPart } from '../data/part-music';
import type { KeptRecording } from '../data/take-database';
import { wavBlob } from '../data/wav-blob';
import { TakeDesk } from './take-desk';
import { TakeListen } from './take-listen';
import { TakePlayer } from './take-player';
import { TakeStudy } from './take-study';

/** A recording that was just made: listened to, tapped, then kept or dropped. */
@Component({
  selector: 'vc-take-review',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [TakeListen],
  providers: [TakePlayer],
  template: `
    <section class="review" aria-labelledby="review-title">
      <header>
        <div>
          <h2 id="review-title">{{ recording().workTitle }}, just recorded</h2>
          <p class="soft">{{ length() }} · {{ level() }}</p>
        </div>
        <div class="deeds">
          <button type="button" class="main" [disabled]="isKeeping()" (click)="keep()">
            {{ isKeeping() ? 'Packing …' : 'Keep this take' }}
          </button>
          <button type="button" [disabled]="isKeeping()" (click)="drop()">
            {{ isSure() ? 'Drop it for good' : 'Drop it' }}
          </button>
        </div>
      </header>
      @if (lost() > 0) {
        <p class="trouble" role="status">
          The sound card skipped {{ lost() }} milliseconds; there is silence in their place.
        </p>
      }
      @if (trouble()) {
        <p class="trouble" role="alert">{{ trouble() }}</p>
      }
      @if (url(); as address) {
        <vc-take-listen
          [url]="address"
          [seconds]="seconds()"
          [told]="told()"
          [music]="music()"
          [bounds]="part()?.bounds ?? null"
          [progress]="progress()"
          [note]="note()"
          [(marks)]="marks"
          (stopReading)="stop()"
        />
      }
    </section>
  `,
  styles: `
    .review {
      padding: 16px 18px;
      border: 1px solid var(--primary);
      border-radius: 4px;
    }
    header {
      display: flex;
      flex-wrap: wrap;
      gap: 12px;
      justify-content: space-between;
      margin-bottom: 14px;
    }
    .deeds {
      display: flex;
      gap: 10px;
      align-items: start;
    }
    button {
      min-height: 44px;
      padding: 0 16px;
      border: 1px solid var(--rule-strong);
      border-radius: 4px;
      background: var(--sheet);
      color: var(--ink);
      font: 600 16px var(--font-text);
      cursor: pointer;
    }
    .main {
      border-color: var(--primary);
      background: var(--primary);
      color: var(--on-primary);
    }
    .trouble {
      margin-bottom: 12px;
      padding: 10px 14px;
      border-left: 4px solid var(--stop);
      background: var(--stop-wash);
    }
  `,
})
export class TakeReview {
  private readonly desk = inject(TakeDesk);
  private readonly parts = inject(PartMusic);
  private readonly study = inject(TakeStudy);
  private readonly files = inject(MusicFiles);

  readonly recording = input.required<KeptRecording>();
  readonly kept = output<void>();

  protected readonly url = signal<string | null>(null);
  protected readonly music = signal<MusicOfPart | null>(null);
  protected readonly told = signal<ToldTake | null>(null);
  protected readonly progress = signal<number | null>(null);
  protected readonly note = signal<string | null>(null);
  protected readonly marks = signal<TakeMarks>(NO_MARKS);
  protected readonly isKeeping = signal(false);
  protected readonly isSure = signal(false);
  protected readonly trouble = signal<string | null>(null);
  private reading: Subscription | null = null;

  protected readonly part = computed(
    () => this.desk.view()?.parts.find(({ id }) => id === this.recording().programPartId) ?? null,
  );
  protected readonly seconds = computed(() => this.recording().frames / Math.max(1, this.recording().rate));
  protected readonly lost = computed(() =>
    Math.round((1000 * (this.recording().lost ?? 0)) / Math.max(1, this.recording().rate)),
  );
  protected readonly length = computed(() => `${this.seconds().toFixed(1)} s`);
  protected readonly level = computed(() => {
    const word = levelWord(this.recording().peak);
    return word === 'good' ? 'level good' : `level ${word}`;
  });

  constructor() {
    effect(() => void this.open(this.recording()));
    inject(DestroyRef).onDestroy(() => {
      this.stop();
      this.forget();
    });
  }

  private forget(): void {
    const url = this.url();
    if (url !== null) URL.revokeObjectURL(url);
  }

  private openedId = '';

  private async open(recording: KeptRecording): Promise<void> {
    if (recording.id === this.openedId) return;
    this.openedId = recording.id;
    this.forget();
    this.stop();
    this.told.set(null);
    this.note.set(null);
    this.marks.set(NO_MARKS);
    const { pieces, rate } = await this.desk.soundOf(recording);
    this.url.set(URL.createObjectURL(wavBlob(pieces, rate)));
    const music = await this.parts.of(recording.programPartId).catch(() => null);
    this.music.set(music);
    if (recording.id !== this.openedId) return;
    this.reading = this.study
      .read(
        {
          ...{ sound: { pieces, rate }, music, withRepeats: recording.withRepeats },
          tempo: recording.asked ?? this.part()?.target ?? null,
        },
        this.files,
      )
      .subscribe((news) => {
        if ('progress' in news) this.progress.set(news.progress);
        else if ('told' in news) this.told.set(news.told);
        else this.note.set(news.failure);
        if (!('progress' in news)) this.progress.set(null);
      });
  }

  protected stop(): void {
    this.reading?.unsubscribe();
    this.reading = null;
    this.progress.set(null);
  }

  protected async keep(): Promise<void> {
    this.isKeeping.set(true);
    this.trouble.set(null);
    try {
      await this.desk.keep(this.recording(), { marks: this.marks(), told: this.told() });
      this.kept.emit();
    } catch (error) {
      this.trouble.set(keepTrouble(error));
    }
    this.isKeeping.set(false);
  }

  /** A recording cannot be had again: it is asked twice. */
  protected drop(): void {
    if (this.isSure()) void this.desk.drop(this.recording().id);
    else this.isSure.set(true);
  }
}

/** Why a take could not be kept. Shape: Dexie tells what the browser said under `inner` */
function keepTrouble(error: unknown): string {
  const { name, inner } = error as { readonly name?: string; readonly inner?: { readonly name?: string } };
  if (name === 'QuotaExceededError' || inner?.name === 'QuotaExceededError')
    return 'This device has no room for it. Make room, and keep it again: it is still here as long as this page is open.';
  return error instanceof Error && name === 'Error' && error.message !== ''
    ? error.message
    : 'The take could not be kept just now. It is still here: try again.';
}
