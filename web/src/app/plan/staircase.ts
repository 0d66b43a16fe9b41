import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { measuresText, tempoText } from '@vivid-cue/core/music';
import { dateOfDay, dayOfDate, type KeptDay } from '@vivid-cue/core/plan';
import { SessionStore } from '../data/session-store';
import { mondayOf, RUN_NAMES, shortDate } from './day-words';
import { PlanStore, type PlanRow } from './plan-store';

/** So many days behind today are shown. */
const DAYS_BACK = 21;
/** Flags take so much of the width; those that would touch stand below each other. */
const POST_ROOM = 0.25;
const MOCK_ROOM = 0.13;

/** One step of a staircase. Units: `x` in days from the left, `height` in hundredths of the target */
interface Stair {
  readonly x: number;
  readonly height: number;
  readonly kind: 'played' | 'planned' | 'missed';
  readonly shade: string;
}

/** A passage with its staircase. */
interface Stairs extends PlanRow {
  readonly where: string;
  readonly stairs: readonly Stair[];
  /** Where it stands between its days, as the points of a line. */
  readonly line: string;
  readonly told: string;
}

/** Something that stands on a day. Units: `left` in hundredths of the width */
interface Post {
  readonly left: number;
  readonly text: string;
  readonly date: string;
  readonly isDeadline: boolean;
  readonly row: number;
  readonly isRightward: boolean;
}

const RAMP = [
  '--state-mapped',
  '--state-grounded',
  '--state-climbing',
  '--state-at-tempo',
  '--state-holding',
];

/** Each passage a staircase over the days: filled where played, outlined where planned; the dates as posts. */
@Component({
  selector: 'vc-staircase',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './staircase.html',
  styleUrl: './staircase.css',
})
export class Staircase {
  protected readonly store = inject(PlanStore);
  private readonly session = inject(SessionStore);

  private readonly first = computed(() => {
    const view = this.store.view();
    const today = this.store.today();
    const days = [...(view?.played ?? []), ...(view?.kept.days ?? [])].map(({ date }) => dayOfDate(date));
    return Math.max(today - DAYS_BACK, Math.min(today - 2, ...days));
  });
  protected readonly count = computed(() => {
    const ends = [...this.store.days(), ...this.store.dates()].map(({ date }) => dayOfDate(date));
    return Math.max(14, Math.max(this.store.today(), ...ends) + 2 - this.first());
  });
  protected readonly todayLeft = computed(() => this.leftOf(this.store.today()));
  protected readonly chosenLeft = computed(() => this.leftOf(dayOfDate(this.store.day())));
  protected readonly dayWidth = computed(() => 100 / this.count());

  protected readonly weeks = computed(() => {
    const first = this.first();
    const all: { readonly left: number; readonly text: string }[] = [];
    for (let day = mondayOf(first + 6); day < first + this.count(); day += 7)
      all.push({ left: this.leftOf(day), text: shortDate(dateOfDay(day)) });
    return all;
  });
  /** Days without practice. */
  protected readonly rests = computed(() =>
    this.store
      .days()
      .filter(({ isRest, date }) => isRest && dayOfDate(date) >= this.first())
      .map(({ date }) => this.leftOf(dayOfDate(date))),
  );
  /** Days on which something is run as a whole or recorded at a comfortable tempo. */
  protected readonly runs = computed(() =>
    this.store.days().flatMap(({ date, runs }) => {
      const [run] = runs.filter(({ kind }) => kind !== 'assembly' && kind !== 'mock');
      const day = dayOfDate(date);
      return run && day >= this.first()
        ? [{ left: this.leftOf(day), text: RUN_NAMES[run.kind] ?? run.kind }]
        : [];
    }),
  );
  /** The lighter days before one is played. */
  protected readonly lights = computed(() => {
    const light = new Set(this.store.plan()?.days.flatMap(({ day, isLight }) => (isLight ? [day] : [])));
    return [...light].map((day) => this.leftOf(this.store.today() + day));
  });
  protected readonly posts = computed((): readonly Post[] => {
    const last = this.first() + this.count();
    const all = [
      ...this.store.days().flatMap(({ date, runs }) => {
        const run = runs.find(({ kind }) => kind === 'assembly' || kind === 'mock');
        return run ? [{ date, text: run.kind === 'mock' ? 'mock' : 'all together', isDeadline: false }] : [];
      }),
      ...this.store.dates().map(({ date, what, sheetTitle }) => ({
        date,
        text: `${what}, ${sheetTitle}`,
        isDeadline: true,
      })),
    ]
      .filter(({ date }) => dayOfDate(date) >= this.store.today() && dayOfDate(date) < last)
      .sort((a, b) => a.date.localeCompare(b.date));
    const taken: (readonly [row: number, from: number, to: number])[] = [];
    return all.map((post) => {
      const left = this.leftOf(dayOfDate(post.date));
      const isRightward = left > 75;
      const width = (post.isDeadline ? POST_ROOM : MOCK_ROOM) * 100;
      const [from, to] = isRightward ? [left - width, left] : [left, left + width];
      const isFree = (row: number): boolean =>
        taken.every(([other, begin, end]) => other !== row || to <= begin || from >= end);
      const row = [0, 1, 2, 3, 4].find(isFree) ?? 4;
      taken.push([row, from, to]);
      return { ...post, left, row, isRightward };
    });
  });
  protected readonly postRows = computed(() => Math.max(1, ...this.posts().map(({ row }) => row + 1)));
  protected readonly stairs = computed((): readonly Stairs[] => {
    const view = this.store.view();
    if (!view) return [];
    const byDate = new Map(this.store.days().map((day) => [day.date, day]));
    return this.store.rows().map((row) => this.stairsOf(row, byDate));
  });

