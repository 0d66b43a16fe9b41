import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import type { Subscription } from 'rxjs';
import { measureWord } from '@vivid-cue/core/music';
import { differenceTexts, differingNotes, type EditionDifference } from '@vivid-cue/core/reading';
import { SCORE_LIMITS, type NumberRestart } from '@vivid-cue/core/score';
import type { EngravedPart } from '../../data/engraver';
import { ScoreReaderClient, type EditionReading, type ReaderNews } from '../../data/score-reader';
import { SessionStore } from '../../data/session-store';
import { ProblemNote } from '../../ui/problem-note';
import { PairView, type PairSide } from '../engraving/pair-view';
import { ReadingStore } from './reading-store';
import { RoomWords } from '../room/room-words';

/** The score as it is kept, to be compared with another edition. */
export interface OwnEdition {
  readonly bytes: ArrayBuffer;
  readonly numbering: readonly NumberRestart[];
  readonly part: EngravedPart;
  readonly instrument: string;
}

/** Compares the score with another edition, measure by measure; the other file never leaves the device. */
@Component({
  selector: 'vc-edition-dialog',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, Dialog, FormsModule, PairView, ProblemNote],
  template: `
    <p-dialog
      closeAriaLabel="Close"
      header="Compare with another edition"
      [modal]="true"
      [draggable]="false"
      [visible]="true"
      (visibleChange)="leave()"
      [style]="{ width: '920px', maxWidth: '96vw' }"
    >
      <p class="soft">
        Choose the file of the other edition. It is read here and not sent anywhere; what differs is listed
        {{ word() }} by {{ word() }}.
      </p>
      <p class="choose">
        <input #file type="file" accept=".musicxml,.xml,.mxl,.abc" hidden (change)="choose(file)" />
        <p-button label="Choose the file" icon="pi pi-file" (onClick)="file.click()" />
        @if (isBusy()) {
          <span role="status">Comparing …</span>
          <p-button label="Stop" size="small" severity="secondary" (onClick)="stop()" />
        }
      </p>
      <vc-problem-note [message]="failure()" />
      @if (result(); as other) {
        <p role="status">
          <strong>{{ summary() }}</strong>
        </p>
        @if (sides(); as pair) {
          <vc-pair-view [a]="pair.a" [b]="pair.b" [sentence]="pair.sentence" (leave)="chosen.set(null)" />
        }
        <ul>
          @for (row of rows(); track $index) {
            <li>
              <button
                type="button"
                [class.is-chosen]="chosen() === $index"
                [disabled]="!row.canShow"
                (click)="chosen.set($index)"
              >
                <span class="mono">{{ row.where }}</span>
                <span>{{ row.sentence }}</span>
              </button>
            </li>
          }
        </ul>
      }
    </p-dialog>
  `,
  styles: `
    .choose {
      display: flex;
      gap: 12px;
      align-items: center;
    }
    ul {
      margin: 12px 0 0;
      padding: 0;
      border-top: 1px solid var(--rule);
      list-style: none;
    }
    li button {
      display: grid;
      grid-template-columns: 110px minmax(0, 1fr);
      gap: 12px;
      width: 100%;
      padding: 8px 6px;
      border: 0;
      border-bottom: 1px solid var(--rule);
      background: none;
      color: var(--ink);
      font: inherit;
      text-align: left;
      cursor: pointer;
    }
    li button:disabled {
      cursor: default;
    }
    li .is-chosen,
    li button:hover:enabled {
      background: var(--paper);
    }
  `,
})
export class EditionDialog {
  private readonly reader = inject(ScoreReaderClient);
  private readonly reading = inject(ReadingStore);
  private readonly session = inject(SessionStore);
  private readonly words = inject(RoomWords);

  readonly own = input.required<OwnEdition>();
  readonly closed = output<void>();

  protected readonly result = signal<EditionReading | null>(null);
  protected readonly failure = signal<string | null>(null);
  protected readonly isBusy = signal(false);
  protected readonly chosen = signal<number | null>(null);
  private running: Subscription | null = null;
  protected readonly word = computed(() => measureWord(1, this.session.vocabulary()));

  protected readonly summary = computed(() => {
    const result = this.result();
    const count = result?.differences.length ?? 0;
    if (count === 0) return 'The two editions agree in every note, length, sign and dynamic.';
    return `${count} ${this.word()}${count === 1 ? ' differs' : 's differ'}.`;
  });
  protected readonly rows = computed(() =>
    (this.result()?.differences ?? []).map((one) => ({
      where: this.whereText(one),
      sentence: this.sentenceOf(one),
      canShow: one.aIndex !== null && one.bIndex !== null,
    })),
  );
  protected readonly sides = computed((): { a: PairSide; b: PairSide; sentence: string } | null => {
    const result = this.result();
    const one = result?.differences[this.chosen() ?? -1];
    if (!result || !one || one.aIndex === null || one.bIndex === null) return null;
    const [aIndex, bIndex] = [one.aIndex, one.bIndex];
    const differing = differingNotes(one.differences);
    return {
      sentence: this.sentenceOf(one),
      a: {
        part: this.own().part,
        span: { fromIndex: aIndex, endIndex: aIndex + 1 },
        notes: differing.a.map((note) => ({ index: aIndex, note })),
        engraved: this.reading.result()?.engraved ?? [],
        label: `here, ${one.a ?? ''}`,
      },
      b: {
        part: { musicXml: result.musicXml, partId: result.partId, numbers: null },
        span: { fromIndex: bIndex, endIndex: bIndex + 1 },
        notes: differing.b.map((note) => ({ index: bIndex, note })),
        engraved: result.engraved,
        label: `the other, ${one.b ?? ''}`,
      },
    };
  });

  protected choose(input: HTMLInputElement): void {
    const file = input.files?.[0];
    input.value = '';
    if (!file) return;
    this.failure.set(null);
    this.result.set(null);
    this.chosen.set(null);
    if (file.size > SCORE_LIMITS.fileBytes) {
      this.failure.set('This file is larger than 10 MB; choose one with a single part.');
      return;
    }
    void file.arrayBuffer().then((other) => this.compare(other));
  }

  private compare(other: ArrayBuffer): void {
    const { bytes, numbering, part, instrument } = this.own();
    this.isBusy.set(true);
    this.running = this.reader
      .compare({ kind: 'compare', own: { bytes, partId: part.partId, numbering }, other, instrument })
      .subscribe({ next: (news) => this.hear(news), complete: () => this.isBusy.set(false) });
  }

  private hear(news: ReaderNews<EditionReading>): void {
    if ('failure' in news) this.failure.set(news.failure);
    if ('result' in news) this.result.set(news.result);
  }

  protected stop(): void {
    this.running?.unsubscribe();
    this.isBusy.set(false);
  }

  protected leave(): void {
    this.stop();
    this.closed.emit();
  }

  private whereText({ a, b }: EditionDifference): string {
    if (a === null) return `– ~ ${b ?? ''}`;
    if (b === null) return `${a} ~ –`;
    return a === b ? a : `${a} ~ ${b}`;
  }

  private sentenceOf({ a, b, differences }: EditionDifference): string {
    const text =
      a === null
        ? `Only the other edition has this ${this.word()}.`
        : b === null
          ? `The other edition leaves this ${this.word()} out.`
          : `In the other edition ${differenceTexts(differences).join('; ')}.`;
    return this.words.say(text);
  }
}
