import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { InputNumber } from 'primeng/inputnumber';
import { measureWord } from '@vivid-cue/core/music';
import { ScoreApi } from '../../data/score-api';
import { SessionStore } from '../../data/session-store';
import { RoomStore } from '../room/room-store';

/** Counts measures otherwise than the file prints them: from a measure on, from a number on. */
@Component({
  selector: 'vc-numbering-form',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, FormsModule, InputNumber],
  template: `
    <details>
      <summary>{{ word() === 'measure' ? 'Measure' : 'Bar' }} numbers</summary>
      @if (index() === null) {
        <p class="soft small">Select one {{ word() }} to count anew from there.</p>
      } @else {
        <form (ngSubmit)="save()">
          <label for="new-number">This {{ word() }} is number</label>
          <p-inputnumber
            inputId="new-number"
            name="number"
            size="small"
            [useGrouping]="false"
            [min]="0"
            [max]="9000"
            [ngModel]="number() ?? printed()"
            (ngModelChange)="number.set($event)"
          />
          <p-button label="Count from here" type="submit" size="small" />
        </form>
      }
      @if (restarts().length) {
        <p class="small">
          Counted by you:
          @for (one of restarts(); track one.index; let last = $last) {
            from {{ one.number }} at the {{ one.place }}{{ last ? '.' : ',' }}
          }
          <p-button label="As printed again" size="small" [text]="true" (onClick)="send([])" />
        </p>
      }
    </details>
  `,
  styles: `
    details {
      margin-top: 18px;
      padding-top: 10px;
      border-top: 1px solid var(--rule);
    }
    summary {
      cursor: pointer;
    }
    form {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px;
      margin-top: 10px;
    }
    p-inputnumber {
      width: 84px;
    }
  `,
})
export class NumberingForm {
  private readonly api = inject(ScoreApi);
  private readonly room = inject(RoomStore);
  private readonly session = inject(SessionStore);

  /** The one selected measure. */
  readonly index = input<number | null>(null);
  protected readonly number = signal<number | null>(null);
  protected readonly word = computed(() => measureWord(1, this.session.vocabulary()));
  protected readonly printed = computed(() => {
    const number = this.room.room()?.score?.digest.measures[this.index() ?? -1]?.number ?? '';
    return /^\d+$/u.test(number) ? Number(number) : null;
  });
  protected readonly restarts = computed(() =>
    (this.room.room()?.numbering ?? []).map(({ index, number }) => ({
      index,
      number,
      place: ordinal(index + 1, this.word()),
    })),
  );

  protected save(): void {
    const [index, number] = [this.index(), this.number() ?? this.printed()];
    if (index === null || number === null) return;
    const others = (this.room.room()?.numbering ?? []).filter((one) => one.index !== index);
    this.send([...others, { index, number }].sort((a, b) => a.index - b.index));
  }

  protected send(restarts: { index: number; number: number }[]): void {
    const partId = this.room.room()?.programPartId;
    if (partId === undefined) return;
    this.number.set(null);
    this.room.run(this.api.setNumbering(partId, { restarts }), (room) => this.room.show(room));
  }
}

function ordinal(count: number, word: string): string {
  const rest = count % 100;
  const ending = rest > 10 && rest < 14 ? 'th' : (['th', 'st', 'nd', 'rd'][count % 10] ?? 'th');
  return `${count}${ending} ${word}`;
}
