import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { Rung } from '@vivid-cue/core/climb';

/** The ladder of a passage, target on top; a rung can be chosen to play there next. */
@Component({
  selector: 'vc-ladder-view',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ol aria-label="Ladder, target first">
      @for (rung of rows(); track rung.index) {
        <li>
          <button
            type="button"
            [class.is-here]="rung.index === here()"
            [class.is-done]="rung.index < here() || isDone()"
            [attr.aria-current]="rung.index === here() ? 'step' : null"
            [attr.aria-label]="rung.label"
            (click)="choose.emit(rung.index)"
          >
            <span class="bar" aria-hidden="true"></span><span class="bpm">{{ rung.shown }}</span
            ><span class="percent">{{ rung.percentShown }}</span>
          </button>
        </li>
      }
    </ol>
  `,
  styles: `
    ol {
      margin: 0;
      padding: 0;
      list-style: none;
    }
    button {
      display: grid;
      grid-template-columns: 8px 44px 1fr;
      gap: 8px;
      align-items: center;
      width: 100%;
      min-height: 24px;
      padding: 1px 4px 1px 0;
      border: 0;
      border-radius: 3px;
      background: none;
      color: var(--ink-soft);
      font-family: var(--font-mono);
      font-size: 15px;
      text-align: left;
      cursor: pointer;
    }
    button:hover {
      background: var(--paper);
      color: var(--ink);
    }
    .bar {
      align-self: stretch;
      border-radius: 1px;
      background: var(--rule);
    }
    .is-done .bar {
      background: var(--primary);
    }
    .is-here .bar {
      background: var(--vivid);
    }
    .is-here {
      color: var(--ink);
      font-size: 18px;
      font-weight: 600;
    }
    .percent {
      font-size: 13px;
      font-weight: 400;
    }
  `,
})
export class LadderView {
  readonly rungs = input.required<readonly Rung[]>();
  readonly here = input.required<number>();
  readonly isDone = input(false);
  readonly choose = output<number>();

  protected readonly rows = computed(() =>
    [...this.rungs()].reverse().map((rung) => ({
      ...rung,
      shown: Math.round(rung.bpm),
      percentShown: `${Math.round(rung.percent)}%`,
      label: `${Math.round(rung.bpm)} beats a minute, ${Math.round(rung.percent)} percent of the target`,
    })),
  );
}
