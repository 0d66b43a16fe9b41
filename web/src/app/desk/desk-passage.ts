import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { CLIMB_SCHOOLS, repsNeeded } from '@vivid-cue/core/climb';
import { measuresText, tempoText, toNumber, unitLength, type Bpm } from '@vivid-cue/core/music';
import type { DeskPart, DeskScore } from '@vivid-cue/contract';
import { CueLegend } from '../ui/cue-legend';
import { CueMark } from '../ui/cue-mark';
import { StudioWords } from '../ui/studio-words';
import { SessionStore } from '../data/session-store';
import { isTyping } from '../ui/typing';
import { ClickPlayer } from './click-player';
import { DeskClick } from './desk-click';
import type { DrillWish } from '../data/driller';
import { DrillList } from '../drill/drill-list';
import { DeskFiles } from './desk-files';
import { AccompanyBar } from '../ui/accompany-bar';
import { PassageMusic } from '../ui/passage-music';
import { DeskStore, type WorkedPassage } from './desk-store';
import { deskPartName } from '@vivid-cue/contract/desk-music';
import { PracticeTime } from './practice-time';

/** Keys of the desk; pedals send PageDown and PageUp. */
const KEYS: Readonly<
  Record<string, 'clean' | 'slip' | 'undo' | 'surprise' | 'click' | 'tap' | 'faster' | 'slower'>
> = {
  ' ': 'clean',
  PageDown: 'clean',
  x: 'slip',
  PageUp: 'slip',
  u: 'undo',
  Backspace: 'undo',
  s: 'surprise',
  k: 'click',
  t: 'tap',
  ArrowUp: 'faster',
  ArrowDown: 'slower',
};

/** One passage on the stand: its music, its tempo, the click, and two large buttons. */
@Component({
  selector: 'vc-desk-passage',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [AccompanyBar, CueLegend, CueMark, DeskClick, PassageMusic, DrillList, StudioWords],
  templateUrl: './desk-passage.html',
  styleUrl: './desk-passage.css',
  host: { '(document:keydown)': 'onKey($event)' },
})
export class DeskPassageView {
  private readonly store = inject(DeskStore);
  private readonly session = inject(SessionStore);
  private readonly player = inject(ClickPlayer);
  private readonly files = inject(DeskFiles);
  protected readonly time = inject(PracticeTime);
  private readonly click = viewChild(DeskClick);

  readonly passage = input.required<WorkedPassage>();
  readonly score = input.required<DeskScore>();
  readonly part = input<DeskPart | null>(null);
  readonly minutes = input(0);
  readonly next = output<void>();

  protected readonly rung = computed(() => this.passage().rungs[this.passage().heldRung]);
  private readonly rungKey = computed(() => `${this.passage().id} ${this.passage().heldRung}`);
  /** The tempo that is played: the rung's, until somebody says another. */
  protected readonly bpm = linkedSignal<string, Bpm>({
    source: this.rungKey,
    computation: () => Math.round(this.rung()?.bpm ?? this.passage().target.bpm),
  });
  protected readonly isFlagging = signal(false);
  protected readonly flagged = signal<number | null>(null);
  protected readonly areDrillsOpen = signal(false);
  /** What drills are made of, once somebody asks for them. */
  protected readonly music = signal<Omit<DrillWish, 'tempo' | 'seed'> | null>(null);
  protected readonly remark = signal('');
  /** What the last deed led to, for eyes and for screen readers. */
  protected readonly said = signal('');
  protected readonly last = signal<'clean' | 'slip' | null>(null);

  protected readonly measures = computed(() => {
    const { fromIndex, endIndex } = this.passage();
    return this.score().digest.measures.slice(fromIndex, endIndex);
  });
  protected readonly looks = computed(() => this.store.view()?.studio.looks ?? []);
  protected readonly cues = computed(() => {
    const { fromIndex, endIndex } = this.passage();
    return this.score().cues.filter((cue) => cue.fromIndex < endIndex && cue.endIndex > fromIndex);
  });
  protected readonly where = computed(() => {
    const { from, to } = this.passage();
    const part = this.part();
    return [part ? deskPartName(part) : '', measuresText(from, to, this.session.vocabulary())]
      .filter((text) => text !== '')
      .join(', ');
  });
  protected readonly targetText = computed(() => {
    const { bpm, beatUnit } = this.passage().target;
    return tempoText(Math.round(bpm), beatUnit);
  });
  protected readonly glyph = computed(() => tempoText(1, this.passage().target.beatUnit).split('=')[0] ?? '');
  protected readonly isOffRung = computed(() => this.bpm() !== Math.round(this.rung()?.bpm ?? 0));
  protected readonly school = computed(() => CLIMB_SCHOOLS[this.passage().climbSchool].first);
  protected readonly ruleText = computed(() => {
    const { rule, place, isHeld } = this.passage();
    if (isHeld) return 'Held here: your teacher looks at the surprise first';
    if (place.isDone) return 'The top rung is done: play it in a run';
    const needed = repsNeeded(rule);
    return rule === 'no-surprises'
      ? `${needed} without a slip, over two days`
      : `${needed} in a row moves you up`;
  });
  protected readonly ladder = computed(() => {
    const { rungs, heldRung } = this.passage();
    return rungs
      .map(({ bpm }, index) => ({
        bpm: Math.round(bpm),
        index,
        isHere: index === heldRung,
        isDone: index < heldRung,
      }))
      .reverse();
  });
  /** Slow rungs click the smaller value, so that the click stays near the written number. */
  protected readonly usualPattern = computed(() => {
    const rung = this.rung();
    if (!rung || this.isOffRung()) return 'beats';
    const parts =
      toNumber(unitLength(this.passage().target.beatUnit)) / toNumber(unitLength(rung.click.unit));
    return Math.abs(parts - 2) < 1e-6 ? 'halves' : Math.abs(parts - 3) < 1e-6 ? 'eighths' : 'beats';
  });
  /** Where the passage stands in its part, from 0 to 100. */
  protected readonly strip = computed(() => {
    const all = this.score().digest.measures;
    const total = all.reduce((sum, { quarters }) => sum + quarters, 0) || 1;
    const { fromIndex, endIndex } = this.passage();
    const before = all.slice(0, fromIndex).reduce((sum, { quarters }) => sum + quarters, 0);
    const own = all.slice(fromIndex, endIndex).reduce((sum, { quarters }) => sum + quarters, 0);
    return { left: (before / total) * 100, width: (own / total) * 100 };
  });

