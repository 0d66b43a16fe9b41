import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';

const counted = (n: number, one: string): string => `${n} ${one}${n === 1 ? '' : 's'}`;

/** How much of a reading is left to look at; each count steps to the next place. */
@Component({
  selector: 'vc-desk-counts',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p>
      <span>{{ counted(parts(), 'part') }}</span>
      @if (questions(); as left) {
        <button type="button" class="in-text" (click)="nextQuestion.emit()">
          {{ counted(left, 'question') }}
        </button>
      } @else {
        <span class="soft">no question open</span>
      }
      @if (unread(); as left) {
        <button type="button" class="in-text" (click)="nextUnread.emit()">
          {{ counted(left, 'phrase') }} unread
        </button>
      } @else if (isRead()) {
        <span class="soft">every phrase read</span>
      }
      @if (kept(); as text) {
        <span class="soft small">{{ text }}</span>
      }
    </p>
  `,
  styles: `
    p {
      display: flex;
      flex-wrap: wrap;
      gap: 6px 16px;
      align-items: center;
      margin: 0 0 14px;
    }
    span:first-child {
      font-weight: 700;
    }
    button {
      min-height: 24px;
    }
  `,
})
export class DeskCounts {
  /** Parts on the sheet. */
  readonly parts = input.required<number>();
  /** Open questions. */
  readonly questions = input.required<number>();
  /** Phrases of the published text that became nothing. */
  readonly unread = input.required<number>();
  /** Whether there is a published text. */
  readonly isRead = input.required<boolean>();
  /** That what stands here is kept, in words. */
  readonly kept = input<string | null>(null);
  /** Asks for the next open question. */
  readonly nextQuestion = output();
  /** Asks for the next phrase that became nothing. */
  readonly nextUnread = output();

  protected readonly counted = counted;
}
