import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import { HttpErrorResponse } from '@angular/common/http';
import { firstValueFrom, type Subscription } from 'rxjs';
import { v7 as newId } from 'uuid';
import { convertBpm, measuresText, quarterBpm, type Bpm } from '@vivid-cue/core/music';
import { takenTempo, type ToldTake } from '@vivid-cue/core/takes';
import type { PassageView, TakeView, TakeRun } from '@vivid-cue/contract';
import { runReps, type RunPassage } from '@vivid-cue/contract/desk-music';
import { NO_MARKS, type TakeMarks } from '@vivid-cue/contract/take-marks';
import { indexesOf, inRuns } from '@vivid-cue/core/spans';
import { MusicFiles } from '../data/music-files';
import { PartMusic, type MusicOfPart } from '../data/part-music';
import { troubleOf } from '../data/problem';
import { SessionStore } from '../data/session-store';
import { momentText } from '../ui/texts';
import { TakeDesk } from './take-desk';
import { TakeListen } from './take-listen';
import { TakePlayer } from './take-player';
import { TakeStudy } from './take-study';

/** What was marked is sent so long after the last mark. Units: milliseconds */
const PAUSE_MS = 700;

/** One take that is kept: heard, marked, and made a run of. */
@Component({
  selector: 'vc-take-view',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [TakeListen],
  providers: [TakePlayer],
  templateUrl: './take-view.html',
  styles: `
    .head {
      display: flex;
      flex-wrap: wrap;
      gap: 12px;
      align-items: end;
      justify-content: space-between;
      margin-bottom: 14px;
    }
    .deeds {
      display: flex;
      flex-wrap: wrap;
      gap: 10px;
      align-items: center;
    }
    button,
    select {
      min-height: 40px;
      padding: 0 14px;
      border: 1px solid var(--rule-strong);
      border-radius: 4px;
      background: var(--sheet);
      color: var(--ink);
      font: 600 16px var(--font-text);
      cursor: pointer;
    }
    select {
      font-weight: 400;
    }
    .run {
      margin-top: 12px;
      padding: 12px;
      border-top: 1px solid var(--rule);
    }
    .run button {
      margin-top: 8px;
      border-color: var(--primary);
      background: var(--primary);
      color: var(--on-primary);
    }
    .trouble {
      margin-bottom: 12px;
      padding: 10px 14px;
      border-left: 4px solid var(--stop);
      background: var(--stop-wash);
    }
  `,
})
export class TakeOne {
  private readonly desk = inject(TakeDesk);
  private readonly parts = inject(PartMusic);
  private readonly study = inject(TakeStudy);
  private readonly player = inject(TakePlayer);
  private readonly files = inject(MusicFiles);
  private readonly session = inject(SessionStore);

  readonly takeId = input.required<string>();
  readonly beside = output<string>();

  protected readonly view = signal<TakeView | null>(null);
  protected readonly music = signal<MusicOfPart | null>(null);
  protected readonly told = signal<ToldTake | null>(null);
  protected readonly marks = signal<TakeMarks>(NO_MARKS);
  protected readonly progress = signal<number | null>(null);
  protected readonly note = signal<string | null>(null);
  protected readonly trouble = signal<string | null>(null);
  private reading: Subscription | null = null;
  private saving: ReturnType<typeof setTimeout> | null = null;
  private sent: TakeMarks = NO_MARKS;

  protected readonly url = computed(() => this.desk.routes.soundPath(this.takeId()));
  protected readonly title = computed(() => {
    const view = this.view();
    return view ? `Take ${view.number}, ${view.part.workTitle}` : '';
  });
  protected readonly facts = computed(() => {
    const view = this.view();
    if (!view) return '';
    const { student, at, seconds, level } = view;
    const told = this.told();
    const first = told?.measures[0]?.number;
    const last = told?.measures.at(-1)?.number;
    return [
      student.name,
      momentText(Date.parse(at)),
      `${seconds.toFixed(1)} s`,
      ...(first !== undefined && last !== undefined
        ? [measuresText(first, last, this.session.vocabulary())]
        : []),
      ...(told ? [`${Math.round(told.sure * 100)} % of its notes followed surely`] : []),
      ...(level === 'good' ? [] : [`level ${level}`]),
    ].join(' · ');
  });
  /** Other takes of the same work, to be laid beside it. */
  protected readonly others = computed(() =>
    (this.desk.view()?.takes ?? []).filter(
      ({ id, programPartId, isWhole }) =>
        id !== this.takeId() && programPartId === this.view()?.programPartId && isWhole,
    ),
  );
  private readonly passages = computed((): readonly PassageView[] => {
    const music = this.music();
    if (!music) return [];
    return music.passages.filter((passage) =>
      indexesOf([passage]).some((index) => music.runs.length === 0 || inRuns(music.runs, index)),
    );
  });
  protected readonly slips = computed(
    () => new Set(this.marks().taps.flatMap(({ index }) => (index === null ? [] : [index]))),
  );
  protected readonly runText = computed(() => {
    const slips = this.slips().size;
    const what = slips === 0 ? 'No slip' : slips === 1 ? 'One slip' : `${slips} slips`;
    return `${what}: every passage of the part was played once in context.`;
  });
  protected readonly mayRun = computed(() => this.passages().length > 0);

