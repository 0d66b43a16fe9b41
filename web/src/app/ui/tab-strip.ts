import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';

/** One tab. Shape: `count` null where there is nothing to count. */
export interface TabItem {
  readonly value: string;
  readonly label: string;
  readonly count: number | null;
}

/**
 * Tabs over a panel with the id "panel-" and the tab's value. The library's own tabs keep every key to themselves, and
 * with it the page's shortcuts; these take the arrow keys, Home and End only.
 * Source: WAI-ARIA Authoring Practices, tabs with automatic activation.
 */
@Component({
  selector: 'vc-tab-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div role="tablist" [attr.aria-label]="label()">
      @for (tab of tabs(); track tab.value; let n = $index) {
        <button
          type="button"
          role="tab"
          [id]="'tab-' + tab.value"
          [attr.aria-controls]="tab.value === active() ? 'panel-' + tab.value : null"
          [attr.aria-selected]="tab.value === active()"
          [tabindex]="tab.value === active() ? 0 : -1"
          (click)="open.emit(tab.value)"
          (keydown)="onKey($event, n)"
        >
          {{ tab.label }}
          @if (tab.count !== null) {
            <span class="count">{{ tab.count }}</span>
          }
        </button>
      }
    </div>
  `,
  styles: `
    div {
      display: flex;
      flex-wrap: wrap;
      gap: 0 18px;
      border-bottom: 2px solid var(--ink);
    }
    button {
      padding: 5px 0 7px;
      border: 0;
      background: none;
      color: var(--ink-soft);
      font: inherit;
      cursor: pointer;
    }
    button:hover {
      color: var(--ink);
    }
    [aria-selected='true'] {
      color: var(--ink);
      font-weight: 700;
    }
    .count {
      font-family: var(--font-mono);
      font-weight: 400;
    }
  `,
})
export class TabStrip {
  readonly tabs = input.required<readonly TabItem[]>();
  readonly active = input.required<string>();
  readonly label = input.required<string>();
  readonly open = output<string>();

  protected onKey(event: KeyboardEvent, at: number): void {
    const last = this.tabs().length - 1;
    const moves: Readonly<Record<string, number>> = {
      ArrowRight: at === last ? 0 : at + 1,
      ArrowLeft: at === 0 ? last : at - 1,
      Home: 0,
      End: last,
    };
    const to = moves[event.key];
    if (to === undefined) return;
    event.preventDefault();
    const strip = event.currentTarget instanceof HTMLElement ? event.currentTarget.parentElement : null;
    strip?.querySelectorAll<HTMLElement>('[role=tab]')[to]?.focus();
    this.open.emit(this.tabs()[to]?.value ?? '');
  }
}