  private stairsOf(row: PlanRow, byDate: ReadonlyMap<string, KeptDay>): Stairs {
    const { passage } = row;
    const target = passage.target.bpm;
    const played = new Map(
      (this.store.view()?.played ?? [])
        .filter(({ passageId }) => passageId === passage.id)
        .map((day) => [day.date, day]),
    );
    const stairs: Stair[] = [];
    const points: string[] = [];
    let level = 0;
    for (let x = 0; x < this.count(); x += 1) {
      const date = dateOfDay(this.first() + x);
      const isPast = this.first() + x < this.store.today();
      const own = played.get(date);
      const block = byDate.get(date)?.blocks.find(({ passageId }) => passageId === passage.id);
      if (own) level = Math.max(level, heightOf((own.cleanBpm ?? own.bpm * 0.9) / target));
      else if (block && !isPast) level = Math.max(level, heightOf(block.bpm / target));
      if (own) stairs.push({ x, height: level, kind: 'played', shade: shadeOf(level) });
      else if (block) {
        const height = heightOf(block.bpm / target);
        stairs.push({ x, height, kind: isPast ? 'missed' : 'planned', shade: 'none' });
      }
      points.push(`${x},${100 - level} ${x + 1},${100 - level}`);
    }
    const course = this.store.plan()?.courses.find(({ passageId }) => passageId === passage.id);
    const measures = measuresText(passage.from, passage.to, this.session.vocabulary());
    const where = measures === passage.name ? '' : `${measures} · `;
    return {
      ...row,
      where: `${where}${tempoText(Math.round(target), passage.target.beatUnit)}`,
      stairs,
      line: points.join(' '),
      told: this.toldOf(row, course?.readyDay ?? null),
    };
  }

  private toldOf({ passage }: PlanRow, readyDay: number | null): string {
    const clean =
      passage.playedCleanBpm === null
        ? 'not played clean yet'
        : `clean at ${tempoText(Math.round(passage.playedCleanBpm), passage.target.beatUnit)}`;
    const ready =
      readyDay === null
        ? 'not at tempo in time'
        : readyDay === 0
          ? 'at tempo'
          : `at tempo on ${shortDate(dateOfDay(this.store.today() + readyDay))}`;
    return `${clean}; ${ready}`;
  }

  private leftOf(day: number): number {
    return ((day - this.first()) / this.count()) * 100;
  }

  /** A press chooses the day under it. */
  protected choose(event: MouseEvent): void {
    const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
    const x = Math.floor(((event.clientX - box.left) / box.width) * this.count());
    this.store.chosen.set(dateOfDay(this.first() + x));
  }
}

function heightOf(share: number): number {
  return Math.round(Math.max(6, Math.min(1.05, share) * 92));
}

function shadeOf(height: number): string {
  const step = Math.min(
    RAMP.length - 1,
    Math.max(0, Math.floor(((height / 92 - 0.45) / 0.55) * (RAMP.length - 1) + 0.2)),
  );
  return `var(${RAMP[step]})`;
}
