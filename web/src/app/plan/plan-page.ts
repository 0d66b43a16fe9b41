import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Button, ButtonDirective } from 'primeng/button';
import { dateOfDay, wayOutText, type WayOut } from '@vivid-cue/core/plan';
import { dateIn } from '@vivid-cue/contract';
import { PlaceStore } from '../data/place-store';
import { readStored } from '../data/stored-json';
import { ProblemNote } from '../ui/problem-note';
import { StudioWords } from '../ui/studio-words';
import { percentText } from '../ui/texts';
import { shortDate } from './day-words';
import { PlanCalendar } from './plan-calendar';
import { PlanDay } from './plan-day';
import { PlanStore } from './plan-store';
import { PlanTasks } from './plan-tasks';
import { Staircase } from './staircase';

type Shape = 'stairs' | 'calendar' | 'table';
const SHAPE_KEY = 'vivid-cue-plan-shape';
const SHAPES: readonly (readonly [Shape, string])[] = [
  ['stairs', 'Staircases'],
  ['calendar', 'Calendar'],
  ['table', 'Table'],
];

/** The climb of one student over all auditions: what is planned back from the dates, and what came of it. */
@Component({
  selector: 'vc-plan-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    Button,
    ButtonDirective,
    PlanCalendar,
    PlanDay,
    PlanTasks,
    ProblemNote,
    RouterLink,
    Staircase,
    StudioWords,
  ],
  providers: [PlanStore],
  templateUrl: './plan-page.html',
  styleUrl: './plan-page.css',
})
export class PlanPage {
  protected readonly store = inject(PlanStore);
  readonly studentId = input.required<string>();

  protected readonly shapes = SHAPES;
  protected readonly shape = signal<Shape>(readStored<Shape>(SHAPE_KEY) ?? 'stairs');
  protected readonly tries = signal<string>('');
  protected readonly triedMinutes = signal<number | null>(null);
  protected readonly madeText = computed(() => {
    const view = this.store.view();
    if (!view || view.kept.madeAt === null) return '';
    const day = shortDate(dateIn(view.kept.madeAt, view.desk.studio.zone));
    return this.store.isFresh()
      ? `Planned on ${day}; the desk follows it.`
      : `The last plan is from ${day}. Since it is more than a week old, the desk plans each day by what happened; plan again to say it anew.`;
  });
  protected readonly ways = computed(() => {
    const [ways, planned] = [this.store.ways(), this.store.input()];
    if (!ways || !planned) return [];
    const dayText = (day: number): string => shortDate(dateOfDay(this.store.today() + day));
    return ways.map((way) => ({ way, text: wayOutText(way, planned, dayText) }));
  });
  protected readonly courses = computed(() => {
    const courses = new Map(this.store.plan()?.courses.map((course) => [course.passageId, course]));
    return this.store.rows().map(({ passage, partName }) => {
      const course = courses.get(passage.id);
      return {
        passage,
        partName,
        clean: passage.playedCleanBpm === null ? '–' : String(Math.round(passage.playedCleanBpm)),
        target: String(Math.round(passage.target.bpm)),
        minutes: course ? String(Math.round(course.minutes)) : '–',
        ready: readyText(course?.readyDay, this.store.today()),
        chance: course ? `${percentText(course.chance)} %` : '–',
      };
    });
  });

  constructor() {
    const place = inject(PlaceStore);
    effect(() => {
      place.studentId.set(this.studentId());
      void this.store.open(this.studentId());
    });
  }

  protected show(shape: Shape): void {
    this.shape.set(shape);
    localStorage.setItem(SHAPE_KEY, JSON.stringify(shape));
  }

  protected async tryMinutes(event: Event): Promise<void> {
    const minutes = Math.round(Number((event.target as HTMLInputElement).value));
    if (!(minutes >= 5 && minutes <= 300)) {
      this.tries.set('A day has 5 to 300 minutes.');
      return;
    }
    this.triedMinutes.set(minutes);
    this.tries.set('');
    this.tries.set(await this.store.tried(minutes));
  }

  protected linkOf({ kind }: WayOut): readonly string[] | null {
    return kind === 'minutes' || kind === 'tempo' ? ['/students', this.studentId()] : null;
  }
}

function readyText(readyDay: number | null | undefined, today: number): string {
  if (readyDay === undefined) return '–';
  if (readyDay === null) return 'not in time';
  return readyDay === 0 ? 'now' : shortDate(dateOfDay(today + readyDay));
}
