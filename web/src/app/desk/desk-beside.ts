import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { firstValueFrom } from 'rxjs';
import { v7 as newId } from 'uuid';
import {
  earTest,
  sightStudy,
  sungResult,
  tapResult,
  type EarResult,
  type EarTest,
} from '@vivid-cue/core/mock';
import type { UnitKind, UnitsView } from '@vivid-cue/contract';
import { Engraver } from '../data/engraver';
import { UnitApi } from '../data/unit-api';
import { engravedLines, measuresALine, showLines } from '../ui/engraved-lines';
import { NotePlayer } from '../ui/note-player';
import { SlipTaps, type TappedMeasure } from '../ui/slip-taps';
import { StudioWords } from '../ui/studio-words';
import { isTyping } from '../ui/typing';
import { UNIT_WORDS, UnitLines } from '../ui/unit-lines';
import { DeskStore } from './desk-store';
import { SungPitches } from './sung-pitches';

const KINDS: readonly UnitKind[] = ['sight', 'interval', 'cadence', 'meter', 'pulse', 'clap', 'echo'];
/** Study time before something is read at sight. Units: seconds (common practice, no source) */
const STUDY_SECONDS = 30;
const SEEDS = 2_000_000_000;

/** Practice beside the program: a study read at sight, and ear tests; each is kept with what was right. */
@Component({
  selector: 'vc-desk-beside',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [SlipTaps, StudioWords, UnitLines],
  providers: [SungPitches],
  templateUrl: './desk-beside.html',
  styleUrls: ['./desk-buttons.css', './desk-beside.css'],
  host: { '(document:keydown)': 'onKey($event)' },
})
export class DeskBeside {
  private readonly store = inject(DeskStore);
  private readonly api = inject(UnitApi);
  private readonly engraver = inject(Engraver);
  private readonly player = inject(NotePlayer);
  protected readonly sung = inject(SungPitches);
  private readonly stage = viewChild<ElementRef<HTMLElement>>('stage');

  protected readonly kinds = KINDS;
  protected readonly words = UNIT_WORDS;
  protected readonly levels = [1, 2, 3, 4, 5, 6, 7, 8];
  protected readonly kind = signal<UnitKind>('sight');
  protected readonly level = signal(2);
  private readonly seed = signal(0);
  protected readonly phase = signal<'ready' | 'study' | 'doing' | 'answer' | 'done'>('ready');
  protected readonly left = signal(0);
  protected readonly result = signal<EarResult | null>(null);
  protected readonly trouble = signal<string | null>(null);
  protected readonly slips = signal<ReadonlySet<number>>(new Set());
  protected readonly measures = signal<readonly TappedMeasure[]>([]);
  protected readonly record = signal<UnitsView | null>(null);
  private readonly taps = signal<readonly number[]>([]);
  private clock: ReturnType<typeof setInterval> | null = null;

  protected readonly test = computed((): EarTest | null => {
    const kind = this.kind();
    if (kind === 'sight') return null;
    const made = earTest(kind, { level: this.level(), seed: this.seed() });
    return made.ok ? made.value : null;
  });
  protected readonly tapped = computed(() => this.taps().length);

  constructor() {
    effect(() => {
      this.kind();
      this.level();
      this.fresh();
    });
    void this.load();
    inject(DestroyRef).onDestroy(() => this.halt());
  }

  private async load(): Promise<void> {
    this.record.set(await firstValueFrom(this.api.own()).catch(() => null));
  }

  private halt(): void {
    if (this.clock !== null) clearInterval(this.clock);
    this.clock = null;
    this.player.stop();
    this.sung.stop();
  }

  /** Another test of the kind. */
  protected fresh(): void {
    this.halt();
    this.seed.set(Math.floor(Math.random() * SEEDS));
    this.phase.set('ready');
    this.result.set(null);
    this.trouble.set(null);
    this.taps.set([]);
    this.slips.set(new Set());
    this.stage()?.nativeElement.replaceChildren();
  }

  protected chooseLevel(event: Event): void {
    this.level.set(Number((event.target as HTMLSelectElement).value));
  }

  protected begin(): void {
    if (this.kind() === 'sight') void this.study();
    else this.sound();
  }

