import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { CARE } from '@vivid-cue/core/care';
import { tempoText } from '@vivid-cue/core/music';
import { dayOfDate } from '@vivid-cue/core/plan';
import { STATE_WORDS } from '@vivid-cue/core/readiness';
import { RungGlyph } from '../ui/rung-glyph';
import { minutesOf, RUN_WORDS, type DayItem } from './day-items';
import { DeskStore, type WorkedPassage } from './desk-store';
import type { TaskView } from '@vivid-cue/contract';
import { deskPartName } from '@vivid-cue/contract/desk-music';
import { dayNumber } from '@vivid-cue/contract/zones';
import { PracticeTime } from './practice-time';

/** Tasks of so many days ahead are shown. */
const TASK_DAYS = 7;

/** A line of today's list. */
interface Line {
  readonly item: DayItem;
  readonly title: string;
  readonly detail: string;
  readonly isDone: boolean;
}

/** Today's list, what of the week is ready and what is next, and a line to the instructor. */
@Component({
  selector: 'vc-desk-today',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RungGlyph],
  templateUrl: './desk-today.html',
  styleUrl: './desk-today.css',
})
export class DeskToday {
  protected readonly store = inject(DeskStore);
  private readonly time = inject(PracticeTime);

  readonly open = output<DayItem>();
  readonly openPassage = output<string>();

  protected readonly care = CARE;
  protected readonly note = signal('');
  protected readonly isSent = signal(false);
  protected readonly view = this.store.view;
  protected readonly list = this.store.list;
  protected readonly minutes = computed(() => {
    const list = this.list();
    return list ? minutesOf(list) : 0;
  });
  protected readonly spent = computed(() => Math.round(this.time.total()));
  protected readonly lines = computed((): readonly Line[] => {
    const passages = new Map(this.store.passages().map((passage) => [passage.id, passage]));
    return (this.list()?.items ?? []).map((item) => this.lineOf(item, passages));
  });
  protected readonly things = computed(() => this.lines().filter(({ item }) => item.kind !== 'break').length);
  protected readonly isAllDone = computed(
    () =>
      this.lines().length > 0 && this.lines().every(({ isDone, item }) => isDone || item.kind === 'break'),
  );
  protected readonly days = computed(() => {
    const dates = (this.view()?.parts ?? []).flatMap(({ nextDate, sheetTitle }) =>
      nextDate ? [{ days: nextDate.daysLeft, what: nextDate.what, sheetTitle }] : [],
    );
    return dates.sort((a, b) => a.days - b.days)[0] ?? null;
  });
  protected readonly ready = computed(() =>
    this.store.passages().filter(({ readiness, isSeam }) => !isSeam && isReady(readiness.state)),
  );
  protected readonly next = computed(() =>
    [...this.store.passages()]
      .filter(({ readiness, isSeam }) => !isSeam && !isReady(readiness.state))
      .sort((a, b) => rank(b) - rank(a)),
  );

  /** What else is due this week, or was ticked today. */
  protected readonly tasks = computed(() => {
    const view = this.view();
    if (!view) return [];
    const today = dayNumber(Date.now(), view.studio.zone);
    return view.plan.tasks.filter(({ date, doneOn }) =>
      doneOn === null ? dayOfDate(date) - today < TASK_DAYS : dayOfDate(doneOn) === today,
    );
  });

  protected whenText({ date }: TaskView): string {
    const days = dayOfDate(date) - dayNumber(Date.now(), this.view()?.studio.zone ?? 'UTC');
    return days <= 0 ? 'today' : days === 1 ? 'tomorrow' : `in ${days} days`;
  }

  protected tickTask(task: TaskView, event: Event): void {
    this.store.tickTask(task, (event.target as HTMLInputElement).checked);
  }

  private lineOf(item: DayItem, passages: ReadonlyMap<string, WorkedPassage>): Line {
    if (item.kind === 'break')
      return {
        item,
        title: `${item.minutes} minutes off`,
        detail: 'Put the instrument down; walk, drink something.',
        isDone: this.time.isTicked(item.key),
      };
    if (item.kind === 'run') {
      const names = item.partIds.flatMap((id) => {
        const part = this.view()?.parts.find((one) => one.id === id);
        return part ? [deskPartName(part)] : [];
      });
      return {
        item,
        title: RUN_WORDS[item.what],
        detail: names.join(', '),
        isDone: this.time.isTicked(item.key),
      };
    }
    const passage = passages.get(item.passageId);
    const rung = passage?.rungs[passage.heldRung];
    return {
      item,
      title: passage?.name ?? 'A passage',
      detail: passage
        ? `${this.workOf(passage)}, ${passage.from}–${passage.to} · ${tempoText(Math.round(rung?.bpm ?? 0), passage.target.beatUnit)}`
        : '',
      isDone: this.time.isTicked(item.key) || this.time.minutes(item.key) >= item.minutes,
    };
  }

  protected nameOf(passageId: string | null): string {
    return this.store.passages().find(({ id }) => id === passageId)?.name ?? '';
  }

  protected workOf(passage: WorkedPassage): string {
    const part = this.view()?.parts.find(({ scoreId }) => scoreId === passage.scoreId);
    return part ? deskPartName(part) : '';
  }

  /** How far a passage is, in words somebody of fourteen uses. */
  protected plainState(passage: WorkedPassage): string {
    const { readiness, playedCleanBpm, target } = passage;
    if (readiness.reps === 0) return 'not opened yet';
    if (playedCleanBpm === null) return 'just begun';
    return `clean at ${tempoText(Math.round(playedCleanBpm), target.beatUnit)} of ${Math.round(target.bpm)}`;
  }

  protected stateWord({ readiness }: WorkedPassage): string {
    return STATE_WORDS[readiness.state];
  }

  protected tick(item: DayItem, event: Event): void {
    this.time.tick(item.key, (event.target as HTMLInputElement).checked);
  }

  protected send(event: Event): void {
    event.preventDefault();
    const text = this.note().trim();
    if (text === '') return;
    this.store.write(text, null);
    this.note.set('');
    this.isSent.set(true);
  }

  protected textOf(event: Event): string {
    return (event.target as HTMLInputElement).value;
  }
}

function isReady(state: string): boolean {
  return state === 'at-tempo' || state === 'holding';
}

/** What is further along comes first. */
function rank({ readiness, playedCleanBpm, target }: WorkedPassage): number {
  return readiness.reps === 0 ? -1 : (playedCleanBpm ?? 0) / target.bpm;
}
