import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { VerdictStatus } from '@vivid-cue/core/program';

const WORDS: Readonly<Record<VerdictStatus, string>> = {
  satisfied: 'satisfied',
  short: 'short',
  over: 'over',
  undecided: 'undecided',
  'left-out': 'left out',
};

/** How a choice stands to what is asked: a shape and a word. */
@Component({
  selector: 'vc-verdict-mark',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg viewBox="0 0 20 20" width="18" height="18" aria-hidden="true">
      @switch (status()) {
        @case ('satisfied') {
          <circle cx="10" cy="10" r="8" fill="currentColor" />
          <path d="M6 10.5l3 3 5.5-7" fill="none" class="cut" stroke-width="2.2" />
        }
        @case ('short') {
          <rect
            x="2"
            y="2"
            width="16"
            height="16"
            rx="3"
            fill="none"
            stroke="currentColor"
            stroke-width="2"
          />
          <rect x="4" y="11" width="12" height="5" fill="currentColor" />
        }
        @case ('over') {
          <rect x="2" y="6" width="16" height="12" rx="3" fill="currentColor" />
          <path d="M10 1v8M6.5 4.5L10 1l3.5 3.5" fill="none" stroke="currentColor" stroke-width="2" />
        }
        @case ('undecided') {
          <rect
            x="2"
            y="2"
            width="16"
            height="16"
            rx="3"
            fill="none"
            stroke="currentColor"
            stroke-width="2"
            stroke-dasharray="4 3"
          />
        }
        @default {
          <path d="M3 10h14" stroke="currentColor" stroke-width="2" />
        }
      }
    </svg>
    <span>{{ word() }}</span>
  `,
  host: { '[attr.data-status]': 'status()' },
  styles: `
    :host {
      display: inline-flex;
      gap: 8px;
      align-items: center;
      min-width: 108px;
      color: var(--ink-soft);
      font-weight: 600;
      white-space: nowrap;
    }
    :host([data-status='satisfied']) {
      color: var(--primary);
    }
    :host([data-status='short']),
    :host([data-status='over']) {
      color: var(--stop);
    }
    :host([data-status='undecided']) {
      color: var(--vivid-text);
    }
    .cut {
      stroke: var(--sheet);
    }
  `,
})
export class VerdictMark {
  /** The status to show. */
  readonly status = input.required<VerdictStatus>();
  protected readonly word = computed(() => WORDS[this.status()]);
}