  /** The study is shown with its study time; then it is played once. */
  private async study(): Promise<void> {
    const instrument = this.store.view()?.student.instrument ?? 'flute';
    const made = sightStudy({ level: this.level(), instrument, seed: this.seed() });
    if (!made.ok) {
      this.trouble.set(made.issues[0]?.message ?? 'No study could be written for this instrument.');
      return;
    }
    this.measures.set(
      Array.from({ length: made.value.measures }, (_, index) => ({
        index,
        number: String(index + 1),
        quarters: 4,
      })),
    );
    const stage = this.stage()?.nativeElement;
    const lines = await engravedLines(this.engraver, made.value, measuresALine(window.innerWidth)).catch(
      () => null,
    );
    if (!lines || !stage) {
      this.trouble.set('The study cannot be drawn just now; try another.');
      return;
    }
    this.phase.set('study');
    // The stage has its width once it is seen.
    setTimeout(() => showLines(stage, lines));
    this.left.set(STUDY_SECONDS);
    const end = performance.now() + STUDY_SECONDS * 1000;
    this.clock = setInterval(() => {
      this.left.set(Math.max(0, Math.ceil((end - performance.now()) / 1000)));
      if (this.left() === 0) this.play();
    }, 250);
  }

  /** Study time is over: it is played, and then told what slipped. */
  protected play(): void {
    if (this.clock !== null) clearInterval(this.clock);
    this.clock = null;
    this.phase.set('doing');
  }

  protected keepSight(): void {
    const of = this.measures().length;
    const right = of - this.slips().size;
    this.finish({
      right,
      of,
      text: right === of ? 'Read without a slip.' : `${right} of ${of} without a slip.`,
    });
  }

  /** The test sounds; what is tapped along is heard from here on, what is tapped or sung back afterwards. */
  protected sound(): void {
    const test = this.test();
    if (!test) return;
    this.phase.set('doing');
    this.taps.set([]);
    const length = this.player.sound(test.notes, test.quarterBpm);
    if (test.kind === 'pulse') return;
    this.clock = setInterval(
      () => {
        if (this.player.isOn()) return;
        if (this.clock !== null) clearInterval(this.clock);
        this.clock = null;
        this.phase.set('answer');
      },
      Math.min(200, length * 1000),
    );
  }

  protected tap(): void {
    this.taps.update((taps) => [...taps, performance.now() / 1000]);
  }

  protected keepTaps(): void {
    const test = this.test();
    if (!test?.onsets) return;
    const perQuarter = 60 / test.quarterBpm;
    this.finish(
      tapResult(
        test.onsets.map((at) => at * perQuarter),
        this.taps(),
      ),
    );
  }

  protected choose(choice: string): void {
    const answer = this.test()?.answer ?? '';
    const isRight = choice === answer;
    this.finish({ right: isRight ? 1 : 0, of: 1, text: isRight ? `Yes: ${answer}.` : `It was ${answer}.` });
  }

  /** Sung back after a count of four; heard as long as the melody lasts. */
  protected async sing(): Promise<void> {
    const test = this.test();
    if (!test?.melody) return;
    const last = test.melody.at(-1);
    const quarters = (last?.start ?? 0) + (last?.length ?? 0);
    const heard = await this.sung.hear({ quarters, quarterBpm: test.quarterBpm });
    if (heard === null) return;
    const { cents, ...result } = sungResult(test.melody, { sung: heard, quarterBpm: test.quarterBpm });
    const off = cents.map((one) => (one === null ? '–' : `${one > 0 ? '+' : ''}${one}`)).join(', ');
    this.finish({ ...result, text: `${result.text} In cents: ${off}.` });
  }

  private finish(result: EarResult): void {
    this.halt();
    this.result.set(result);
    this.phase.set('done');
    const { right, of } = result;
    const unit = { kind: this.kind(), level: this.level(), seed: this.seed(), right, of: Math.max(1, of) };
    const id = newId();
    void this.store.outbox
      .add({ kind: 'unit', id, unit: { id, at: new Date().toISOString(), ...unit } })
      .then(() => setTimeout(() => void this.load(), 800));
  }

  protected onKey(event: KeyboardEvent): void {
    if (event.key !== ' ' || isTyping(event) || event.repeat) return;
    const isTapping =
      (this.kind() === 'pulse' && this.phase() === 'doing') ||
      (this.kind() === 'clap' && this.phase() === 'answer');
    if (!isTapping) return;
    event.preventDefault();
    this.tap();
  }
}
