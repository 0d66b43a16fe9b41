import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { RibbonMeasure } from './ribbon-model';

/** A measure of the ribbon with its place and what stands over and in it. Units: shares of the whole, percent. */
export interface RibbonCell extends RibbonMeasure {
  readonly left: number;
  readonly width: number;
  readonly hasLabel: boolean;
  readonly name: string;
  readonly heat: number;
  readonly finding: 'open' | 'kept' | null;
  readonly text: string;
  readonly hasBreath: boolean;
  readonly hasCue: boolean;
}

/** So many cells are drawn together. */
export const CELLS_IN_GROUP = 48;

/** A stretch of the ribbon: it is drawn anew only when something in it changes, so that a thousand measures stay quick. */
@Component({
  selector: 'vc-ribbon-cells',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './ribbon-cells.html',
  styleUrl: './ribbon-cells.css',
})
export class RibbonCells {
  readonly cells = input.required<readonly RibbonCell[]>();
  /** Selected places within the group, half-open. */
  readonly selectedFrom = input.required<number>();
  readonly selectedEnd = input.required<number>();
  /** The place of the cursor within the group, -1 outside. */
  readonly cursor = input.required<number>();
}
