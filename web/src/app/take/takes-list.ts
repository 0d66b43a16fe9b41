import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { inVocabulary } from '@vivid-cue/core/music';
import { levelWord } from '@vivid-cue/core/takes';
import type { TakeLine } from '@vivid-cue/contract';
import { SessionStore } from '../data/session-store';
import type { KeptRecording } from '../data/take-database';
import { StudioWords } from '../ui/studio-words';
import { clockText, dayText, momentText } from '../ui/texts';
import { UndoNotice } from '../ui/undo-notice';
import { pitchName } from './pitch-name';
import { RecordPanel } from './record-panel';
import { TakeDesk } from './take-desk';
import { TakeReview } from './take-review';

const MEGABYTE = 1024 * 1024;

/** The takes of one work, newest first. */
interface WorkGroup {
  readonly partId: string;
  readonly title: string;
  readonly takes: readonly TakeLine[];
}

/** A student's takes: record one, see what each says, choose two to lay beside each other. */
@Component({
  selector: 'vc-takes-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RecordPanel, StudioWords, TakeReview],
  templateUrl: './takes-list.html',
  styleUrls: ['../ui/plain-buttons.css', './takes-list.css'],
})
export class TakesList {
  protected readonly desk = inject(TakeDesk);
  private readonly undo = inject(UndoNotice);
  private readonly session = inject(SessionStore);

  /** The part that is recorded first. */
  readonly partId = input<string | null>(null);
  /** Whether the list is the student's own: others' takes are not dropped there. */
  readonly isDesk = input(false);
  readonly open = output<string>();
  readonly beside = output<readonly [before: string, after: string]>();

  readonly isRecording = signal(false);
  private readonly chosen = signal<readonly string[]>([]);

  protected readonly opened = computed(
    () => this.desk.recordings().find(({ id }) => id === this.desk.openId()) ?? null,
  );
  /** Recordings that nobody kept, as those that a closed page left behind. */
  protected readonly left = computed(() =>
    this.desk
      .recordings()
      .filter(({ id, frames }) => id !== this.desk.openId() && id !== this.desk.runningId() && frames > 0),
  );
  protected readonly waiting = computed(() => this.desk.outbox.waiting());
  protected readonly refused = computed(() => this.desk.outbox.refused());
  protected readonly groups = computed((): readonly WorkGroup[] => {
    const { takes = [] } = this.desk.view() ?? {};
    const partIds = [...new Set(takes.map(({ programPartId }) => programPartId))];
    return partIds.map((partId) => {
      const own = takes.filter(({ programPartId }) => programPartId === partId);
      return { partId, title: own[0]?.workTitle ?? '', takes: own };
    });
  });
  protected readonly tendencies = computed(() =>
    (this.desk.view()?.tendencies ?? []).slice(0, 6).map(({ midi, cents, off, takes }) => {
      return {
        note: pitchName(midi),
        text: `${Math.abs(cents)} cents ${cents < 0 ? 'low' : 'high'} in ${off} of ${takes} takes`,
      };
    }),
  );
  protected readonly room = computed(() => {
    const { used, most } = this.desk.view()?.room ?? { used: 0, most: 1 };
    const mb = (bytes: number): string => (bytes / MEGABYTE).toFixed(bytes < 10 * MEGABYTE ? 1 : 0);
    return { used: `${mb(used)} of ${mb(most)} MB`, isTight: used > most * 0.9 };
  });
  protected readonly pair = computed((): readonly [string, string] | null => {
    const takes = this.desk.view()?.takes ?? [];
    const own = takes.filter(({ id }) => this.chosen().includes(id)).sort((a, b) => a.number - b.number);
    const [before, after] = own;
    return before && after && own.length === 2 ? [before.id, after.id] : null;
  });

  protected isChosen(id: string): boolean {
    return this.chosen().includes(id);
  }

  /** Two are chosen at most, of one work: the first one makes room. */
  protected choose({ id, programPartId }: TakeLine): void {
    const takes = this.desk.view()?.takes ?? [];
    this.chosen.update((list) => {
      if (list.includes(id)) return list.filter((one) => one !== id);
      const same = list.filter(
        (one) => takes.find((take) => take.id === one)?.programPartId === programPartId,
      );
      return [...same.slice(-1), id];
    });
  }

  protected when({ at }: TakeLine): string {
    return momentText(Date.parse(at));
  }

  protected lengthOf({ seconds }: { readonly seconds: number }): string {
    return clockText(Math.round(seconds));
  }

  protected leftText({ frames, rate, atMs, peak }: KeptRecording): string {
    const seconds = frames / Math.max(1, rate);
    return `${this.lengthOf({ seconds })} of ${momentText(atMs)}, level ${levelWord(peak)}`;
  }

  protected keptText({ keptUntil }: TakeLine): string {
    return keptUntil === null ? '' : `kept until ${dayText(keptUntil)}`;
  }

  protected runText({ runSlips }: TakeLine): string {
    if (runSlips === null) return '';
    const { vocabulary } = this.session;
    if (runSlips === 0) return 'logged: a clean run';
    return inVocabulary(
      `logged: ${runSlips} ${runSlips === 1 ? 'measure' : 'measures'} slipped`,
      vocabulary(),
    );
  }

  protected mayDrop({ byStudent }: TakeLine): boolean {
    return !this.isDesk() || byStudent;
  }

  protected drop(take: TakeLine): void {
    const { routes } = this.desk;
    routes.remove(take.id).subscribe({
      next: () => {
        void this.desk.load();
        this.undo.offer({
          done: `Take ${take.number} dropped`,
          undone: `take ${take.number} is there again`,
          undo: () => routes.restore(take.id),
          back: () => void this.desk.load(),
        });
      },
      error: () => void this.desk.load(),
    });
  }
}
