import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { ReactiveFormsModule } from '@angular/forms';
import { InputText } from 'primeng/inputtext';
import { InstrumentList } from '../ui/instrument-list';
import type { IssueText } from './sheet-checks';
import type { SheetForm } from './sheet-form';

/** Who publishes the sheet, for which year, division and instruments. */
@Component({
  selector: 'vc-body-card',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [InputText, InstrumentList, ReactiveFormsModule],
  templateUrl: './body-card.html',
  styleUrls: ['./card.css', './body-card.css'],
})
export class BodyCard {
  /** The sheet's fields. */
  readonly sheet = input.required<SheetForm>();
  /** What is wrong with a field, by its path. */
  readonly issue = input.required<IssueText>();
}
