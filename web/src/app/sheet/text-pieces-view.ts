import { ChangeDetectionStrategy, Component, input, model } from '@angular/core';
import { isLit, type TextPiece } from './text-pieces';

/** A few words of the published text: what became of them is told by their ink, and lit by the pointer. */
@Component({
  selector: 'vc-text-pieces',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `@for (piece of pieces(); track piece.start) {
    @if (piece.key; as key) {
      <span
        class="known"
        [attr.data-start]="piece.start"
        [class.is-lit]="isLit(key, lit())"
        (mouseenter)="lit.set(key)"
        (mouseleave)="lit.set('')"
        [attr.data-key]="key"
        >{{ piece.text }}</span
      >
    } @else if (piece.isUnread) {
      <span class="unread" [attr.data-start]="piece.start" title="Not recognised" tabindex="-1">{{
        piece.text
      }}</span>
    } @else {
      <span [attr.data-start]="piece.start">{{ piece.text }}</span>
    }
  }`,
  styleUrl: './text-ink.css',
  // Words stand side by side as they are printed.
  preserveWhitespaces: false,
  styles: ':host { display: contents; }',
})
export class TextPiecesView {
  /** The words, in order. */
  readonly pieces = input.required<readonly TextPiece[]>();
  /** What is lit on both sides. */
  readonly lit = model('');

  protected readonly isLit = isLit;
}
