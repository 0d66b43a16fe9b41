import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { STATE_WORDS, STATES } from '@vivid-cue/core/readiness';
import type { RibbonCell } from '@vivid-cue/contract';

/** A part in small: every measure as wide as it lasts, in the colour of its passage's state. */
@Component({
  selector: 'vc-mini-ribbon',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      [attr.viewBox]="'0 0 ' + total() + ' 10'"
      preserveAspectRatio="none"
      role="img"
      [attr.aria-label]="label()"
    >
      @for (cell of cells(); track cell.at) {
        <rect
          [attr.x]="cell.at"
          y="0"
          [attr.width]="cell.width"
          height="10"
          [attr.class]="'cell ' + cell.state"
        />
      }
    </svg>
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    svg {
      display: block;
      width: 100%;
      height: var(--bar, 14px);
    }
    .unopened {
      fill: var(--state-unopened);
    }
    .mapped {
      fill: var(--state-mapped);
    }
    .grounded {
      fill: var(--state-grounded);
    }
    .climbing {
      fill: var(--state-climbing);
    }
    .at-tempo {
      fill: var(--state-at-tempo);
    }
    .holding {
      fill: var(--state-holding);
    }
  `,
})
export class MiniRibbon {
  readonly ribbon = input.required<readonly RibbonCell[]>();

  protected readonly total = computed(() =>
    Math.max(
      0.001,
      this.ribbon().reduce((sum, [quarters]) => sum + quarters, 0),
    ),
  );
  protected readonly cells = computed(() => {
    let at = 0;
    // A gap of a twelfth of the average measure keeps neighbours apart.
    const gap = this.total() / Math.max(1, this.ribbon().length) / 12;
    return this.ribbon().map(([quarters, state]) => {
      const cell = { at, width: Math.max(0, quarters - gap), state };
      at += quarters;
      return cell;
    });
  });
  protected readonly label = computed(() => {
    const counts = STATES.map(
      (state) => [state, this.ribbon().filter((cell) => cell[1] === state).length] as const,
    );
    return counts
      .filter(([, count]) => count > 0)
      .map(([state, count]) => `${count} ${STATE_WORDS[state].toLowerCase()}`)
      .join(', ');
  });
}
