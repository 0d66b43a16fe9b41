import { ChangeDetectionStrategy, Component, input, model } from '@angular/core';
import { StudioWords } from './studio-words';

/** A measure that may have slipped. Units: quarter notes */
export interface TappedMeasure {
  readonly index: number;
  readonly number: string;
  readonly quarters: number;
}

/** The measures of a run, to tap those that slipped. */
@Component({
  selector: 'vc-slip-taps',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [StudioWords],
  template: `
    <div class="measures" role="group" [attr.aria-label]="'Measures that slipped' | studioWords">
      @for (measure of measures(); track measure.index) {
        <button
          type="button"
          class="mono"
          [attr.aria-pressed]="slips().has(measure.index)"
          [style.flex-grow]="measure.quarters"
          (click)="turn(measure.index)"
        >
          {{ measure.number }}
        </button>
      }
    </div>
  `,
  styles: `
    .measures {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
    }
    button {
      min-width: 56px;
      min-height: var(--button-height, 52px);
      padding: 0 6px;
      border: 1px solid var(--rule-strong);
      border-radius: 4px;
      background: var(--sheet);
      color: var(--ink);
      font-size: var(--button-text, 19px);
      cursor: pointer;
    }
    [aria-pressed='true'] {
      border: 2px solid var(--stop);
      background: var(--stop-wash);
      color: var(--stop);
    }
  `,
})
export class SlipTaps {
  readonly measures = input.required<readonly TappedMeasure[]>();
  readonly slips = model<ReadonlySet<number>>(new Set());

  protected turn(index: number): void {
    const next = new Set(this.slips());
    if (!next.delete(index)) next.add(index);
    this.slips.set(next);
  }
}
