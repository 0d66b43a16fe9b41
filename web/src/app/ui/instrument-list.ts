import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { INSTRUMENTS } from './instruments.data';

/** The instruments that a field offers while one is typed: `list` of the field names it by `listId`. */
@Component({
  selector: 'vc-instrument-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <datalist [id]="listId()">
      @for (instrument of instruments; track instrument) {
        <option [value]="instrument"></option>
      }
    </datalist>
  `,
})
export class InstrumentList {
  readonly listId = input.required<string>();
  protected readonly instruments = INSTRUMENTS;
}
