import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { v7 as newId } from 'uuid';
import { nearestPitchName } from './pitch-name';
import type { LongTone } from '@vivid-cue/core/takes';
import { joined } from '../data/joined';
import { Microphone } from '../data/microphone';
import { TakeOutbox } from '../data/take-outbox';
import type { EndedRecording } from '../data/take-store';
import { ToneReader } from '../data/tone-reader';

/** A tone that was held, in words. */
interface HeldTone {
  readonly id: string;
  readonly text: string;
}

/** A long tone heard by the microphone: how long it was held, how even its level and its pitch; nothing of it is kept. */
@Component({
  selector: 'vc-tone-measure',
  changeDetection: ChangeDetectionStrategy.OnPush,
  providers: [Microphone],
  template: `
    <div class="row">
      @if (microphone.isRecording()) {
        <button type="button" class="main" (click)="microphone.stop()">Stop listening</button>
        <p role="status">
          <span class="mono">{{ seconds() }}</span> s, level {{ microphone.word() }}
        </p>
      } @else {
        <button type="button" [disabled]="isReading()" (click)="listen()">
          {{ isReading() ? 'Measuring …' : 'Measure one with the microphone' }}
        </button>
      }
    </div>
    @if (microphone.trouble() ?? trouble(); as text) {
      <p class="trouble" role="alert">{{ text }}</p>
    }
    @for (one of tones(); track one.id) {
      <p class="tone">{{ one.text }}</p>
    }
  `,
  styleUrl: '../ui/plain-buttons.css',
  styles: `
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 12px;
      align-items: center;
      margin: 8px 0;
    }
    .tone {
      margin: 6px 0;
    }
  `,
})
export class ToneMeasure {
  private readonly reader = inject(ToneReader);
  private readonly database = inject(TakeOutbox).database;
  protected readonly microphone = inject(Microphone);

  protected readonly isReading = signal(false);
  protected readonly trouble = signal<string | null>(null);
  protected readonly tones = signal<readonly HeldTone[]>([]);
  protected readonly seconds = computed(() => this.microphone.seconds().toFixed(1));

  protected async listen(): Promise<void> {
    this.trouble.set(null);
    if (!(await this.microphone.open())) return;
    const recording = {
      ...{ id: newId(), studentId: '', programPartId: '', workTitle: '', sittingId: null, atMs: Date.now() },
      ...{ withRepeats: false, asked: null, owner: 'tone', rate: 0, frames: 0, peak: 0, isRunning: true },
    };
    this.microphone.record(recording, (ended) => void this.measure(ended));
  }

  private async measure({ id, unwritten }: EndedRecording): Promise<void> {
    this.isReading.set(true);
    const { pieces, recordings } = this.database;
    try {
      const kept = await pieces.where('takeId').equals(id).sortBy('n');
      const samples = joined([...kept.map((piece) => piece.samples), ...unwritten]);
      const tone = await this.reader.toneOf({ samples, rate: this.microphone.rate() });
      if (tone) this.tones.update((tones) => [{ id, text: toneText(tone) }, ...tones].slice(0, 5));
      else this.trouble.set('No tone was held for half a second: hold one, and stop when it has ended.');
    } catch (error) {
      this.trouble.set(error instanceof Error ? error.message : 'The tone could not be measured.');
    }
    await recordings.delete(id);
    await pieces.where('takeId').equals(id).delete();
    this.isReading.set(false);
  }
}

function toneText({ seconds, levelSpreadDb, pitchSpreadCents, driftCents, hertz }: LongTone): string {
  const drift = Math.round(driftCents);
  const way =
    Math.abs(drift) < 3 ? 'and stays' : `and ${drift < 0 ? 'sinks' : 'rises'} by ${Math.abs(drift)} cents`;
  return `${nearestPitchName(hertz)}, ${seconds.toFixed(1)} s: level ± ${levelSpreadDb.toFixed(1)} dB, pitch ± ${Math.round(pitchSpreadCents)} cents ${way}.`;
}
