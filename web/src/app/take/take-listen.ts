import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  model,
  output,
} from '@angular/core';
import { inVocabulary, measureSign, quarterBpm } from '@vivid-cue/core/music';
import { tappedPulse, type ToldSlip, type ToldTake } from '@vivid-cue/core/takes';
import type { TakeBounds, TakeMarks } from '@vivid-cue/contract';
import type { MusicOfPart } from '../data/part-music';
import { SessionStore } from '../data/session-store';
import { PassageMusic } from '../ui/passage-music';
import { StudioWords } from '../ui/studio-words';
import { clockText } from '../ui/texts';
import { isTyping } from '../ui/typing';
import { TakeCurve, type RibbonWord } from './take-curve';
import { TakeFacts } from './take-facts';
import { bandOf, placedMeasures, type PlacedMeasure } from './take-map';
import { TakePlayer } from './take-player';

/** Measures of music that are shown at once while it is played. */
const LINE = 4;
/** A question is heard from so long before its place. Units: seconds */
const BEFORE = 1.5;
const PACES = [1, 0.75, 0.5];
const KIND_TEXT: Readonly<Record<ToldSlip['kind'], string>> = {
  wrong: 'another note?',
  missing: 'a note missing?',
  added: 'a note too many?',
};

/** A take to listen to: the curve and the ribbon move along, what slipped is tapped, what may have slipped is asked. */
@Component({
  selector: 'vc-take-listen',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [PassageMusic, StudioWords, TakeCurve, TakeFacts],
  templateUrl: './take-listen.html',
  styleUrl: './take-listen.css',
  host: { '(document:keydown)': 'onKey($event)' },
})
export class TakeListen {
  protected readonly player = inject(TakePlayer);
  private readonly session = inject(SessionStore);

  readonly url = input.required<string>();
  readonly seconds = input.required<number>();
  readonly told = input<ToldTake | null>(null);
  readonly music = input<MusicOfPart | null>(null);
  readonly bounds = input<TakeBounds | null>(null);
  readonly marks = model.required<TakeMarks>();
  /** How far its reading is, null while nothing is read. Shape: 0 to 1 */
  readonly progress = input<number | null>(null);
  /** Why it tells nothing. */
  readonly note = input<string | null>(null);
  readonly stopReading = output<void>();

  protected readonly paces = PACES;
  private readonly measures = computed(() => this.music()?.score?.digest.measures ?? []);
  protected readonly placed = computed((): readonly PlacedMeasure[] =>
    placedMeasures({
      told: this.told(),
      marks: this.marks(),
      measures: this.measures(),
      runs: this.music()?.runs ?? [],
    }),
  );
  protected readonly band = computed(() =>
    bandOf(this.bounds(), this.told()?.beatQuarters ?? this.beatQuarters()),
  );
  /** What a tapped measure's beats count, where nothing was read: the sheet's own. */
  private readonly beatQuarters = computed(() => {
    const unit = this.bounds()?.beatUnit;
    return unit ? quarterBpm(1, unit) : 1;
  });
  private readonly nowAt = computed(() => {
    const at = this.player.seconds();
    return this.placed().findLastIndex(({ start }) => start <= at);
  });
  private readonly now = computed(() => this.placed()[this.nowAt()] ?? null);
  protected readonly nowIndex = computed(() => this.now()?.index ?? null);
  protected readonly nowText = computed(() => {
    const now = this.now();
    return now === null ? '' : inVocabulary(`measure ${now.number}`, this.session.vocabulary());
  });
  /** The line of music around the place: some measures, turned as it goes on. */
  protected readonly line = computed(() => {
    const from = this.lineFrom();
    const count = this.measures().length;
    return from === null ? null : { fromIndex: from, endIndex: Math.min(count, from + LINE) };
  });
  private readonly lineFrom = computed(() => {
    const index =
      this.nowIndex() ?? this.music()?.runs[0]?.fromIndex ?? (this.measures().length > 0 ? 0 : null);
    if (index === null) return null;
    const begin =
      this.music()?.runs.find((run) => index >= run.fromIndex && index < run.endIndex)?.fromIndex ?? 0;
    return begin + Math.floor((index - begin) / LINE) * LINE;
  });
  private readonly tapped = computed(() => new Set(this.marks().taps.map(({ seconds }) => seconds)));
  /** Possible slips that nobody has said anything of yet. */
  protected readonly open = computed(() => {
    const { fine } = this.marks();
    return (this.told()?.slips ?? []).filter(
      ({ seconds }) => !fine.includes(seconds) && !this.tapped().has(seconds),
    );
  });
  protected readonly words = computed((): ReadonlyMap<number, RibbonWord> => {
    const words = new Map<number, RibbonWord>();
    const numbers = new Map(this.placed().map(({ number, index }) => [number, index]));
    for (const { number } of this.told()?.pauses ?? []) words.set(numbers.get(number) ?? -1, 'stop');
    for (const { index } of this.open()) words.set(index, 'slip?');
    for (const { index } of this.marks().taps) if (index !== null) words.set(index, 'slip');
    return words;
  });
  protected readonly slipped = computed(() => {
    const numbers = [
      ...new Set(
        this.marks()
          .taps.map(({ number }) => number)
          .filter((one) => one !== ''),
      ),
    ];
    return numbers.length === 0
      ? ''
      : `${measureSign(numbers.length, this.session.vocabulary())} ${numbers.join(', ')}`;
  });
  protected readonly pulse = computed(() =>
    this.told() ? null : tappedPulse(this.marks().downbeats, this.marks().beats),
  );
  protected readonly clock = computed(
    () => `${clockText(Math.floor(this.player.seconds()))} of ${clockText(Math.round(this.seconds()))}`,
  );

