import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  input,
  linkedSignal,
  signal,
  viewChild,
} from '@angular/core';
import { tempoText } from '@vivid-cue/core/music';
import { dateOfDay, dayOfDate } from '@vivid-cue/core/plan';
import { cleanShare, type FanDay } from '@vivid-cue/core/readiness';
import { dateIn, type DeskPassage, type PlanView } from '@vivid-cue/contract';
import { deskPartName, isInPart } from '@vivid-cue/contract/desk-music';
import { deskRate, planInputOf } from '@vivid-cue/contract/plan-input';
import { Planner } from '../data/planner';
import { shortDay } from '../ui/texts';
import { fanPoints, historyDays, type FanPoint } from './history-series';

/** How each passage came to where it is, and where it is likely to go: a picture, and all its numbers as a table. */
@Component({
  selector: 'vc-history-card',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './history-card.html',
  styleUrl: './history-card.css',
})
export class HistoryCard {
  private readonly planner = inject(Planner);
  private readonly canvas = viewChild<ElementRef<HTMLCanvasElement>>('canvas');

  readonly plan = input.required<PlanView>();

  protected readonly passages = computed(() =>
    this.plan().desk.parts.flatMap((part) =>
      this.plan()
        .desk.passages.filter((passage) => isInPart(passage, part))
        .map((passage) => ({ passage, label: `${passage.name}, ${deskPartName(part)}` })),
    ),
  );
  /** Of what was played, the least ready stands before the eyes first. */
  protected readonly passageId = linkedSignal<PlanView, string>({
    source: this.plan,
    computation: ({ desk }, before) => {
      if (before && desk.passages.some(({ id }) => id === before.value)) return before.value;
      const played = [...desk.passages].sort((a, b) => (a.readiness.chance ?? 2) - (b.readiness.chance ?? 2));
      return played[0]?.id ?? '';
    },
  });
  protected readonly passage = computed(
    (): DeskPassage | null => this.plan().desk.passages.find(({ id }) => id === this.passageId()) ?? null,
  );
  private readonly today = computed(() => dateIn(this.plan().desk.at, this.plan().desk.studio.zone));
  protected readonly days = computed(() =>
    historyDays(this.passageId(), { kept: this.plan().kept.days, played: this.plan().played }),
  );
  private readonly fan = signal<readonly FanDay[]>([]);
  protected readonly ahead = computed(() =>
    fanPoints(this.fan(), this.today(), this.passage()?.target.bpm ?? 0),
  );
  /** The fan week by week, for the table. */
  protected readonly weeks = computed(() => {
    const points = this.ahead();
    return points.filter((_, n) => n % 7 === 0 || n === points.length - 1);
  });
  protected readonly told = computed(() => {
    const passage = this.passage();
    if (!passage) return '';
    const end = this.ahead().at(-1);
    const likely = end ? ` ${this.toldOf(end)}` : '';
    return `${passage.sentence}${this.countedText()}${likely}`;
  });

  constructor() {
    effect(() => {
      const [plan, passageId] = [this.plan(), this.passageId()];
      this.fan.set([]);
      void this.planner
        .fan(planInputOf(plan.desk, Date.parse(plan.desk.at)), passageId, deskRate(plan.desk))
        .then((fan) => {
          if (this.passageId() === passageId) this.fan.set(fan);
        })
        .catch(() => undefined);
    });
    effect((onCleanup) => {
      const canvas = this.canvas()?.nativeElement;
      const history = {
        days: this.days(),
        fan: this.ahead(),
        today: this.today(),
        targetBpm: this.passage()?.target.bpm ?? 0,
      };
      if (!canvas) return;
      let isOver = false;
      let away = (): void => undefined;
      onCleanup(() => {
        isOver = true;
        away();
      });
      void import('./history-chart').then(({ drawHistory }) => {
        if (!isOver) away = drawHistory(canvas, history);
      });
    });
  }

  /** What was counted in the last seven days, with what so few reps say. */
  private countedText(): string {
    const since = dateOfDay(dayOfDate(this.today()) - 6);
    const recent = this.days().filter(({ date }) => date >= since);
    const [reps, clean] = [
      recent.reduce((sum, day) => sum + day.reps, 0),
      recent.reduce((sum, day) => sum + day.clean, 0),
    ];
    const range = cleanShare(clean, reps);
    if (!range) return '';
    const [low, high] = [range.low, range.high].map((share) => Math.round(share * 100));
    return ` In the last seven days ${clean} of ${reps} reps were clean, so about ${low} to ${high} in a hundred such reps.`;
  }

  private toldOf({ date, low, middle, high }: FanPoint): string {
    const target = this.passage()?.target.bpm ?? 0;
    if (low >= target - 0.5) return `On ${shortDay(date)} it is likely reliable at its target.`;
    const range = `between ${Math.round(low)} and ${Math.round(high)}`;
    return `On ${shortDay(date)} it is likely reliable at about ${this.tempo(middle)}, ${range}.`;
  }

  protected tempo(bpm: number): string {
    return tempoText(Math.round(bpm), this.passage()?.target.beatUnit ?? 'quarter');
  }

  protected round(value: number | null): string {
    return value === null ? '–' : String(Math.round(value));
  }

  protected day(date: string): string {
    return shortDay(date);
  }

  protected choose(event: Event): void {
    this.passageId.set((event.target as HTMLSelectElement).value);
  }
}
