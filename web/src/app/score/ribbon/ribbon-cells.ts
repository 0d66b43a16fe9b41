import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { inSpan } from '@vivid-cue/core/score';
import type { RibbonCell } from './ribbon-model';

/** A stretch of the ribbon: it is drawn anew only when something in it changes, so that a thousand measures stay quick. */
@Component({
  selector: 'vc-ribbon-cells',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './ribbon-cells.html',
  styleUrl: './ribbon-cells.css',
})
export class RibbonCells {
  readonly cells = input.required<readonly RibbonCell[]>();
  /** Selected measure indexes, half-open, cut at the group's edges. */
  readonly selectedFrom = input.required<number>();
  readonly selectedEnd = input.required<number>();
  /** The measure index of the cursor, -1 outside the group. */
  readonly cursor = input.required<number>();

  protected isSelected({ fromIndex, endIndex }: RibbonCell): boolean {
    return this.selectedFrom() < endIndex && fromIndex < this.selectedEnd();
  }

  protected hasCursor(cell: RibbonCell): boolean {
    return inSpan(cell, this.cursor());
  }
}