  constructor() {
    effect(() => this.player.open(this.url()));
  }

  protected kindText({ kind }: ToldSlip): string {
    return KIND_TEXT[kind];
  }

  protected percent(share: number): number {
    return Math.round(share * 100);
  }

  protected go(seconds: number): void {
    this.player.seek(seconds);
  }

  protected hear({ seconds }: ToldSlip): void {
    void this.player.play(Math.max(0, seconds - BEFORE));
  }

  /** The measure that sounds slipped; where nobody knows the measure, the moment did. */
  protected tap(): void {
    const [now, seconds] = [this.now(), Math.round(this.player.seconds() * 100) / 100];
    this.marks.update((marks) => ({
      ...marks,
      taps: [...marks.taps, { index: now?.index ?? null, number: now?.number ?? '', seconds }],
    }));
  }

  protected confirm({ index, number, seconds }: ToldSlip): void {
    this.marks.update((marks) => ({ ...marks, taps: [...marks.taps, { index, number, seconds }] }));
  }

  protected isFine({ seconds }: ToldSlip): void {
    this.marks.update((marks) => ({ ...marks, fine: [...marks.fine, seconds] }));
  }

  /** Takes back what was said last. */
  protected untap(): void {
    this.marks.update((marks) => ({ ...marks, taps: marks.taps.slice(0, -1) }));
  }

  protected downbeat(): void {
    const seconds = Math.round(this.player.seconds() * 1000) / 1000;
    this.marks.update((marks) => ({
      ...marks,
      downbeats: [...marks.downbeats.filter((one) => Math.abs(one - seconds) > 0.15), seconds].sort(
        (a, b) => a - b,
      ),
    }));
  }

  protected noDownbeats(): void {
    this.marks.update((marks) => ({ ...marks, downbeats: [] }));
  }

  protected setBeats(event: Event): void {
    const beats = Math.round(Number((event.target as HTMLInputElement).value));
    if (beats >= 1 && beats <= 24) this.marks.update((marks) => ({ ...marks, beats }));
  }

  protected onKey(event: KeyboardEvent): void {
    if (isTyping(event) || event.ctrlKey || event.metaKey || event.altKey) return;
    const key = event.key.toLowerCase();
    const [question] = this.open();
    if (key === ' ' && !(event.target instanceof HTMLButtonElement)) this.player.turn();
    else if (key === 'x') this.tap();
    else if (key === 'd' && !this.told()) this.downbeat();
    else if (key === 'y' && question) this.isFine(question);
    else if (key === 's' && question) this.confirm(question);
    else if (key === 'h' && question) this.hear(question);
    else if (key === 'arrowleft' || key === 'arrowright') this.step(key === 'arrowright' ? 1 : -1);
    else return;
    event.preventDefault();
  }

  private step(way: number): void {
    const next = this.placed()[this.nowAt() + way];
    this.player.seek(next ? next.start : this.player.seconds() + way * 5);
  }
}
