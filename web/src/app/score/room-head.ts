import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Button, ButtonDirective } from 'primeng/button';
import { Select } from 'primeng/select';
import { quarterBpm, secondsAt, tempoText } from '@vivid-cue/core/music';
import { spanQuarters } from '@vivid-cue/core/score';
import type { ScoreRoomView } from '@vivid-cue/contract';
import { SessionStore } from '../data/session-store';
import { daysText, secondsText } from '../ui/texts';

/** The head of the score room: what is played, by whom, when, and what can be done with the file. */
@Component({
  selector: 'vc-room-head',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, ButtonDirective, FormsModule, RouterLink, Select],
  template: `
    @let view = room();
    <div class="head">
      <h1>{{ view.workTitle || view.score?.digest?.title || view.partLabel }}</h1>
      <p class="soft facts">
        {{ facts() }}
        @if (facts()) {
          ·
        }
        <a [routerLink]="['/students', view.student.id]">{{ view.student.name }}</a>, {{ view.sheetTitle }}
        @if (view.daysLeft !== null) {
          in <strong class="days">{{ daysText(view.daysLeft) }}</strong>
        }
      </p>
      @if (view.score) {
        <div class="actions">
          @if (parts().length > 1) {
            <p-select
              [options]="parts()"
              optionLabel="name"
              optionValue="id"
              ariaLabel="Part of the score"
              [ngModel]="view.score.digest.partId"
              (ngModelChange)="choosePart.emit($event)"
            />
          }
          <p-button
            label="Start anywhere"
            icon="pi pi-directions"
            size="small"
            severity="secondary"
            [text]="true"
            (onClick)="anywhere.emit()"
          />
          <a
            pButton
            size="small"
            severity="secondary"
            [text]="true"
            [routerLink]="['/students', view.student.id, 'takes']"
            [queryParams]="{ part: view.programPartId }"
            ><i class="pi pi-microphone" aria-hidden="true"></i>Record</a
          >
          <ng-content />
          @if (!isTold()) {
            <p-button
              label="Compare editions"
              icon="pi pi-clone"
              size="small"
              severity="secondary"
              [text]="true"
              (onClick)="compare.emit()"
            />
          }
          <p-button
            [label]="isTold() ? 'Change the music' : 'Replace the score'"
            icon="pi pi-upload"
            size="small"
            severity="secondary"
            [text]="true"
            (onClick)="replace.emit()"
          />
        </div>
      }
    </div>
  `,
  styles: `
    .head {
      display: grid;
      grid-template-columns: minmax(0, 1fr) max-content;
      align-items: center;
      column-gap: 16px;
      margin-bottom: 8px;
    }
    .facts {
      grid-column: 1 / -1;
      margin: 0;
    }
    .days {
      color: var(--ink);
    }
    .actions {
      display: flex;
      flex-wrap: wrap;
      grid-row: 1;
      grid-column: 2;
      justify-content: flex-end;
    }
    @media (max-width: 720px) {
      .head {
        grid-template-columns: minmax(0, 1fr);
      }
      .actions {
        grid-row: auto;
        grid-column: 1;
        justify-content: flex-start;
      }
    }
  `,
})
export class RoomHead {
  private readonly session = inject(SessionStore);

  readonly room = input.required<ScoreRoomView>();
  /** Whether the music was told: there is no other edition to compare it with. */
  readonly isTold = input(false);
  readonly choosePart = output<string>();
  readonly anywhere = output<void>();
  readonly compare = output<void>();
  readonly replace = output<void>();

  protected readonly daysText = daysText;
  protected readonly parts = computed(() =>
    (this.room().score?.digest.parts ?? []).filter(({ noteCount }) => noteCount > 0),
  );
  protected readonly facts = computed(() => {
    const { score, runs, sourceText, askedText, target, tempoText: words } = this.room();
    if (!score) return '';
    const quarters = runs.reduce((sum, run) => sum + spanQuarters(score.digest.measures, run), 0);
    const bpm = target && quarterBpm(target.bpm, target.beatUnit);
    return [
      score.digest.instrument,
      sourceText,
      askedText || 'the whole piece',
      target ? tempoText(target.bpm, target.beatUnit) : words,
      bpm === null || quarters === 0 ? '' : secondsText(secondsAt(quarters, bpm)),
    ]
      .filter((text) => text !== '')
      .join(' · ');
  });
}
