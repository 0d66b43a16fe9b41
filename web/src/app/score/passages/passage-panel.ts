import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  Injector,
  input,
  output,
  signal,
  linkedSignal,
  viewChild,
  type ElementRef,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { SelectButton } from 'primeng/selectbutton';
import {
  clickAt,
  measuresText,
  tempoText,
  unitGlyph,
  type Bpm,
  type Vocabulary,
} from '@vivid-cue/core/music';
import type { RepContext } from '@vivid-cue/core/readiness';
import type { PassageView } from '@vivid-cue/contract';
import { SessionStore } from '../../data/session-store';
import { RungGlyph } from '../../ui/rung-glyph';
import { percentText, secondsText } from '../../ui/texts';
import { isTyping } from '../../ui/typing';
import { LadderView } from './ladder-view';
import type { ShownRep, RepWish } from '../room/rep';
import type { WaitingRep } from '../../data/rep-outbox';

const CONTEXTS: readonly { readonly value: RepContext; readonly label: string }[] = [
  { value: 'alone', label: 'Alone' },
  { value: 'joined', label: 'Joined' },
  { value: 'run', label: 'Run' },
];

/** A passage: its ladder, what to play now, clean or slip, and what that says of readiness. */
@Component({
  selector: 'vc-passage-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, FormsModule, LadderView, RungGlyph, SelectButton],
  templateUrl: './passage-panel.html',
  styleUrl: './passage-panel.css',
  host: { '(document:keydown)': 'onKey($event)' },
})
export class PassagePanel {
  private readonly session = inject(SessionStore);
  private readonly injector = inject(Injector);
  private readonly title = viewChild.required<ElementRef<HTMLElement>>('title');

  readonly passage = input.required<PassageView>();
  readonly seconds = input.required<number>();
  readonly reps = input<readonly ShownRep[]>([]);
  readonly trouble = input<string | null>(null);
  readonly waiting = input(0);
  /** Reps that the server will not take. */
  readonly refused = input<readonly WaitingRep[]>([]);
  readonly mend = output<string>();
  readonly letGo = output<string>();
  readonly log = output<RepWish>();
  readonly takeBack = output<void>();
  readonly edit = output<void>();
  readonly remove = output<void>();
  readonly leave = output<void>();

  protected readonly contexts = [...CONTEXTS];
  protected readonly context = signal<RepContext>('alone');
  /** A rung the player chose to play next, until a rep is logged. */
  private readonly passageId = computed(() => this.passage().id);
  // Another passage begins afresh.
  private readonly chosenRung = linkedSignal<string, number | null>({
    source: this.passageId,
    computation: () => null,
  });
  /** A passage that opens shows its name, wherever the panel or the page was scrolled to. */
  private readonly shown = effect(() => {
    this.passageId();
    afterNextRender(() => showTitle(this.title().nativeElement), { injector: this.injector });
  });
  protected readonly lastOutcome = linkedSignal<string, 'clean' | 'slip' | null>({
    source: this.passageId,
    computation: () => null,
  });

  protected readonly here = computed(() =>
    Math.min(this.chosenRung() ?? this.passage().place.rungIndex, this.passage().rungs.length - 1),
  );
  protected readonly isChosen = computed(() => this.here() !== this.passage().place.rungIndex);
  protected readonly bpm = computed(() =>
    Math.round(this.passage().rungs[this.here()]?.bpm ?? this.passage().target.bpm),
  );
  protected readonly glyph = computed(() => unitGlyph(this.passage().target.beatUnit));
  protected readonly target = computed(() =>
    tempoText(this.passage().target.bpm, this.passage().target.beatUnit),
  );
  protected readonly click = computed(() => {
    const { beatUnit, bpm } = this.passage().target;
    const click = clickAt(this.bpm(), beatUnit, bpm);
    return `click ${unitGlyph(click.unit)} = ${Math.round(click.bpm)}`;
  });
  protected readonly pips = computed(() => {
    const { needed, streak } = this.passage().place;
    const filled = this.isChosen() ? 0 : streak;
    return Array.from({ length: needed }, (_, n) => ({ n, isFilled: n < filled }));
  });
  protected readonly streakText = computed(() => {
    const { needed, streak, isDone } = this.passage().place;
    if (isDone && !this.isChosen()) return 'ladder done';
    return `${this.isChosen() ? 0 : streak} of ${needed} in a row`;
  });
  protected readonly span = computed(() =>
    measuresText(this.passage().from, this.passage().to, this.vocabulary()),
  );
  protected readonly heading = computed(() => (this.passage().name === this.span() ? '' : this.span()));
  protected readonly lasts = computed(() => secondsText(this.seconds()));
  protected readonly evidence = computed(() => {
    const { interval, readiness } = this.passage();
    const { reps, practiceDays } = readiness;
    if (!interval) return 'No rep yet, so no number.';
    const { low, high } = interval;
    const days = `${practiceDays} ${practiceDays === 1 ? 'day' : 'days'}`;
    return `likely ${percentText(low)} to ${percentText(high)}; ${reps} ${reps === 1 ? 'rep' : 'reps'} on ${days}`;
  });
  protected readonly chance = computed(() => {
    const { chance } = this.passage().readiness;
    return chance === null ? null : percentText(chance);
  });
  protected readonly tempos = computed(() => {
    const { playedCleanBpm, reliableBpm, target } = this.passage();
    const text = (bpm: Bpm | null): string =>
      bpm === null ? '–' : tempoText(Math.floor(Math.min(bpm, target.bpm) + 1e-6), target.beatUnit);
    return { played: text(playedCleanBpm), reliable: text(reliableBpm) };
  });
  protected readonly announcement = computed(() => {
    const outcome = this.lastOutcome();
    if (outcome === null) return '';
    return `${outcome === 'clean' ? 'Clean' : 'Slip'} logged. Now ${this.bpm()}, ${this.streakText()}.`;
  });

  protected choose(rungIndex: number): void {
    this.chosenRung.set(rungIndex);
  }

  protected rep(isClean: boolean): void {
    this.log.emit({ bpm: this.bpm(), context: this.context(), isClean });
    this.chosenRung.set(null);
    this.lastOutcome.set(isClean ? 'clean' : 'slip');
  }

  protected onKey(event: KeyboardEvent): void {
    if (isTyping(event) || event.defaultPrevented || event.repeat) return;
    const actions: Readonly<Record<string, () => void>> = {
      c: () => this.rep(true),
      x: () => this.rep(false),
      u: () => this.takeBack.emit(),
    };
    const action = actions[event.key.toLowerCase()];
    if (!action) return;
    event.preventDefault();
    action();
  }

  private vocabulary(): Vocabulary {
    return this.session.vocabulary();
  }
}

/** So near the edge of the window a title is not read. Units: CSS pixels. */
const EDGE_PX = 60;

function showTitle(title: HTMLElement): void {
  title.closest('.panel')?.scrollTo({ top: 0 });
  const { top, bottom } = title.getBoundingClientRect();
  if (top < 0 || bottom > innerHeight - EDGE_PX) title.scrollIntoView({ block: 'center' });
}
