import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  model,
} from '@angular/core';
import type { SheetReading } from '@vivid-cue/core/sheet';
import { ownerOf, textPieces } from './text-pieces';

/** The published text with what was recognised underlined; pointing at a stretch lights what it became. */
@Component({
  selector: 'vc-sheet-text',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="text" tabindex="0" role="region" aria-label="Published text">
      @for (piece of pieces(); track piece.start) {
        @if (piece.about; as about) {
          <span
            class="known"
            [class.is-lit]="lit() !== '' && ownerOf(about) === lit()"
            [class.is-heading]="about === 'heading'"
            (mouseenter)="lit.set(ownerOf(about))"
            (mouseleave)="lit.set('')"
            >{{ piece.text }}</span
          >
        } @else if (piece.isUnread) {
          <span class="unread" title="Not recognised" tabindex="-1">{{ piece.text }}</span>
        } @else {
          <span>{{ piece.text }}</span>
        }
      }
    </div>
    <p class="legend small soft">
      <span class="known">In ink</span> what became part of the sheet, pale what did not;
      <span class="unread">marked</span> what was not recognised.
    </p>
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      gap: 8px;
      min-height: 0;
    }
    .text {
      overflow: auto;
      padding: 16px 18px;
      border: 1px solid var(--rule);
      border-radius: 6px;
      background: var(--sheet);
      font-size: 15px;
      line-height: 1.6;
      white-space: pre-wrap;
      overflow-wrap: anywhere;
    }
    .text {
      color: var(--ink-soft);
    }
    .known {
      color: var(--ink);
      font-weight: 600;
    }
    .known.is-heading {
      font-weight: 700;
    }
    .known.is-lit {
      background: color-mix(in srgb, var(--primary) 16%, var(--sheet));
    }
    .unread {
      text-decoration: underline dotted 2px var(--vivid);
      text-underline-offset: 4px;
    }
    .text .unread:focus {
      outline: 3px solid var(--focus);
      outline-offset: 2px;
    }
    .legend {
      margin: 0;
    }
  `,
})
export class SheetText {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private stepped = -1;

  /** What was read. */
  readonly reading = input.required<SheetReading>();
  /** The path of what is lit on both sides. */
  readonly lit = model('');

  protected readonly pieces = computed(() => textPieces(this.reading()));
  protected readonly ownerOf = ownerOf;

  /** Leads to the next phrase that became nothing, the first after the last. */
  step(): void {
    const unread = [...this.host.nativeElement.querySelectorAll<HTMLElement>('.text .unread')];
    this.stepped = (this.stepped + 1) % Math.max(1, unread.length);
    unread[this.stepped]?.focus();
  }
}
