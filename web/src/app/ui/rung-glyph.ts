import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { STATE_WORDS, STATES, type ReadinessState } from '@vivid-cue/core/readiness';

/** Readiness as five steps filled from the bottom, with the word beside it: never colour alone. */
@Component({
  selector: 'vc-rung-glyph',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="steps" aria-hidden="true">
      @for (step of steps(); track step.place) {
        <span class="step" [class.is-filled]="step.isFilled"></span>
      }
    </span>
    @if (hasWord()) {
      <span class="word">{{ word() }}</span>
    } @else {
      <span class="visually-hidden">{{ word() }}</span>
    }
  `,
  styles: `
    :host {
      display: inline-flex;
      align-items: center;
      gap: 9px;
      vertical-align: middle;
      white-space: nowrap;
    }
    .steps {
      display: inline-flex;
      flex-direction: column-reverse;
      gap: 2px;
      flex: none;
    }
    .step {
      width: 18px;
      height: 3px;
      border-radius: 1px;
      background: var(--rule);
    }
    .step.is-filled {
      background: var(--primary);
    }
  `,
  host: { '[attr.data-state]': 'state()' },
})
export class RungGlyph {
  readonly state = input.required<ReadinessState>();
  readonly hasWord = input(true);

  protected readonly word = computed(() => STATE_WORDS[this.state()]);
  protected readonly steps = computed(() => {
    const filled = STATES.indexOf(this.state());
    return [1, 2, 3, 4, 5].map((place) => ({ place, isFilled: place <= filled }));
  });
}