  constructor() {
    effect(() => {
      const [passage, score] = [this.passage(), this.score()];
      if (this.areDrillsOpen()) void this.openDrills(passage, score);
    });
    // While the click goes on, somebody practises.
    effect(() => {
      const now = this.player.now();
      if (now?.level === 2) this.time.touch(this.passage().id, Date.now());
    });
  }

  private async openDrills(
    { fromIndex, endIndex, id }: WorkedPassage,
    { id: scoreId, digest }: DeskScore,
  ): Promise<void> {
    const flagged = this.store.surprisesOf(id).map(({ measureIndex }) => measureIndex);
    const bytes = await this.files.score(scoreId).catch(() => null);
    if (bytes)
      this.music.set({
        bytes,
        partId: digest.partId,
        instrument: digest.instrument,
        numbers: digest.measures.map(({ number }) => number),
        span: { fromIndex, endIndex },
        flagged,
      });
  }

  protected log(isClean: boolean): void {
    const passage = this.passage();
    const before = passage.heldRung;
    this.time.touch(passage.id, Date.now());
    this.store.log(passage, {
      bpm: this.bpm(),
      isClean,
      context: passage.isSeam ? 'joined' : 'alone',
    });
    this.last.set(isClean ? 'clean' : 'slip');
    const now = this.store.passages().find(({ id }) => id === passage.id) ?? passage;
    this.said.set(this.saying(isClean, { before, now }));
  }

  /** A place of the start-anywhere test counts as a rep alone, at the tempo that it was played at. */
  protected tested({ isClean, bpm }: { readonly isClean: boolean; readonly bpm: Bpm }): void {
    const passage = this.passage();
    this.time.touch(passage.id, Date.now());
    this.store.log(passage, { bpm, isClean, context: 'alone' });
  }

  private saying(
    isClean: boolean,
    { before, now }: { readonly before: number; readonly now: WorkedPassage },
  ): string {
    const to = tempoText(Math.round(now.rungs[now.heldRung]?.bpm ?? 0), now.target.beatUnit);
    if (now.place.isDone) return 'The top rung is done.';
    if (now.heldRung > before) return `Up to ${to}.`;
    if (now.heldRung < before) return `One rung down, to ${to}: make it sure there.`;
    return isClean ? `Clean, ${now.place.streak} of ${now.place.needed}.` : 'A slip; the count begins anew.';
  }

  protected undo(): void {
    if (!this.store.canTakeBack(this.passage().id)) return;
    void this.store.takeBack(this.passage().id);
    this.last.set(null);
    this.said.set('Taken back.');
  }

  protected canUndo(): boolean {
    return this.store.canTakeBack(this.passage().id);
  }

  protected flag(event: Event): void {
    event.preventDefault();
    const measureIndex = this.flagged();
    if (measureIndex === null) return;
    this.store.flag(this.passage(), { measureIndex, bpm: this.bpm(), text: this.remark().trim() });
    this.isFlagging.set(false);
    this.flagged.set(null);
    this.remark.set('');
    this.said.set('Your teacher sees it. This rung is held until then.');
  }

  protected faster(step: number): void {
    this.bpm.update((bpm) => Math.max(10, Math.min(400, bpm + step)));
  }

  protected backToRung(): void {
    this.bpm.set(Math.round(this.rung()?.bpm ?? this.passage().target.bpm));
  }

  protected onKey(event: KeyboardEvent): void {
    const deed = KEYS[event.key];
    if (!deed || isTyping(event) || this.isFlagging()) return;
    // A button that has the focus keeps its own key.
    if (event.key === ' ' && event.target instanceof HTMLButtonElement) return;
    event.preventDefault();
    if (event.repeat && deed !== 'faster' && deed !== 'slower') return;
    if (deed === 'clean') this.log(true);
    else if (deed === 'slip') this.log(false);
    else if (deed === 'undo') this.undo();
    else if (deed === 'surprise') this.isFlagging.set(true);
    else if (deed === 'click') this.click()?.turn();
    else if (deed === 'tap') this.click()?.tap();
    else this.faster(deed === 'faster' ? 1 : -1);
  }

  protected textOf(event: Event): string {
    return (event.target as HTMLInputElement).value;
  }
}
