import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { v7 as newId } from 'uuid';
import type { TakePart } from '@vivid-cue/contract';
import { Microphone } from '../data/microphone';
import { StudioWords } from '../ui/studio-words';
import { clockText } from '../ui/texts';
import { countIn } from './count-in';
import { TakeDesk } from './take-desk';

/** What may be recorded: one part, or all parts of a program one after the other. */
interface Choice {
  readonly key: string;
  readonly label: string;
  readonly parts: readonly TakePart[];
}

/** What the level means, and what to do. */
const LEVEL_TEXT = {
  silent: 'play a loud note',
  'too soft': 'come closer, or turn the microphone up',
  good: 'play your loudest place once to be sure',
  'too loud': 'step back, or turn the microphone down',
} as const;

/** Records a take: what is played, how it is counted in, the level in a word, record and stop. Or a file is brought. */
@Component({
  selector: 'vc-record-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [StudioWords],
  providers: [Microphone],
  templateUrl: './record-panel.html',
  styleUrl: './record-panel.css',
})
export class RecordPanel {
  protected readonly desk = inject(TakeDesk);
  protected readonly microphone = inject(Microphone);

  /** The part that is chosen when the panel opens. */
  readonly partId = input<string | null>(null);
  readonly closed = output<void>();

  protected readonly choices = computed((): readonly Choice[] => {
    const parts = this.desk.view()?.parts ?? [];
    const programs = [...new Set(parts.map(({ programId }) => programId))].map((id) =>
      parts.filter((part) => part.programId === id),
    );
    return [
      ...parts.map((part) => ({ key: part.id, label: part.workTitle, parts: [part] })),
      ...programs
        .filter((own) => own.length > 1)
        .map((own) => ({
          key: own[0]?.programId ?? '',
          label: `The whole program: ${own[0]?.sheetTitle ?? ''}`,
          parts: own,
        })),
    ];
  });
  protected readonly chosenKey = linkedSignal(() => this.partId() ?? this.choices()[0]?.key ?? '');
  private readonly chosen = computed(
    () => this.choices().find(({ key }) => key === this.chosenKey()) ?? this.choices()[0] ?? null,
  );
  /** Which part of what was chosen is played. */
  protected readonly at = signal(0);
  protected readonly part = computed(() => this.chosen()?.parts[this.at()] ?? null);
  protected readonly partCount = computed(() => this.chosen()?.parts.length ?? 0);
  protected readonly countMeasures = signal(1);
  protected readonly bpm = linkedSignal(() => Math.round(this.part()?.target?.bpm ?? 0));
  protected readonly isCounting = signal(false);
  protected readonly isBringing = signal(false);
  protected readonly trouble = signal<string | null>(null);
  private sittingId: string | null = null;

  protected readonly levelText = computed(() => LEVEL_TEXT[this.microphone.word()]);
  protected readonly percent = computed(() => Math.round(Math.min(1, this.microphone.level()) * 100));
  protected readonly clock = computed(() => clockText(Math.floor(this.microphone.seconds())));

  protected choose(event: Event): void {
    this.chosenKey.set((event.target as HTMLSelectElement).value);
    this.at.set(0);
  }

  protected count(event: Event): void {
    this.countMeasures.set(Number((event.target as HTMLSelectElement).value));
  }

  protected setBpm(event: Event): void {
    const bpm = Number((event.target as HTMLInputElement).value);
    if (bpm >= 10 && bpm <= 400) this.bpm.set(bpm);
  }

  protected open(): void {
    void this.microphone.open();
  }

  /** Counts in, where that is wanted, and records: the count is in the take and does not disturb. */
  protected async record(): Promise<void> {
    const part = this.part();
    if (!part || !(await this.microphone.open())) return;
    this.sittingId = this.partCount() > 1 ? (this.sittingId ?? newId()) : null;
    const isCounted = this.countMeasures() > 0 && part.target !== null;
    const begun = this.desk.begun(part, this.sittingId, isCounted);
    const asked = isCounted && part.target ? { ...part.target, bpm: this.bpm() } : null;
    this.desk.runningId.set(begun.id);
    this.microphone.record({ ...begun, asked }, (ended) => this.desk.ended(ended));
    if (!asked) return;
    this.isCounting.set(true);
    await countIn({ measures: this.countMeasures(), ...asked, measureQuarters: part.measureQuarters });
    this.isCounting.set(false);
  }

  protected stop(): void {
    this.microphone.stop();
    if (this.at() + 1 < this.partCount()) this.at.update((at) => at + 1);
    else this.sittingId = null;
  }

  protected async bring(event: Event): Promise<void> {
    const field = event.target as HTMLInputElement;
    const [file, part] = [field.files?.[0], this.part()];
    if (!file || !part) return;
    this.isBringing.set(true);
    this.trouble.set(null);
    try {
      await this.desk.bring(file, part);
    } catch (error) {
      this.trouble.set(error instanceof Error ? error.message : 'This file could not be opened.');
    }
    field.value = '';
    this.isBringing.set(false);
  }

  protected close(): void {
    this.microphone.close();
    this.closed.emit();
  }
}
