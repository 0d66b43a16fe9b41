import {
  ChangeDetectionStrategy,
  Component,
  effect,
  inject,
  Injectable,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { PartMusic, type MusicOfPart } from '../data/part-music';
import { BesideView } from '../take/beside-view';
import { TakeDesk } from '../take/take-desk';
import { TakesList } from '../take/takes-list';
import { TakeOne } from '../take/take-view';
import { DeskStore } from './desk-store';

/** The music of a part as the desk holds it, with and without a connection. */
@Injectable()
class DeskPartMusic extends PartMusic {
  private readonly store = inject(DeskStore);

  of(programPartId: string): Promise<MusicOfPart> {
    const view = this.store.view();
    const part = view?.parts.find(({ id }) => id === programPartId);
    const score = view?.scores.find(({ id }) => id === part?.scoreId) ?? null;
    const passages = this.store.passages().filter(({ scoreId }) => scoreId === part?.scoreId);
    return Promise.resolve({ score, runs: part?.runs ?? [], passages, looks: view?.studio.looks ?? [] });
  }
}

/** The student's own takes: recorded, listened to, laid beside each other. */
@Component({
  selector: 'vc-desk-takes',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [BesideView, TakeOne, TakesList],
  providers: [TakeDesk, { provide: PartMusic, useClass: DeskPartMusic }],
  template: `
    @if (beside(); as two) {
      <p><button type="button" (click)="beside.set(null)">Back to my takes</button></p>
      <vc-beside-view [beforeId]="two[0]" [afterId]="two[1]" />
    } @else if (open(); as takeId) {
      <p><button type="button" (click)="open.set(null)">Back to my takes</button></p>
      <vc-take-view [takeId]="takeId" (beside)="lay(takeId, $event)" />
    } @else {
      <div class="head">
        <h1>My takes</h1>
        <button type="button" class="main" (click)="record()">Record</button>
      </div>
      <p class="soft">
        Only you and your teacher hear them. Play it once through, then listen with the music.
      </p>
      <vc-takes-list
        [partId]="partId()"
        [isDesk]="true"
        (open)="open.set($event)"
        (beside)="beside.set($event)"
      />
    }
  `,
  styleUrl: './desk-buttons.css',
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      gap: 14px;
    }
    .head {
      display: flex;
      flex-wrap: wrap;
      gap: 12px;
      align-items: center;
      justify-content: space-between;
    }
    .main {
      border-color: var(--primary);
      background: var(--primary);
      color: var(--on-primary);
    }
    .soft {
      margin: 0;
      color: var(--ink-soft);
      font-size: 18px;
    }
  `,
})
export class DeskTakes {
  private readonly store = inject(DeskStore);
  private readonly takes = inject(TakeDesk);

  /** The part that somebody came from. */
  readonly partId = input<string | null>(null);

  protected readonly open = signal<string | null>(null);
  protected readonly beside = signal<readonly [string, string] | null>(null);
  private readonly list = viewChild(TakesList);

  constructor() {
    effect(() => {
      const student = this.store.view()?.student;
      if (student) this.takes.open({ door: 'desk', ownerId: student.id }, student.id);
    });
    effect(() => {
      if (this.partId() !== null) this.list()?.isRecording.set(true);
    });
  }

  protected record(): void {
    this.list()?.isRecording.set(true);
  }

  protected lay(takeId: string, other: string): void {
    this.beside.set(this.takes.inOrder(takeId, other));
  }
}