  constructor() {
    effect(() => {
      const takeId = this.takeId();
      this.player.open(this.url());
      untracked(() => void this.open(takeId));
    });
    effect(() => this.keep(this.marks()));
    inject(DestroyRef).onDestroy(() => {
      this.stop();
      if (this.saving !== null) {
        clearTimeout(this.saving);
        this.send();
      }
    });
  }

  private async open(takeId: string): Promise<void> {
    this.stop();
    this.trouble.set(null);
    this.note.set(null);
    this.view.set(null);
    try {
      const view = await firstValueFrom(this.desk.routes.read(takeId));
      // Somebody may have gone on to another take meanwhile.
      if (takeId !== this.takeId()) return;
      this.take(view);
      const music = await this.parts.of(view.programPartId).catch(() => null);
      if (takeId !== this.takeId()) return;
      this.music.set(music);
      if (view.told === null && view.isWhole) await this.read(view, music);
    } catch (error) {
      if (takeId === this.takeId()) this.trouble.set(troubleOf(error).message);
    }
  }

  private take(view: TakeView): void {
    this.sent = view.marks;
    this.view.set(view);
    this.told.set(view.told);
    this.marks.set(view.marks);
  }

  /** Holds the take against its music, and keeps what it says. */
  private async read(view: TakeView, music: MusicOfPart | null): Promise<void> {
    this.progress.set(0);
    const file = music?.score ? await firstValueFrom(this.desk.routes.sound(view.id)) : new ArrayBuffer(0);
    const { withRepeats, asked, part } = view;
    this.reading = this.study
      .read({ sound: { file }, music, withRepeats, tempo: asked ?? part.target }, this.files)
      .subscribe((news) => {
        if ('progress' in news) {
          this.progress.set(news.progress);
          return;
        }
        this.progress.set(null);
        if ('failure' in news) this.note.set(news.failure);
        else {
          this.told.set(news.told);
          this.desk.routes.keepReading(view.id, news.told).subscribe({ error: () => undefined });
        }
      });
  }

  protected stop(): void {
    this.reading?.unsubscribe();
    this.reading = null;
    this.progress.set(null);
  }

  protected again(): void {
    const view = this.view();
    this.note.set(null);
    if (view) void this.read(view, this.music());
  }

  private keep(marks: TakeMarks): void {
    if (marks === this.sent || this.view() === null) return;
    if (this.saving !== null) clearTimeout(this.saving);
    this.saving = setTimeout(() => this.send(), PAUSE_MS);
  }

  private send(): void {
    this.saving = null;
    const [view, marks] = [this.view(), this.marks()];
    if (!view || marks === this.sent) return;
    this.sent = marks;
    this.desk.routes.mark(view.id, marks, view.marksVersion).subscribe({
      next: (fresh) => this.view.set(fresh),
      error: (error: unknown) => this.merge(error, marks),
    });
  }

  /** Somebody else marked it meanwhile: what both marked stands together. */
  private merge(error: unknown, own: TakeMarks): void {
    const current =
      error instanceof HttpErrorResponse
        ? (error.error as { readonly current?: TakeView } | null)?.current
        : undefined;
    if (!current) {
      this.trouble.set(troubleOf(error).message);
      return;
    }
    const { marks } = current;
    this.view.set(current);
    this.sent = marks;
    const known = new Set(marks.taps.map(({ seconds }) => seconds));
    this.marks.set({
      taps: [...marks.taps, ...own.taps.filter(({ seconds }) => !known.has(seconds))],
      fine: [...new Set([...marks.fine, ...own.fine])],
      downbeats: [...new Set([...marks.downbeats, ...own.downbeats])].sort((a, b) => a - b),
      beats: own.beats,
    });
  }

  /** The tempo that the take had, in the beats of a passage's target; else what was counted in, or the target itself. */
  private shareOf({ target }: RunPassage): number {
    const told = this.told();
    const taken = told && takenTempo(told);
    if (taken !== null) return taken / quarterBpm(target.bpm, target.beatUnit);
    const asked = this.view()?.asked;
    return asked ? convertBpm(asked.bpm, asked.beatUnit, target.beatUnit) / target.bpm : 1;
  }

  protected logRun(): void {
    const [view, first] = [this.view(), this.passages()[0]];
    if (!view || !first) return;
    const run = { slips: this.slips(), share: this.shareOf(first) };
    const reps: TakeRun['reps'] = runReps(this.passages(), run).map(({ passage, bpm, isClean }) => ({
      ...{ id: newId(), passageId: passage.id, bpm: bounded(bpm), beatUnit: passage.target.beatUnit },
      ...{ context: 'run', isClean, at: view.at },
    }));
    this.desk.routes.logRun(view.id, { reps }).subscribe({
      next: (fresh) => {
        this.view.set(fresh);
        void this.desk.load();
      },
      error: (error: unknown) => this.trouble.set(troubleOf(error).message),
    });
  }

  protected takeRunBack(): void {
    const view = this.view();
    if (!view) return;
    this.desk.routes.retractRun(view.id).subscribe({
      next: (fresh) => this.view.set(fresh),
      error: (error: unknown) => this.trouble.set(troubleOf(error).message),
    });
  }

  protected lay(event: Event): void {
    const { value } = event.target as HTMLSelectElement;
    if (value !== '') this.beside.emit(value);
  }
}

/** Tempos of reps lie between these (the contract). */
function bounded(bpm: Bpm): Bpm {
  return Math.min(400, Math.max(10, bpm));
}
